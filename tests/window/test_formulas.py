"""Formulas in the window: a knob and a formula made, dragged, limited and explained, by clicks and keys."""

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLineEdit

from wired_union.app.dialogs.help import help_text

from .hands import answer, click, named, typed


def with_samples(window, monkeypatch):
    QTest.keyClick(window, Qt.Key.Key_0, Qt.KeyboardModifier.AltModifier)
    view = window.views["formulas"]
    for button, text in ((view.add_knob, "spacing = 25 m"), (view.add_formula, "samples = floor(1.2 km / spacing)")):
        answer(monkeypatch, text)
        click(button)
    return view


def test_a_formula_is_made_limited_and_follows_its_knob(window, monkeypatch):
    view = with_samples(window, monkeypatch)
    assert window.stage == "formulas"
    assert window.store.assessment.measure("formula:samples").value == 48.0
    typed(view, "Unit it is shown in", "samples")
    click(named(view, "Put a limit on it"))
    assert window.stage == "brief"
    assert window.store.assessment.measure("formula:samples").limit == 48.0
    window.go("formulas")
    slider = view.sliders["spacing"].slider
    slider.setFocus()
    slider.setSliderDown(True)
    slider.setValue(slider.maximum())
    ring = window.strip.ring_of("formula:samples")
    assert (ring.value, ring.verdict) == (24.0, "breaks")
    assert window.store.assessment.measure("formula:samples").value == 48.0  # a drag changes nothing yet
    slider.setSliderDown(False)
    assert window.store.assessment.measure("formula:samples").value == 24.0
    window.undo()
    assert window.store.assessment.measure("formula:samples").value == 48.0


def test_a_knob_is_typed_and_a_bad_number_stays_with_its_reason(window, monkeypatch):
    view = with_samples(window, monkeypatch)
    line = view.entries["spacing"].line
    line.setFocus()
    line.setText("100 m")
    QTest.keyClick(line, Qt.Key.Key_Return)
    assert window.store.assessment.measure("formula:samples").value == 12.0
    assert view.sliders["spacing"].value == 100.0  # the slider reaches to it
    line.setText("far")
    QTest.keyClick(line, Qt.Key.Key_Return)
    assert "far" in view.entries["spacing"].error.text()
    assert window.store.project.concept.knobs[0].value == 100.0


def test_an_expression_that_does_not_fit_says_why_and_is_shown_in_the_row(window, monkeypatch):
    view = with_samples(window, monkeypatch)
    typed(view, "Expression", "floor(spacing")
    assert "brackets" in view.fields["text"].error.text()
    assert window.store.project.brief.formulas[0].text == "floor(1.2 km / spacing)"
    typed(view, "Expression", "mass + spacing")
    assert view.rows["samples"].accessibleName().startswith("samples: kg and m cannot be added.")


def test_names_are_found_and_put_into_the_expression(window, monkeypatch):
    view = with_samples(window, monkeypatch)
    search = view.panel.findChild(QLineEdit, "")
    assert search is not None
    view.search.setText("battery mass")
    names = [view.names.item(n).data(Qt.ItemDataRole.UserRole) for n in range(view.names.count())]
    assert names == ["battery.mass_kg"]
    view.fields["text"].line.setText("2 * ")
    view.fields["text"].line.setCursorPosition(4)
    view.names.setCurrentRow(0)
    view.names.setFocus()
    QTest.keyClick(view.names, Qt.Key.Key_Return)
    assert view.fields["text"].line.text() == "2 * battery.mass_kg"
    QTest.keyClick(view.fields["text"].line, Qt.Key.Key_Return)
    kg = window.store.assessment.measure("formula:samples")
    battery = next(i for i in window.store.project.concept.items if i.id == "battery")
    assert (kg.value, kg.unit) == (2 * battery.part.mass_kg, "kg")


def test_f1_says_each_formula_with_its_numbers(window, monkeypatch):
    view = with_samples(window, monkeypatch)
    subject = next(s for s in window.store.assessment.subjects if s.id == view.stage)
    page = help_text(subject, subject.title, window.store.assessment).replace("\u202f", " ")
    assert "samples = floor(1.2 km / spacing) = floor(1.2 km ÷ 25 m) = 48" in page
