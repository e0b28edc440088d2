"""The REST API: one router for each noun, one shape of errors."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

from instavis.accounts.access import coaches
from instavis.accounts.account_api import router as account
from instavis.accounts.api import router as accounts
from instavis.accounts.once import once
from instavis.accounts.people_api import link_router
from instavis.accounts.people_api import router as people
from instavis.accounts.session_api import router as session
from instavis.archives.api import router as archives
from instavis.assessment.cameras.api import router as cameras
from instavis.assessment.clips.api import router as clips
from instavis.assessment.eyes.api import router as eyes
from instavis.assessment.films.api import router as films
from instavis.assessment.findings.api import router as findings
from instavis.assessment.findings.ask_api import router as asking
from instavis.assessment.knowledge_api import router as knowledge_preview
from instavis.assessment.recordings.api import device_router as device_recordings
from instavis.assessment.recordings.api import router as recordings
from instavis.assessment.stills.api import router as stills
from instavis.capture.bridges.api import device_router as device_rows
from instavis.capture.bridges.api import router as bridges
from instavis.capture.devices.api import bays_router as bays
from instavis.capture.devices.api import device_router as device
from instavis.capture.files.api import router as files
from instavis.capture.shots.api import router as shots
from instavis.corrections.api import router as corrections
from instavis.corrections.proofs.api import router as proofs
from instavis.corrections.trials.api import router as trials
from instavis.display.lessons.api import router as lessons
from instavis.display.lessons.live_api import router as live
from instavis.display.lessons.roster import router as roster
from instavis.display.screens.api import router as screens
from instavis.knowledge.api import router as knowledge
from instavis.platform import errors
from instavis.platform.reading import BodyParser
from instavis.practice.api import router as practice
from instavis.practice.home_api import router as home
from instavis.reports.api import router as records
from instavis.training.api import router as training

EVERYWHERE: dict[str | int, str] = {
    "4XX": "Refused, and why: nobody signed in, not for this role, not here, too large, too often, a wrong value",
    503: "Something is away, or too much is asked at once: nothing was kept, ask again",
}
"""Answers that any operation may give, all in the one shape of errors."""


class Interface(NinjaAPI):
    """Ninja's API class, whose description also lists the errors that any operation may give."""

    def get_openapi_schema(self, *args: Any, **kwargs: Any) -> OpenAPISchema:
        """Return the description of all operations."""
        schema = super().get_openapi_schema(*args, **kwargs)
        shape = {"application/json": {"schema": {"$ref": "#/components/schemas/Problems"}}}
        for operations in schema["paths"].values():
            for operation in operations.values():
                result = operation["responses"]
                for status, text in EVERYWHERE.items():
                    result.setdefault(status, {"description": text, "content": shape})
        return schema


api = Interface(title="Instavis", version="1", auth=coaches, docs_url=None, openapi_url=None, parser=BodyParser())
errors.install(api)
api.add_decorator(once, mode="view")

api.add_router("/v1/session", session, tags=["session"])
api.add_router("/v1/session", account, tags=["session"])
api.add_router("/v1", accounts, tags=["people"])
api.add_router("/v1", people, tags=["people"])
api.add_router("/v1", link_router, tags=["people"])
api.add_router("/v1", lessons, tags=["lessons"])
api.add_router("/v1", live, tags=["lessons"])
api.add_router("/v1", roster, tags=["people"])
api.add_router("/v1", shots, tags=["shots"])
api.add_router("/v1", files, tags=["files"])
api.add_router("/v1", asking, tags=["ask"])
api.add_router("/v1", findings, tags=["findings"])
api.add_router("/v1", knowledge, tags=["knowledge"])
api.add_router("/v1", knowledge_preview, tags=["knowledge"])
api.add_router("/v1", recordings, tags=["recordings"])
api.add_router("/v1", stills, tags=["stills"])
api.add_router("/v1", films, tags=["films"])
api.add_router("/v1", clips, tags=["recordings"])
api.add_router("/v1", cameras, tags=["cameras"])
api.add_router("/v1", eyes, tags=["findings"])
api.add_router("/v1", corrections, tags=["corrections"])
api.add_router("/v1", proofs, tags=["proofs"])
api.add_router("/v1", trials, tags=["trials"])
api.add_router("/v1", screens, tags=["screens"])
api.add_router("/v1", practice, tags=["practice"])
api.add_router("/v1", home, tags=["home"])
api.add_router("/v1", records, tags=["records"])
api.add_router("/v1", archives, tags=["archives"])
api.add_router("/v1", training, tags=["lessons"])
api.add_router("/v1", bays, tags=["bays"])
api.add_router("/v1", bridges, tags=["bays"])
api.add_router("/device/v1", device, tags=["device"])
api.add_router("/device/v1", device_recordings, tags=["device"])
api.add_router("/device/v1", device_rows, tags=["device"])
