"""Tables from elsewhere: imported with a mapping that the coach confirms."""
