"""When a ball is painted on the tape of a real browser."""

from __future__ import annotations

import contextlib
import shutil
from collections.abc import Iterator
from typing import TYPE_CHECKING

import httpx

if TYPE_CHECKING:
    from playwright.sync_api import Page

CHROMIUM = shutil.which("chromium-headless-shell") or "/usr/bin/chromium"
"""Debian's headless browser, if installed: it takes half the processor time."""

WATCH = """
(word) => {
  window.painted = {};
  const look = () => {
    for (const button of document.querySelectorAll('[data-ball]')) {
      const words = button.querySelector('.sr-only')?.textContent ?? '';
      const ball = words.match(/^Ball (\\d+)/)?.[1];
      if (!ball || window.painted[ball] || !words.includes(word)) continue;
      window.painted[ball] = 1;
      const now = () => performance.timeOrigin + performance.now();
      // A message sent from the frame's own callback is answered right after the frame is painted.
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => { window.painted[ball] = now(); };
        channel.port2.postMessage(0);
      });
    }
  };
  look();
  window.known = Object.keys(window.painted);
  new MutationObserver(look).observe(document.body, { subtree: true, childList: true, characterData: true });
}
"""
"""Runs in a page with a word: records when a ball whose name contains it is painted, one frame after it appears."""

PAINTED = "() => Object.fromEntries(Object.entries(window.painted).filter(([k]) => !window.known.includes(k)))"
"""Runs in the page: returns the balls painted since, by number, and when [ms since the epoch]."""


@contextlib.contextmanager
def page_of(client: httpx.Client, address: str) -> Iterator[Page]:
    """Return a page of a browser in which the client is signed in."""
    from playwright.sync_api import sync_playwright

    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM)
        state = state_of(client, address)
        context = browser.new_context(base_url=address, storage_state=state, viewport={"width": 1280, "height": 800})
        yield context.new_page()
        browser.close()


def state_of(client: httpx.Client, address: str) -> dict:
    """Return a signed-in client's cookies for a browser."""
    cookies = [{"name": k, "value": v, "url": address} for k, v in client.cookies.items()]
    return {"cookies": cookies, "origins": []}
