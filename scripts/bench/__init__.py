"""`./instavis bench`: every target of the product, measured here and now."""
