"""A ball in the API."""

from __future__ import annotations

from datetime import datetime

from ninja import Schema


class ShotOut(Schema):
    """A stored ball, device frame, internal units, with the purpose of its block.

    ``covered`` is true while its numbers are hidden because the movement is not marked yet.
    """

    id: int
    number: int
    block_id: int | None
    purpose: str = ""
    correction_id: int | None = None
    shot_id: str
    at: datetime | None
    received_at: datetime
    club: str
    hand: str
    club_speed_mps: float | None
    path_deg: float | None
    face_deg: float | None
    attack_deg: float | None
    dynamic_loft_deg: float | None
    strike_toe_mm: float | None
    strike_high_mm: float | None
    ball_speed_mps: float | None
    launch_angle_deg: float | None
    launch_direction_deg: float | None
    spin_rpm: float | None
    spin_axis_deg: float | None
    carry_m: float | None
    side_m: float | None
    apex_m: float | None
    turf: str
    movement: str
    mark_basis: str
    covered: bool = False
    stage: str
    intent: str
    note: str
    set_aside: str
