"""The knowledge tables load, are consistent, and bad data is refused with its place."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from importlib import resources

import pytest

from instavis_core.cause import rank_causes
from instavis_core.choice.candidates import rank_candidates
from instavis_core.knowledge import KnowledgeError
from instavis_core.knowledge.loader import changed_knowledge, load_knowledge_from, shipped_knowledge, stored_knowledge

SHIPPED = shipped_knowledge()

FOLDER = resources.files("instavis_core.knowledge") / "data"


def with_change(file: str, old: str, new: str):
    def read(name: str) -> str:
        text = (FOLDER / name).read_text(encoding="utf-8")
        if name != file:
            return text
        assert old in text
        return text.replace(old, new, 1)

    return read


def test_counts_match_the_open_vocabulary(knowledge):
    assert len({c.id for c in knowledge.of_kind("fault")}) == 19
    assert len(knowledge.of_kind("fault")) == 20
    assert len(knowledge.of_kind("partner")) == 5
    assert len(knowledge.checks) == 32
    assert len(knowledge.vocabulary.clubs) == 25


def test_every_fault_has_a_drill_and_a_check(knowledge):
    drilled = {f for d in knowledge.drills.values() for f in d.faults}
    looked = {f for c in knowledge.checks.values() for speaks in c.speaks.values() for f in speaks}
    for cause in knowledge.of_kind("fault"):
        assert cause.id in drilled
        assert cause.id in looked


def test_drills_name_known_stages_regions_schools_and_cautions(knowledge):
    for drill in knowledge.drills.values():
        assert set(drill.stages) <= set(knowledge.vocabulary.stages)
        assert set(drill.regions) <= set(knowledge.vocabulary.words["region"])
        assert set(drill.cautions) <= set(knowledge.vocabulary.cautions)
        assert set(drill.kit) <= set(knowledge.vocabulary.words["kit"])
        question, _, side = drill.school.partition(":")
        assert not question or side in [s.id for s in knowledge.vocabulary.schools[question].sides]


def test_probability_words_cover_everything(knowledge):
    assert knowledge.vocabulary.probability_word(0.0) == "unlikely"
    assert knowledge.vocabulary.probability_word(0.70) == "likely"
    assert knowledge.vocabulary.probability_word(1.0) == "very likely"


@pytest.mark.parametrize(
    ("file", "old", "new", "place"),
    [
        ("faults.toml", "path_deg = -3, face_deg = -1", "path_degs = -3, face_deg = -1", "path_degs"),
        ("faults.toml", "prior = 0.08", "prior = 1.5", "prior"),
        ("faults.toml", 'moment = "address"', 'momentum = "address"', "momentum"),
        ("faults.toml", 'label = "Pelvis set to the trail side"\n', "", "label"),
        ("checks.toml", "trailward = { pelvis-set-trailward = 2 }", "trailward = { pelvis-set = 2 }", "pelvis-set"),
        (
            "checks.toml",
            "trailward = { pelvis-set-trailward = 2 }",
            "sideways = { pelvis-set-trailward = 2 }",
            "sideways",
        ),
        ("checks.toml", "trailward = { pelvis-set-trailward = 2 }", "trailward = { pelvis-set-trailward = 7 }", "7"),
        ("chain.toml", 'from = "sitting-back"', 'from = "sitting"', "sitting"),
        ("drills.toml", '"no-through-extension"', '"no-such-fault"', "no-such-fault"),
        ("clubs.toml", "loft = 10.5", 'loft = "ten"', "loft"),
        ("words.toml", "[verdict]", "[verdict", "words.toml"),
    ],
)
def test_bad_data_is_refused_with_its_place(file, old, new, place):
    with pytest.raises(KnowledgeError) as caught:
        load_knowledge_from(with_change(file, old, new))
    assert place in str(caught.value)
    assert file in str(caught.value)
    assert "line" in str(caught.value)


OWN_CHECK = {
    "label": "Trail heel at impact",
    "question": "Is the trail heel still down as the ball leaves?",
    "moment": "impact",
    "view": "down-the-line",
    "seconds": 10,
    "grades": ["coming-up", "still-down"],
    "speaks": {"still-down": {"hip-stall": 2}},
}


def test_changes_do_not_modify_the_shipped_tables():
    changes = {"fault": {"hip-stall": {"label": "Pelvis stops", "prior": 0.2}}, "check": {"own-trail-heel": OWN_CHECK}}
    changed = changed_knowledge(changes)
    assert changed.causes["hip-stall"].label == "Pelvis stops"
    assert changed.checks["own-trail-heel"].grades == ("coming-up", "still-down")
    assert shipped_knowledge().causes["hip-stall"].label != "Pelvis stops"
    assert "own-trail-heel" not in shipped_knowledge().checks


def test_own_check_counts_only_in_its_version(hit):
    balls = hit("hip-stall", 3, 12)

    def chance(knowledge, place) -> float:
        return next(f.probability for f in rank_causes(knowledge, balls, checks=place).faults if f.id == "hip-stall")

    own = changed_knowledge({"check": {"own-trail-heel": OWN_CHECK}})
    plain = chance(SHIPPED, {})
    assert chance(own, {"own-trail-heel": "still-down"}) > plain
    asked = rank_causes(own, balls, checks={"own-trail-heel": "coming-up"}).next_checks
    assert "own-trail-heel" not in [c.id for c in asked]
    # Two academies at once: what one holds does not touch the other.
    with ThreadPoolExecutor(2) as pool:
        both = list(pool.map(lambda k: chance(k, {}), [own, SHIPPED] * 4))
    assert both == pytest.approx([chance(own, {}), plain] * 4, abs=1e-12)


OWN_DRILL = {
    "name": "Slow gate",
    "faults": ["hip-stall"],
    "school": "",
    "object": "a gate of two tees",
    "kit": ["rod"],
    "setup": "Set two tees a club head apart.",
    "cue": "Turn through the gate.",
    "mark": "The belt faces the target.",
    "fake": "Only the arms pass.",
    "wanted": "A short straight ball.",
    "ugly": "Pulls at first.",
    "matchups": [],
    "regions": ["hip"],
    "stages": ["rehearse", "half"],
    "home": True,
    "cautions": ["rods"],
}
UNKNOWN = {"school": "opening:never", "kit": ["ladder"], "regions": ["elbow"], "stages": ["jump"], "cautions": ["fire"]}


@pytest.mark.parametrize(("field", "value"), UNKNOWN.items())
def test_own_drill_with_unknown_reference_is_refused_by_name(field, value):
    with pytest.raises(KnowledgeError) as caught:
        changed_knowledge({"drill": {"own-gate": OWN_DRILL | {field: value}}})
    unknown = value if isinstance(value, str) else value[0]
    assert caught.value.field == f"own-gate.{field}"
    assert caught.value.why.startswith(f"is {unknown!r}, expected one of ")


def test_own_drill_with_anything_but_texts_in_a_list_is_refused():
    with pytest.raises(KnowledgeError, match="own-gate.kit: is .* expected a list of texts"):
        changed_knowledge({"drill": {"own-gate": OWN_DRILL | {"kit": [{"id": "rod"}]}}})


def test_own_drill_stored_with_unknown_references_still_ranks(hit):
    balls = hit("hip-stall", 3, 12)
    stored = stored_knowledge({"drill": {"own-gate": OWN_DRILL | UNKNOWN | {"kit": ["rod", "ladder"]}}})
    candidates = rank_candidates(stored, rank_causes(stored, balls), balls)
    drills = {choice.drill.id: choice.drill for one in candidates for choice in one.drills}
    assert drills["own-gate"].kit == ("rod",)
    assert drills["own-gate"].cautions == ()


def test_changed_effects_move_the_ranking_the_way_they_point(hit):
    balls = hit("upper-body-first", 2, 12)

    def chance(path: float) -> float:
        effect = {**shipped_knowledge().causes["hip-stall"].effect, "path_deg": path}
        knowledge = changed_knowledge({"fault": {"hip-stall": {"effect": effect}}})
        return next(f.probability for f in rank_causes(knowledge, balls).faults if f.id == "hip-stall")

    assert chance(-6) > chance(1) > chance(6)


@pytest.mark.parametrize(
    ("changes", "place"),
    [
        ({"fault": {"hip-stalls": {"label": "x"}}}, "fault.hip-stalls"),
        ({"fault": {"hip-stall": {"moment": "top"}}}, "fault.hip-stall.moment"),
        ({"fault": {"hip-stall": {"prior": 1.2}}}, "prior"),
        ({"fault": {"hip-stall": {"effect": {"path_deg": float("nan")}}}}, "effect.path_deg"),
        ({"fault": {"hip-stall": {"effect": {"face_spread": 0}}}}, "effect.face_spread"),
        ({"fault": {"hip-stall": {"effect": {"loft": 2}}}}, "effect.loft"),
        ({"fault": {"own-fault": {"label": "x"}}}, "fault.own-fault"),
        ({"check": {"own-check": {**OWN_CHECK, "grades": ["one"]}}}, "grades"),
        ({"check": {"own-check": {**OWN_CHECK, "view": "above"}}}, "view"),
        ({"check": {"own-check": {**OWN_CHECK, "speaks": {"sideways": {}}}}}, "speaks.sideways"),
        ({"check": {"own-check": {k: v for k, v in OWN_CHECK.items() if k != "question"}}}, "question"),
        ({"check": {"seat-line": {"seconds": 0}}}, "seconds"),
        ({"drill": {"lamp-post": {"faults": ["no-such"]}}}, "no-such"),
    ],
)
def test_bad_changes_are_refused_by_entry_and_field(changes, place):
    with pytest.raises(KnowledgeError) as caught:
        changed_knowledge(changes)
    assert place in str(caught.value)
