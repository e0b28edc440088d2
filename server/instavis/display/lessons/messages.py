"""What a lesson's screens are told, over the socket or asked for: one shape for both, and for the browser's types."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from instavis.capture.shots.schemas import ShotOut
from instavis.corrections.proofs.api import ProofOut
from instavis.lessons.events import Aspect


class BallTold(ShotOut):
    """A ball as it is now; ``marked`` names what a coach has just said of it, and is missing for a new one."""

    marked: list[str] | None = None


class BallMessage(Schema):
    """A ball came, or was marked."""

    cursor: int
    kind: Literal["ball"]
    data: BallTold


class Changed(Schema):
    """What of the lesson is another now."""

    changed: Aspect


class ChangeMessage(Schema):
    """Something else of the lesson changed: a screen that shows it asks again."""

    cursor: int | None = None
    kind: Literal["lesson"]
    data: Changed


class ProofMessage(Schema):
    """The proof after the newest balls; it is worked out anew and stands in no log."""

    kind: Literal["proof"]
    data: ProofOut


class ResyncMessage(Schema):
    """The log does not join on to the screen: it asks for everything anew and goes on from here."""

    kind: Literal["resync"]
    cursor: int


Message = Annotated[BallMessage | ChangeMessage | ProofMessage | ResyncMessage, Field(discriminator="kind")]


class Missed(Schema):
    """What a screen missed, in order, and the proof as it stands; ``resync`` when its cursor is ahead of the log."""

    events: list[Annotated[BallMessage | ChangeMessage, Field(discriminator="kind")]]
    proof: ProofMessage
    resync: ResyncMessage | None = None
