"""What a coach does with the keyboard alone."""

from __future__ import annotations

from playwright.sync_api import Page, expect


def tab_to(page: Page, role: str, name: str, limit: int = 80) -> None:
    """Press Tab until a control has the focus: what cannot be reached by keyboard fails here."""
    target = page.get_by_role(role, name=name, exact=True).first
    target.wait_for()
    for _ in range(limit):
        if target.evaluate("node => node === document.activeElement"):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"{role} {name!r} was not reached by Tab")


def choose(page: Page, name: str, limit: int = 80) -> None:
    """Come to a group of choices by Tab, and to one of them by its arrows."""
    target = page.get_by_role("radio", name=name, exact=True)
    target.wait_for()
    group = "node => node.closest('[role=radiogroup]').contains(document.activeElement)"
    for _ in range(limit):
        if target.evaluate("node => node === document.activeElement"):
            page.keyboard.press("Space")
            return
        page.keyboard.press("ArrowRight" if target.evaluate(group) else "Tab")
    raise AssertionError(f"choice {name!r} was not reached")


def answer(page: Page, question: str, name: str, limit: int = 80) -> None:
    """Answer a question that is asked once; it disappears."""
    group = page.get_by_role("group", name=question)
    target = group.get_by_role("button", name=name, exact=True)
    target.wait_for()
    for _ in range(limit):
        if target.evaluate("node => node === document.activeElement"):
            break
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(group).to_have_count(0)


def press(page: Page, role: str, name: str, key: str = "Enter") -> None:
    tab_to(page, role, name)
    page.keyboard.press(key)


def station(page: Page, number: int) -> None:
    page.keyboard.press(f"Alt+Digit{number}")
