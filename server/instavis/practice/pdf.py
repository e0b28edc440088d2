"""The take-home page as a tagged PDF (PDF/UA-1), made from the same page the screen shows."""

from __future__ import annotations

from collections.abc import Iterable
from urllib.parse import quote

from django.conf import settings
from django.template.loader import render_to_string
from PIL import ImageFile
from weasyprint import HTML
from weasyprint.urls import URLFetcher

from instavis.platform.language import language, spoken
from instavis.practice.selectors import TakeHomePage
from instavis_core.errors import InputError
from instavis_core.figure import DrillPicture, drill_picture
from instavis_core.figure.pictures import Segment
from instavis_core.knowledge import vocabulary
from instavis_core.message import plain

# The printer lets half a picture pass, for the whole process; a still that is not whole must be refused.
ImageFile.LOAD_TRUNCATED_IMAGES = False

INK, SOFT, STRAW, RULE = "#1e2a32", "#55606a", "#e3b23c", "#cdc6b6"
FONT = "assets/atkinson-hyperlegible-next-latin-wght-normal-*.woff2"
HEAD_CM = 10.5


def take_home_pdf(page: TakeHomePage) -> bytes:
    """The page as PDF; nothing but the application's own typeface and figure is read while it is made."""
    font = next(settings.WEB.glob(FONT), None)
    told = {
        "page": page,
        "language": language(),
        "figure": _figure(page),
        "font": font.as_uri() if font else "",
        "paused": spoken(vocabulary().words["region"].get(page.paused_for, plain(page.paused_for)).lower()),
    }
    html = render_to_string("practice/take_home.html", told)
    fetcher = URLFetcher(allowed_protocols=["data", "file"], allow_redirects=False)
    return HTML(string=html, url_fetcher=fetcher).write_pdf(pdf_variant="pdf/ua-1")


def _figure(page: TakeHomePage) -> str:
    """The drill's picture as the address of an image; empty for a drill that is not drawn."""
    if page.drill is None:
        return ""
    try:
        picture = drill_picture(page.drill, page.hand)
    except InputError:
        return ""  # a drill of the academy's own
    return "data:image/svg+xml," + quote(_svg(picture))


def _svg(picture: DrillPicture) -> str:
    """The picture in centimetres, up positive, as the screens draw it."""

    def lines(segments: Iterable[Segment], colour: str, width: float) -> str:
        path = "".join(f"M{100 * a:.1f} {-100 * b:.1f}L{100 * c:.1f} {-100 * d:.1f}" for (a, b), (c, d) in segments)
        return f'<path d="{path}" fill="none" stroke="{colour}" stroke-width="{width}" stroke-linecap="round"/>'

    x, y = picture.head
    return "".join(
        (
            '<svg xmlns="http://www.w3.org/2000/svg" viewBox="-88 -196 176 204" width="176" height="204">',
            f'<path d="M-88 2H88" stroke="{RULE}" stroke-width="1.5"/>',
            lines(picture.prop, STRAW, 6),
            lines([picture.shaft], SOFT, 2) if picture.shaft else "",
            lines(picture.bones, INK, 6.5),
            f'<circle cx="{100 * x:.1f}" cy="{-100 * y:.1f}" r="{HEAD_CM}" fill="{INK}"/></svg>',
        )
    )
