"""Measure on pictures with a few clicked landmarks."""

from instavis_core.stills.measure import Clicked, Measured, Scale, measure_still, read_clicks, read_scale

__all__ = ["Clicked", "Measured", "Scale", "measure_still", "read_clicks", "read_scale"]
