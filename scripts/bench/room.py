"""Layout of every station at every size: text that is cut off, text in pictures that is too small or large, and what
jumps while it loads.
"""

from __future__ import annotations

from collections.abc import Iterator

import httpx

from bench.felt import STATIONS
from bench.painted import page_of
from bench.target import Measured

SIZES = ((820, 1180), (1180, 820), (1280, 800), (1920, 1080))
MIN_PX, LARGER, MAX_SHIFT = 12.0, 1.25, 0.02
"""Limits for the text of a picture compared with the page's text, and for how much may jump."""
LOADED_MS = 1500

SHIFTED = """() => {
  window.shifted = 0;
  const told = (list) => list.getEntries().forEach((e) => { if (!e.hadRecentInput) window.shifted += e.value; });
  new PerformanceObserver(told).observe({ type: 'layout-shift', buffered: true });
}"""

CUT = """() => [...document.querySelectorAll('header *, nav *, main *')].filter((n) => {
  const own = [...n.childNodes].some((c) => c.nodeType === 3 && c.textContent.trim());
  const looks = getComputedStyle(n), place = n.getBoundingClientRect();
  if (!own || !n.offsetParent || place.width <= 1) return false;  // said, not shown
  const clipped = looks.overflowX !== 'visible' && n.scrollWidth > n.clientWidth + 1;
  return clipped || place.right > innerWidth + 1 || place.left < -1;
}).map((n) => n.textContent.trim().slice(0, 30))"""

ODD = """([least, larger]) => {
  const most = larger * Number.parseFloat(getComputedStyle(document.documentElement).fontSize);
  return [...document.querySelectorAll('main svg text')].filter((n) => {
    if (!n.getClientRects().length || !/\\p{L}{2}/u.test(n.textContent)) return false;
    const pixels = Number.parseFloat(getComputedStyle(n).fontSize) * n.getScreenCTM().d;
    return pixels < least - 0.05 || pixels > most;
  }).map((n) => n.textContent.trim().slice(0, 30));
}"""


def room(client: httpx.Client, address: str, lesson: int) -> Iterator[Measured]:
    """Check every station of a lesson at every size, loaded anew each time."""
    wrong: dict[str, list[str]] = {}
    shifts: dict[str, float] = {}
    with page_of(client, address) as page:
        page.add_init_script(f"({SHIFTED})()")
        for width, height in SIZES:
            page.set_viewport_size({"width": width, "height": height})
            for station in STATIONS:
                view = f"{station} at {width}×{height}"
                page.goto(f"/lessons/{lesson}/{station}")
                page.get_by_label("Balls", exact=True).wait_for()
                page.wait_for_timeout(LOADED_MS)
                shifts[view] = page.evaluate("() => window.shifted")
                if words := [*page.evaluate(CUT), *page.evaluate(ODD, [MIN_PX, LARGER])]:
                    wrong[view] = words
    views = len(shifts)
    result = "; ".join(f"{view}: {', '.join(words[:3])}" for view, words in wrong.items())
    yield Measured(
        what="stations and sizes without cut words or words of a picture out of size",
        figure=f"{views - len(wrong)} of {views}" + (f" ({result})" if result else ""),
        wanted=f"{views} of {views}",
        met=not wrong,
    )
    worst = max(shifts, key=lambda view: shifts[view])
    yield Measured(
        what="layout shift while a station is loaded, the most",
        figure=f"{shifts[worst]:.3f} ({worst})",
        wanted=f"≤ {MAX_SHIFT}",
        met=shifts[worst] <= MAX_SHIFT,
    )
