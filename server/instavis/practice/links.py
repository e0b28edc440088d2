"""Links of take-home pages: random and signed, so that a guess is refused before any query."""

from __future__ import annotations

import secrets

from django.core.signing import BadSignature, Signer

SIGNER = Signer(salt="take-home link", sep=".")


def new_token() -> str:
    """Return 256 random bits with our signature."""
    return SIGNER.sign(secrets.token_urlsafe(32))


def is_ours(token: str) -> bool:
    """Return True if the signature is ours."""
    try:
        SIGNER.unsign(token)
    except BadSignature:
        return False
    return True
