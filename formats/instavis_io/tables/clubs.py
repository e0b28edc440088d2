"""Club names as people write them."""

from __future__ import annotations

import re

from instavis_core.knowledge import vocabulary

WEDGES = {
    "pitching": "PW",
    "pw": "PW",
    "p": "PW",
    "gap": "GW",
    "gw": "GW",
    "aw": "GW",
    "approach": "GW",
    "sand": "SW",
    "sw": "SW",
    "lob": "LW",
    "lw": "LW",
}
KINDS = {
    "iron": "i",
    "i": "i",
    "eisen": "i",
    "fer": "i",
    "hierro": "i",
    "ferro": "i",
    "ijzer": "i",
    "järn": "i",
    "wood": "w",
    "w": "w",
    "holz": "w",
    "bois": "w",
    "madera": "w",
    "legno": "w",
    "hout": "w",
    "trä": "w",
    "hybrid": "h",
    "h": "h",
    "hybride": "h",
    "híbrido": "h",
    "ibrido": "h",
    "rescue": "h",
}
DRIVERS = {"driver", "d", "dr", "1w", "drv"}
LOFTS = ((43, "9i"), (48, "PW"), (53, "GW"), (58, "SW"), (90, "LW"))  # up to this loft [°]


def read_club_name(text: str) -> str | None:
    """Return the id of a club from a name such as ``7 Iron``, ``Eisen 7``, ``4-hybrid``, ``Sand wedge`` or ``56°``."""
    clubs = vocabulary().clubs
    if text in clubs:
        return text
    words = re.findall(r"[^\W\d_]+|\d+(?:[.,]\d+)?", text.lower())
    if not words:
        return None
    if words[0] in DRIVERS or "".join(words) in DRIVERS:
        return "D"
    numbers = [w for w in words if w[0].isdigit()]
    kinds = [KINDS[w] for w in words if w in KINDS]
    if numbers and kinds:
        club = f"{int(float(numbers[0].replace(',', '.')))}{kinds[0]}"
        return club if club in clubs else None
    for word in words:
        if word in WEDGES:
            return WEDGES[word]
    if numbers and ("°" in text or "wedge" in words or "deg" in words):
        loft = float(numbers[0].replace(",", "."))
        return next((club for most, club in LOFTS if loft <= most), None)
    return None
