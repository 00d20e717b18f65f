"""The scale in the Mass screen, and the schools of margins in the Brief, by hand."""

import pytest

from window.hands import named, typed
from wired_union.kernel.subject import Selection
from wired_union.subjects.mass.assess import MASS
from wired_union.subjects.wiring.laid import HARNESS
from wired_union.ui.fields import Choice


@pytest.fixture
def mass(window):
    window.go("mass")
    return window.views["mass"]


def test_what_to_weigh_first_is_chosen_weighed_and_taken_off(window, mass):
    first = window.store.assessment.of(MASS).to_weigh()[0]
    named(mass, f"{first.item.name}: narrows").click()
    assert window.store.picked(Selection).item == first.item.id
    typed(mass, "Which scale", "post scale")
    typed(mass, "The least it tells apart", "2 g")
    typed(mass, "Mass on the scale", f"{first.known_kg / first.item.count} kg")
    (entry,) = window.store.project.concept.weighings
    assert (entry.item, entry.scale, entry.step_kg, entry.on) == (first.item.id, "post scale", 0.002, window.today())
    assert window.store.assessment.of(MASS).to_weigh()[0].item.id != first.item.id
    typed(mass, "Mass on the scale", "heavy")
    assert len(window.store.project.concept.weighings) == 1
    named(mass, "take off").click()
    assert window.store.project.concept.weighings == ()
    window.undo()
    window.undo()
    assert window.store.assessment.of(MASS).to_weigh()[0].item.id == first.item.id


def test_more_copies_than_there_are_cannot_lie_on_the_scale(window, mass):
    window.store.change(Selection, item="wheels")
    many = next(i for i in window.store.project.concept.items if i.count > 1)
    window.store.change(Selection, item=many.id)
    typed(mass, "How many on the scale", "99")
    line = typed(mass, "Mass on the scale", "1 kg")
    assert "cannot lie on the scale" in line.parent().error.text()
    assert window.store.project.concept.weighings == ()


def test_the_school_of_margins_is_chosen_in_the_brief(window):
    window.go("brief")
    brief = window.views["brief"]
    window.store.change(Selection, measure="mass")
    before = window.store.assessment.measure("mass").value
    school = next(c for c in brief.panel.findChildren(Choice) if c.accessibleName() == "Allowance")
    school.setCurrentIndex(school.findData("fixed share"))
    school.activated.emit(school.currentIndex())
    known = window.store.assessment.of(MASS).known_kg
    cables = window.store.assessment.of(HARNESS).mass_kg
    assert window.store.assessment.measure("mass").value == pytest.approx(1.2 * (known + cables))
    typed(brief, "Share of all", "10 %")
    typed(brief, "Why so", "the coach wants it")
    typed(brief, "Cables, screws, glue", "5 %")
    assert window.store.assessment.measure("mass").value == pytest.approx(1.15 * known + 1.1 * cables)
    for _ in range(4):
        window.undo()
    assert window.store.assessment.measure("mass").value == before
