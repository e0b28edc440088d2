"""Impact of club and ball: launch from delivery, delivery from launch, and the causes of the curve."""

from instavis_core.impact.budget import CurveBudget, StartBudget, curve_budget, start_budget
from instavis_core.impact.collision import Delivery, Launch, launch_of, spin_loft
from instavis_core.impact.compression import CompressionLadder, compression_ladder
from instavis_core.impact.edges import contact_of
from instavis_core.impact.inverse import InferredDelivery, infer_delivery

__all__ = [
    "CompressionLadder",
    "CurveBudget",
    "Delivery",
    "InferredDelivery",
    "Launch",
    "StartBudget",
    "compression_ladder",
    "contact_of",
    "curve_budget",
    "infer_delivery",
    "launch_of",
    "spin_loft",
    "start_budget",
]
