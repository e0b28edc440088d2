"""Foreign tables: imported with a mapping that the coach confirms."""
