"""In the window: a second pack beside the first, through diodes, what each keeps typed, taken away and undone."""

import pytest
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton

from wired_union.catalogue.parts import of_kind
from wired_union.project.part_edits import add_item
from wired_union.subjects.power.pick import PowerPick

from .hands import click, typed
from .test_sizing import at_power


def link(view, words: str) -> QPushButton:
    """The link of the panel whose text has these words, whatever its lines."""
    made = (b for b in view.panel.findChildren(QPushButton) if b.isVisibleTo(view.panel))
    return next(b for b in made if words in " ".join(b.text().split()))


def test_a_second_pack_is_put_beside_typed_and_taken_away_again(window):
    project = window.store.project
    spare = next(p for p in of_kind("pack") if p.pack is not None and p.pack.chemistry == "li-ion")
    view = at_power(window, add_item(project, "feed", spare).after)
    before = window.store.assessment.measure("runtime").value
    window.store.change(PowerPick, node="battery")
    QTest.qWait(1)
    click(link(view, "beside it, through Schottky diodes"))
    (joint,) = window.store.project.concept.joined_packs
    assert (joint.pack, joint.how, joint.drop_v) == ("battery", "diodes", 0.4)
    assert window.store.assessment.measure("runtime").value > before
    name = spare.name
    assert typed(view, f"{name}: a diode keeps", "high").text() == "high"
    assert window.store.project.concept.joined_packs == (joint,)
    typed(view, f"{name}: a diode keeps", "")
    assert any("its diode keeps" in m for m in window.store.assessment.measure("runtime").missing)
    window.store.undo()
    QTest.qWait(1)
    click(link(view, "by itself again"))
    assert window.store.project.concept.joined_packs == ()
    assert window.store.assessment.measure("runtime").value == pytest.approx(before)
    window.store.undo()
    window.store.undo()
    assert window.store.project.concept.joined_packs == ()
