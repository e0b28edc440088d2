"""The knowledge base loads, holds together, and refuses bad data with its place."""

from __future__ import annotations

from importlib import resources

import pytest

from instavis_core.knowledge import KnowledgeError
from instavis_core.knowledge.loader import load_knowledge_from

FOLDER = resources.files("instavis_core.knowledge") / "data"


def with_change(file: str, old: str, new: str):
    def read(name: str) -> str:
        text = (FOLDER / name).read_text(encoding="utf-8")
        if name != file:
            return text
        assert old in text
        return text.replace(old, new, 1)

    return read


def test_counts_are_those_of_the_open_vocabulary(knowledge):
    assert len({c.id for c in knowledge.of_kind("fault")}) == 19
    assert len(knowledge.of_kind("fault")) == 20
    assert len(knowledge.of_kind("partner")) == 5
    assert len(knowledge.checks) == 32
    assert len(knowledge.clubs) == 25


def test_every_fault_and_partner_has_a_drill_and_every_fault_a_look(knowledge):
    drilled = {f for d in knowledge.drills.values() for f in d.faults}
    looked = {f for c in knowledge.checks.values() for speaks in c.speaks.values() for f in speaks}
    for cause in knowledge.of_kind("fault"):
        assert cause.id in drilled
        assert cause.id in looked


def test_drills_name_known_stages_regions_schools_and_cautions(knowledge):
    for drill in knowledge.drills.values():
        assert set(drill.stages) <= set(knowledge.stages)
        assert set(drill.regions) <= set(knowledge.words["region"])
        assert set(drill.cautions) <= set(knowledge.cautions)
        assert set(drill.kit) <= set(knowledge.words["kit"])
        question, _, side = drill.school.partition(":")
        assert not question or side in [s["id"] for s in knowledge.schools[question].sides]


def test_probability_words_cover_everything(knowledge):
    assert knowledge.probability_word(0.0) == "unlikely"
    assert knowledge.probability_word(0.70) == "likely"
    assert knowledge.probability_word(1.0) == "very likely"


@pytest.mark.parametrize(
    ("file", "old", "new", "told"),
    [
        ("faults.toml", "path_deg = -3, face_deg = -1", "path_degs = -3, face_deg = -1", "path_degs"),
        ("faults.toml", "prior = 0.08", "prior = 1.5", "prior"),
        ("faults.toml", 'moment = "address"', 'momentum = "address"', "momentum"),
        ("faults.toml", 'label = "Pelvis set trailward"\n', "", "label"),
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
def test_bad_data_is_refused_with_its_place(file, old, new, told):
    with pytest.raises(KnowledgeError) as caught:
        load_knowledge_from(with_change(file, old, new))
    assert told in str(caught.value)
    assert file in str(caught.value)
    assert "line" in str(caught.value)
