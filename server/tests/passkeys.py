"""A software security key, written after the published standard and without the server's library."""

from __future__ import annotations

import base64
import hashlib
import json
import secrets
import struct

from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.hashes import SHA256
from fido2 import cbor

PRESENT, VERIFIED, WITH_KEY = 0x01, 0x04, 0x40


def url_safe(data: bytes) -> str:
    return base64.urlsafe_b64encode(data).decode().rstrip("=")


class SecurityKey:
    """One passkey, once ``make`` was called with what a server asks for."""

    def __init__(self, host: str = "testserver", origin: str = "http://testserver") -> None:
        self.host, self.origin = host, origin
        self.key = ec.generate_private_key(ec.SECP256R1())
        self.id = secrets.token_bytes(16)
        self.user = ""

    def make(self, options: dict) -> dict:
        asked = options["publicKey"]
        self.user = asked["user"]["id"]
        place = self.key.public_key().public_numbers()
        cose = {1: 2, 3: -7, -1: 1, -2: place.x.to_bytes(32, "big"), -3: place.y.to_bytes(32, "big")}
        known = bytes(16) + struct.pack(">H", len(self.id)) + self.id + cbor.encode(cose)
        result = {"fmt": "none", "attStmt": {}, "authData": self._data(PRESENT | VERIFIED | WITH_KEY) + known}
        response = {
            "clientDataJSON": url_safe(self._client("webauthn.create", asked["challenge"])),
            "attestationObject": url_safe(cbor.encode(result)),
        }
        return self._credential(response, {"credProps": {"rk": True}})

    def show(self, options: dict, flags: int = PRESENT | VERIFIED) -> dict:
        data, client = self._data(flags), self._client("webauthn.get", options["publicKey"]["challenge"])
        signature = self.key.sign(data + hashlib.sha256(client).digest(), ec.ECDSA(SHA256()))
        response = {
            "clientDataJSON": url_safe(client),
            "authenticatorData": url_safe(data),
            "signature": url_safe(signature),
            "userHandle": self.user,
        }
        return self._credential(response, {})

    def _credential(self, response: dict, extensions: dict) -> dict:
        name = url_safe(self.id)
        result = {"id": name, "rawId": name, "type": "public-key", "response": response}
        return {**result, "clientExtensionResults": extensions}

    def _data(self, flags: int) -> bytes:
        return hashlib.sha256(self.host.encode()).digest() + struct.pack(">BI", flags, 0)

    def _client(self, kind: str, challenge: str) -> bytes:
        return json.dumps({"type": kind, "challenge": challenge, "origin": self.origin}).encode()
