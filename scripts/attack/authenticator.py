"""What an authenticator app shows."""

from __future__ import annotations

import base64
import hashlib
import hmac
import struct
import time

STEP = 30


def code_of(secret: str, at: float | None = None) -> str:
    """Return the six digits of a secret (base32) now, or at a time [s] (RFC 6238)."""
    step = struct.pack(">Q", int((at or time.time()) // STEP))
    digest = hmac.new(base64.b32decode(secret), step, hashlib.sha1).digest()
    start = digest[-1] & 15
    return f"{(struct.unpack('>I', digest[start : start + 4])[0] & 0x7FFFFFFF) % 10**6:06}"
