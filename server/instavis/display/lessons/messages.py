"""Messages to a lesson's screens, in one form for sockets and requests, and for the browser's types."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from instavis.capture.shots.schemas import ShotOut
from instavis.corrections.proofs.api import ProofOut
from instavis.lessons.events import Aspect


class BallState(ShotOut):
    """The current state of a ball; ``marked`` names the fields that a coach has just marked, and is missing for a new
    ball.
    """

    marked: list[str] | None = None


class BallMessage(Schema):
    """A new or marked ball."""

    cursor: int
    kind: Literal["ball"]
    data: BallState


class Changed(Schema):
    """What changed in the lesson."""

    changed: Aspect


class ChangeMessage(Schema):
    """Something else in the lesson changed; screens that show it fetch it again."""

    cursor: int | None = None
    kind: Literal["lesson"]
    data: Changed


class ProofMessage(Schema):
    """The proof after the newest balls; it is computed and not in the log."""

    kind: Literal["proof"]
    data: ProofOut


class ResyncMessage(Schema):
    """The log does not continue the screen's state: fetch everything and continue from here."""

    kind: Literal["resync"]
    cursor: int


Message = Annotated[BallMessage | ChangeMessage | ProofMessage | ResyncMessage, Field(discriminator="kind")]


class Missed(Schema):
    """What a screen missed, in order, and the current proof; ``resync`` if its cursor is ahead of the log."""

    events: list[Annotated[BallMessage | ChangeMessage, Field(discriminator="kind")]]
    proof: ProofMessage
    resync: ResyncMessage | None = None
