"""`./instavis bench`: every performance target of the product, measured here and now."""
