"""Tables from elsewhere: brought in by a mapping that the coach confirms."""
