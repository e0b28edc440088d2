"""Balls: store, mark, import and export."""
