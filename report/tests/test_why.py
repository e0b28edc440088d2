"""The explanation of a ball guesses no fault, names causes outside the body first, and says what speaks against."""

from __future__ import annotations

import pytest

from instavis_core.cause import CauseRow, Evidence, NextCheck, Ranking
from instavis_core.message import plain
from instavis_report import why_of
from instavis_report.catalog import english


def row(label: str, probability: float, evidence=()) -> CauseRow:
    key = label.lower().replace(" ", "-")
    return CauseRow(
        id=key,
        label=label,
        kind="fault",
        moment="impact",
        happens=f"{label} happens.",
        variant=None,
        variants={},
        probability=probability,
        word="",
        severity=0.8,
        evidence=list(evidence),
        numbers_alone=None,
        looks_alone=None,
    )


def ranking(faults, others=(), enough=True) -> Ranking:
    check = NextCheck(
        id="seat-line",
        label="Seat line",
        question="Does the seat stay?",
        view="DTL",
        moment="impact",
        gain_bits=0.4,
        bits_per_second=0.02,
    )
    rows = [r if isinstance(r, CauseRow) else row(*r) for r in faults]
    return Ranking(
        faults=rows,
        partners=[row("Open face", 0.6)],
        compensations=[row(*o) for o in others],
        chain=[],
        next_checks=[check],
        would_change=None,
        enough=enough,
        unexplained=0.1,
        clean_balls=12,
        signs_in_doubt=False,
        notes=[],
    )


@pytest.mark.parametrize(
    ("probability", "words"),
    [(0.95, "almost certain"), (0.8, "likely, not certain"), (0.5, "possible, and we keep checking")],
)
def test_wording_never_exceeds_the_probability(probability, words):
    result = why_of(ranking([("Hip stall", probability)]))
    assert result.named
    assert words in english(result.sentence)


def test_no_fault_is_named_below_the_threshold():
    result = why_of(ranking([("Hip stall", 0.39)], enough=False))
    assert (result.named, result.fault, result.reasons) == (False, None, [])
    assert result.sentence == "cause-not-settled-yet-several-things"
    assert result.next_check == "Does the seat stay?"
    assert not why_of(ranking([])).named


@pytest.mark.parametrize("about", [None, "hip-stall"])
def test_other_leading_cause_blames_no_fault(about):
    """On every page: the one the student keeps says nothing else than the board's."""
    result = why_of(ranking([("Hip stall", 0.75)], [("Struck off the middle", 0.8)]), about)
    assert not result.named
    assert english(result.sentence) == "Probably not the way the body moves. Struck off the middle happens."
    assert why_of(ranking([("Hip stall", 0.85)], [("Struck off the middle", 0.8)]), about).named


def test_explanation_uses_the_corrections_fault():
    result = why_of(ranking([("Hip stall", 0.8), ("Hang back", 0.5)]), "hang-back")
    assert result.fault == "hang-back"
    assert english(result.sentence).startswith("Hang back.")
    assert "Hip stall is possible as well" in english(result.sentence)
    assert why_of(ranking([("Hip stall", 0.8)]), "open-face").fault == "open-face"
    assert not why_of(ranking([("Hip stall", 0.8)]), "gone-from-the-table").named


def test_reasons_are_the_strongest_for_and_against():
    evidence = [
        Evidence(kind="metric", id="a", log_odds=2.0, text=plain("Path 4° in-to-out")),
        Evidence(kind="check", id="b", log_odds=-1.5, text=plain("Seat line: on line")),
        Evidence(kind="chain", id="c", log_odds=0.4, text=plain("Fits with its chain")),
        *(Evidence(kind="metric", id=str(i), log_odds=0.3, text=plain(f"Reason {i}")) for i in range(5)),
    ]
    result = why_of(ranking([row("Hip stall", 0.8, evidence)]))
    assert [english(reason) for reason in result.reasons] == [
        "Path 4° in-to-out.",
        "Reason 0.",
        "Reason 1.",
        "Reason 2.",
        "Evidence against: seat line: on line.",
    ]
