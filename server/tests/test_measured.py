"""Marks by belts, mats and cameras: from recording to mark, gate, slope and claim."""

from __future__ import annotations

import numpy as np
import pytest
from django.test import Client

from instavis.assessment.recordings.models import Recording
from instavis.capture.devices.services import issue_device
from instavis.capture.shots.models import Shot
from instavis.corrections.measured.models import PivotReading
from instavis.lessons.models import LessonEvent
from instavis_core.simulate.recording import record_swing
from instavis_core.terms import Movement

from .conftest import FAULT, Caller, in_sequence, monitor_in, put_baseline

MADE = [Movement.DONE, Movement.DONE, Movement.MISSED, Movement.DONE, Movement.PARTLY, Movement.MISSED] * 2
CLEAN = 12
"""Of the baseline's fourteen balls, two are mishits."""
LEFT = {None: 1.0, Movement.DONE: 0.15, Movement.PARTLY: 0.575, Movement.MISSED: 1.0}
"""Of the fault, by what the golfer did."""


class Bay:
    """A lesson's bay with a monitor and a motion belt, and the golfer in it."""

    def __init__(self, api: Caller, bay, balls) -> None:
        self.api, self.lesson, self.balls = api, bay.lesson, balls
        self.monitor, self.caller, self.rng = monitor_in(bay), Caller(Client()), np.random.default_rng(7)
        _, self.token = issue_device(bay, "Belt")
        self.sent = 0

    def swing(self, shot: Shot, made: Movement | None) -> None:
        """Send what the belt saw of a ball."""
        recorded = record_swing({FAULT: 0.95 * LEFT[made]}, self.rng, ("thrust_cm", "lift_cm", "arm_turn_deg"))
        series = {"time_s": recorded.time, **recorded.columns}
        result = {"device_sequence": self.sent, "shot_id": shot.shot_id}
        result["series"] = {name: np.round(values, 3).tolist() for name, values in series.items()}
        self.sent += 1
        receipt = self.caller(
            "post", "/device/v1/recordings", {"recordings": [result]}, Authorization=f"Bearer {self.token}"
        )
        assert receipt["stored"] == 1, receipt

    def record_baseline(self) -> None:
        """The swings behind the baseline's balls."""
        for shot in self.lesson.shots.filter(block__purpose="baseline"):
            self.swing(shot, None)

    def prove(self, made=MADE, start: int = 500) -> list[Shot]:
        """Hit balls under the correction, each with its swing; nobody marks any."""
        records = [
            {k: v for k, v in r.items() if k != "movement"} for r in self.balls(len(made), FAULT, 82, marks=made)
        ]
        known = set(self.lesson.shots.values_list("pk", flat=True))
        self.monitor(in_sequence(records, start))
        shots = list(self.lesson.shots.exclude(pk__in=known).order_by("number"))
        for shot, one in zip(shots, made, strict=True):
            self.swing(shot, one)
        return [Shot.objects.get(pk=s.pk) for s in shots]

    def proof(self) -> dict:
        """What the screen is told."""
        return self.api("get", f"/v1/lessons/{self.lesson.pk}/proof")


def take_bar_stool(api: Caller, lesson) -> None:
    """Take early extension with the drill whose mark is the thrust at halfway down."""
    api("put", f"/v1/lessons/{lesson.pk}/conditions", {"conditions": {"aim": "stick"}})
    fault, _, variant = FAULT.partition("/")
    body = {"fault": fault, "variant": variant, "drill": "bar-stool", "stage": "full"}
    api("post", f"/v1/lessons/{lesson.pk}/corrections", body, 201)


@pytest.fixture
def measured(api, bay, balls):
    """A bay whose lesson has a measured baseline and early extension under proof, with a drill that a belt sees."""
    made = Bay(api, bay, balls)
    put_baseline(api, bay.lesson, balls)
    made.record_baseline()
    take_bar_stool(api, bay.lesson)
    return made


def right(shots: list[Shot], made) -> int:
    """How many balls are marked as they were; hardly any may be marked the other way round."""
    opposite = {Movement.DONE: Movement.MISSED, Movement.MISSED: Movement.DONE}
    assert sum(s.movement == opposite.get(m) for s, m in zip(shots, made, strict=True)) <= 1
    return sum(s.movement == m for s, m in zip(shots, made, strict=True))


def test_belt_marks_a_lesson_without_keys(measured):
    shots = measured.prove(MADE * 2)
    assert right(shots, MADE * 2) >= 15
    assert {s.mark_basis for s in shots} == {"measured"}
    assert not any(s.covered for s in shots)
    proof = measured.proof()["proof"]
    assert proof["marks"] == {"blind": 0, "seen": 0, "measured": 24, "unmarked": 0}
    pivot = proof["pivot"]
    result = pivot["gate"]
    assert (result["series"], result["at"], result["balls"]) == ("thrust_cm", "halfway-down", CLEAN)
    low, high = result["gate"]
    assert low < high < result["partly"] <= result["band"][0]
    assert pivot["slope"]["balls"] >= 20
    assert pivot["slope"]["low"] > 0
    assert "Thrust −2 cm: club path" in pivot["slope"]["sentence"].replace("-", "−")
    assert proof["link"]["tested"]
    assert proof["status"] == "verified"


def test_missed_move_is_marked_missed_whatever_the_ball_does(measured):
    better = [Movement.DONE] * 8
    records = [{k: v for k, v in r.items() if k != "movement"} for r in measured.balls(8, FAULT, 82, marks=better)]
    measured.monitor(in_sequence(records, 600))
    shots = list(measured.lesson.shots.filter(block__purpose="prove"))
    for shot in shots:
        measured.swing(shot, Movement.MISSED)
    assert right([Shot.objects.get(pk=s.pk) for s in shots], [Movement.MISSED] * 8) >= 7
    proof = measured.proof()["proof"]
    assert proof["status"] in ("compensated", "not-yet", "supported")
    assert proof["verified_at"] is None


def test_coach_overrules_and_both_marks_are_kept(measured, api):
    shot = measured.prove([Movement.DONE, Movement.MISSED, Movement.DONE])[0]
    api("patch", f"/v1/shots/{shot.pk}", {"movement": "missed", "mark_basis": "blind"})
    result = measured.proof()["proof"]
    assert result["pivot"]["balls"][0]["mark"] == "done"
    assert result["verdicts"][0]["moved"] is False
    assert result["pivot"]["agreement"] == {"both": 1, "same": 0}
    # Taken back, the belt's mark is there again; what it says later takes no mark of the coach's away.
    assert api("patch", f"/v1/shots/{shot.pk}", {"movement": ""})["movement"] == "done"
    api("patch", f"/v1/shots/{shot.pk}", {"movement": "missed"})
    measured.swing(shot, Movement.DONE)
    assert Shot.objects.get(pk=shot.pk).movement == "missed"


def test_mark_made_before_the_belt_is_kept(measured, api):
    records = measured.balls(1, FAULT, 82, marks=["done"])
    measured.monitor(in_sequence([{k: v for k, v in records[0].items() if k != "movement"}], 700))
    shot = measured.lesson.shots.order_by("-number").first()
    assert api("patch", f"/v1/shots/{shot.pk}", {"movement": "done", "mark_basis": "blind"})["mark_basis"] == "blind"
    measured.swing(shot, Movement.MISSED)
    assert Shot.objects.get(pk=shot.pk).mark_basis == "blind"
    assert measured.proof()["proof"]["pivot"]["balls"][-1]["mark"] == "missed"


def test_discarding_a_recording_removes_its_mark(measured, api):
    shot = measured.prove([Movement.DONE])[0]
    assert shot.movement == "done"
    recording = Recording.objects.get(shot=shot)
    api("patch", f"/v1/recordings/{recording.pk}", {"dropped": True})
    unmarked = Shot.objects.get(pk=shot.pk)
    assert (unmarked.movement, unmarked.covered) == ("", True)
    assert not PivotReading.objects.filter(shot=shot).exists()
    api("patch", f"/v1/recordings/{recording.pk}", {"dropped": False})
    assert Shot.objects.get(pk=shot.pk).movement == "done"


def test_without_measured_baseline_the_gate_comes_from_the_table(api, bay, balls):
    here = Bay(api, bay, balls)
    put_baseline(api, bay.lesson, balls)
    take_bar_stool(api, bay.lesson)
    shots = here.prove()
    assert here.proof()["proof"]["pivot"]["gate"]["balls"] == 0
    assert right(shots, MADE) >= 8
    # The baseline's swings come late, and the gate becomes the student's own.
    here.record_baseline()
    assert here.proof()["proof"]["pivot"]["gate"]["balls"] == CLEAN


def test_screens_get_the_mark_once_without_event_gaps(measured):
    shot = measured.prove([Movement.DONE])[0]
    result = LessonEvent.objects.filter(lesson=measured.lesson, kind="ball", data__id=shot.pk)
    assert [e.data.get("marked") for e in result.order_by("cursor")] == [None, ["movement"]]
    cursors = list(
        LessonEvent.objects.filter(lesson=measured.lesson).order_by("cursor").values_list("cursor", flat=True)
    )
    assert cursors == list(range(1, len(cursors) + 1))


def test_moved_gate_keeps_measured_values(measured, api):
    measured.prove()
    before = measured.proof()
    gate = {k: [v[0] - 1, v[1]] for k, v in before["correction"]["gate"].items()}
    api("patch", f"/v1/corrections/{before['correction']['id']}", {"gate": gate})
    measured.prove(MADE[:3], 800)
    after = measured.proof()
    assert after["correction"]["id"] != before["correction"]["id"]
    assert after["proof"]["pivot"]["gate"]["balls"] == CLEAN
    assert after["proof"]["marks"]["measured"] == 3
