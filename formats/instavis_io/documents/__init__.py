"""The open documents of the command line: one dict in, one dict out (`docs/formats.md`)."""

from instavis_io.documents.verbs import VERBS, answer_of

__all__ = ["VERBS", "answer_of"]
