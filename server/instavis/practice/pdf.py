"""The take-home page as a tagged PDF (PDF/UA-1), made from the same page the screen shows."""

from __future__ import annotations

from base64 import b64encode
from collections.abc import Mapping
from urllib.parse import quote

from django.conf import settings
from django.template.loader import render_to_string
from PIL import ImageFile

from instavis.platform.language import language, spoken
from instavis.practice.selectors import TakeHomePage
from instavis_core.errors import InputError
from instavis_core.figure import DrillPicture, Ink, Stroke, drill_picture
from instavis_core.knowledge import vocabulary
from instavis_core.message import plain

COLOURS = {Ink.BODY: "#1e2a32", Ink.SHAFT: "#55606a", Ink.MARK: "#e3b23c", Ink.GROUND: "#cdc6b6"}
FONT = "assets/atkinson-hyperlegible-next-latin-wght-normal-*.woff2"


def take_home_pdf(page: TakeHomePage, stills: Mapping[str, bytes]) -> bytes:
    """Return the page as PDF with the pictures (``stills``) of its pair.

    Only the application's own typeface and figure are read.
    """
    font = next(settings.WEB.glob(FONT), None)
    result = {
        "page": page,
        "language": language(),
        "figure": _figure(page),
        "font": font.as_uri() if font else "",
        "stills": {side: "data:image/jpeg;base64," + b64encode(image).decode() for side, image in stills.items()},
        "paused": spoken(vocabulary().words["region"].get(page.paused_for, plain(page.paused_for)).lower()),
    }
    html = render_to_string("practice/take_home.html", result)
    return _printed(html)


def _printed(html: str) -> bytes:
    # The printer takes a second to load, so it is loaded only for printing.
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher

    # It accepts truncated pictures for the whole process; a truncated still must be refused.
    ImageFile.LOAD_TRUNCATED_IMAGES = False
    fetcher = URLFetcher(allowed_protocols=["data", "file"], allow_redirects=False)
    printed: bytes = HTML(string=html, url_fetcher=fetcher).write_pdf(pdf_variant="pdf/ua-1")
    return printed


def _figure(page: TakeHomePage) -> str:
    """Return the drill's picture as an image address; empty for a drill without one."""
    if page.drill is None:
        return ""
    try:
        picture = drill_picture(page.drill, page.hand)
    except InputError:
        return ""  # an academy's own drill
    return "data:image/svg+xml," + quote(_svg(picture))


def _svg(picture: DrillPicture) -> str:
    """Return the picture's strokes in centimeters, up positive."""
    left, bottom, right, top = (100 * side for side in picture.sheet)
    box = f"{left:.0f} {-top:.0f} {right - left:.0f} {top - bottom:.0f}"
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}">{"".join(map(_path, picture.strokes))}</svg>'


def _path(stroke: Stroke) -> str:
    d = "".join(f"M{100 * a:.1f} {-100 * b:.1f}L{100 * c:.1f} {-100 * d:.1f}" for (a, b), (c, d) in stroke.lines)
    return f'<path d="{d}" stroke="{COLOURS[stroke.ink]}" stroke-width="{stroke.width}" stroke-linecap="round"/>'
