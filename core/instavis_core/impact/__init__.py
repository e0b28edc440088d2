"""Club meets ball: launch from delivery, delivery from launch, and what made the curve."""

from instavis_core.impact.budget import CurveBudget, curve_budget
from instavis_core.impact.collision import Delivery, Launch, launch_of, spin_loft
from instavis_core.impact.inverse import InferredDelivery, infer_delivery

__all__ = [
    "CurveBudget",
    "Delivery",
    "InferredDelivery",
    "Launch",
    "curve_budget",
    "infer_delivery",
    "launch_of",
    "spin_loft",
]
