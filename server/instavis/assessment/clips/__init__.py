"""Still pictures of a moment and what was clicked on them."""
