"""Choosing in the real window: concepts, candidates, sheets, and the proven best, with clicks and keys."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog, QLabel, QPushButton

import edits
from wired_union.app.dialogs.import_parts import ImportParts
from wired_union.catalogue.library import Library
from wired_union.catalogue.parts import catalogue
from wired_union.project.file import load
from wired_union.subjects.candidates.pick import PointMark
from wired_union.subjects.concepts.pick import ConceptsPick, QuestionMark

from .conftest import ready
from .hands import answer, click, named, press, typed

CTRL = Qt.KeyboardModifier.ControlModifier


# concepts


def test_copy_compare_retire_with_a_reason_and_bring_back(window, qtbot, monkeypatch, tmp_path):
    window.go("concepts")
    view = window.views["concepts"]
    answer(monkeypatch, "light one")
    click(named(view, "Copy …"))
    assert window.store.project.concept.letter == "D"
    assert window.store.project.concept.copied_on == "2026-11-24"
    assert set(window.header.switch.buttons) == {"a", "b", "d"}
    ready(window, qtbot, "battery")
    click(window.views["parts"].try_list.cards[0])
    window.go("concepts")
    press(view.legend, "a")
    assert "What A does otherwise than D" in view._difference_title.text()
    assert any("Pack 4S 6 Ah LiFePO₄ instead of Pack 4S 8 Ah LiFePO₄" in s.text for s in view.differences.picture.shapes
               if hasattr(s, "text"))  # fmt: skip
    press(view.legend, "d")
    answer(monkeypatch, "   ")
    click(named(view, "Retire …"))
    assert "Say why it is retired" in window.ripple_line.text
    answer(monkeypatch, "too dear")
    click(named(view, "Retire …"))
    retired = next(c for c in window.store.project.concepts if c.id == "d")
    assert (retired.retired.why, window.store.project.concept.id) == ("too dear", "a")
    assert "d" not in window.header.switch.buttons
    press(view.legend, "d")
    click(named(view, "Bring it back"))
    assert "d" in {c.id for c in window.store.project.living}
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "m"), ""))
    QTest.keyClick(window, Qt.Key.Key_S, CTRL)
    assert load(tmp_path / "m.union.json") == window.store.project
    while window.store.can_undo:
        window.undo()
    assert [c.id for c in window.store.project.concepts] == ["a", "b", "c"]


def test_pointing_at_a_concept_that_an_undo_has_taken_away_shows_nothing(window):
    """The button is still under the pointer while the header is made anew."""
    window.store.attempt(edits.copy_concept, window.store.project.concept.id, "twin")
    gone = window.store.project.concept.id
    window.undo()
    window.header.switch.pointed.emit(gone, True)
    assert window.strip.ring_of("runtime") is None


def test_the_header_switches_and_pointing_shows_rings(window):
    switch = window.header.switch
    switch.buttons["b"].setFocus()
    assert window.strip.ring_of("runtime").verdict == "tight"
    click(switch.buttons["b"])
    assert window.store.project.concept.id == "b"
    assert "tight" in window.strip.cell("runtime").accessibleName()
    assert "Work on B skid plate" in window.ripple_line.text
    window.undo()
    assert window.store.project.concept.id == "a"
    assert switch.buttons["a"].isChecked()


def test_try_as_a_concept_from_a_remedy_and_from_an_alternative(window, qtbot, monkeypatch):
    view = ready(window, qtbot, "battery")
    answer(monkeypatch, "two packs")
    remedy = next(b for b in view.panel.findChildren(QPushButton) if b.accessibleName() == "Try as concept D")
    click(remedy)
    made = window.store.project.concept
    assert (made.letter, made.name) == ("D", "two packs")
    assert next(i for i in made.items if i.id == "battery").count == 2
    assert next(i for i in window.store.project.concepts[0].items if i.id == "battery").count == 1
    window.undo()
    view = ready(window, qtbot, "battery")
    corner = next(b for b in view.try_list.cards[0].findChildren(QPushButton))
    click(corner)
    assert next(i for i in window.store.project.concept.items if i.id == "battery").part.id == "pack-4s-8-ah-lifepo4"


def test_a_concept_on_the_wires_is_chosen_by_keys(window):
    window.go("concepts")
    view = window.views["concepts"]
    view.landing.setFocus()
    first = view.landing.picture.regions[0]
    assert first.label.startswith(("A ", "B ", "C "))
    for _ in range(len(view.landing.picture.regions)):
        QTest.keyClick(view.landing, Qt.Key.Key_Right)
        if view.landing.accessibleDescription().startswith("B "):
            break
    QTest.keyClick(view.landing, Qt.Key.Key_Return)
    assert view.chosen.id == "b"
    click(named(view, "Work on B"))
    assert window.store.project.concept.id == "b"


def test_a_score_a_weight_and_a_question_from_the_panel(window, monkeypatch):
    window.go("concepts")
    view = window.views["concepts"]
    press(view.decision, "easy-to-clean")
    typed(view, "Score of B", "12")
    assert "from 0 to 10" in window.ripple_line.text
    typed(view, "Score of B", "10")
    assert window.store.project.decision.criteria[0].score("b").value == 10
    typed(view, "Weight", "200")
    assert "B 9" in view._totals.text().replace("(out)", "") or "B 8" in view._totals.text()
    press(view.questions, "a/does-the-corer-jam-on-shells")
    typed(view, "Chance of a bad answer", "50 %")
    typed(view, "Days it would cost", "9")
    regions = [r.id for r in view.questions.picture.regions]
    assert regions[0] == "a/does-the-corer-jam-on-shells"
    assert "4.5 days at risk" in view.questions.picture.regions[0].label.replace("\u202f", " ")
    typed(view, "What the test showed", "9 of 10 whole")
    answered = view.questions.picture.regions[-1]  # it stays, after those that are open
    assert len(view.questions.picture.regions) == 3
    assert "answered: " in answered.label
    answer(monkeypatch, "Is the mast stiff?")
    click(named(view, "+ leave something"))
    assert window.store.picked(ConceptsPick).question == QuestionMark("a", "is-the-mast-stiff")
    answer(monkeypatch, "Looks good")
    click(named(view, "+ criterion"))
    assert "Not scored yet" in view._sure_words.text()


def test_the_order_list_is_what_every_living_concept_uses(window, monkeypatch, tmp_path):
    from wired_union.catalogue.sheet import read_sheet

    window.go("concepts")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "order.csv"), ""))
    click(named(window.views["concepts"], "Write the order list"))
    assert "core-tube-steel-50-mm-x-300" in {s.part.id for s in read_sheet(tmp_path / "order.csv").good}


def test_a_new_concept_starts_without_parts(window, monkeypatch):
    window.go("concepts")
    answer(monkeypatch, "on tracks")
    click(named(window.views["concepts"], "New …"))
    concept = window.store.project.concept
    assert (concept.letter, concept.items, len(concept.subsystems)) == ("D", (), 6)
    assert [m.uses for m in concept.modes] == [()] * 4
    window.go("parts")
    assert window.views["parts"].cards == {}


# candidates


@pytest.fixture
def choosing(window, qtbot):
    window.go("candidates")
    view = window.views["candidates"]
    press(view.slot_list, "battery")
    qtbot.waitUntil(lambda: view.tries_ready, timeout=20_000)
    return view


def test_refusals_stand_beside_what_fits(window, choosing):
    assert choosing.fitting_tries[0].title == "Pack 4S 8 Ah LiFePO₄"
    labels = [r.label.replace("\u202f", " ") for r in choosing.refused.picture.regions]
    assert any("mass 1.45 kg; at most 1.3 kg asked: 150 g (12 %) over" in x for x in labels)
    assert len(choosing.fitting_tries) + len(choosing.refused_tries) == len(choosing._work.tries)
    assert all(a.breaks for a in choosing.refused_tries)


def test_pointing_in_the_chart_previews_and_choosing_twice_takes(window, choosing):
    points = choosing._points
    assert any("Pack 4S 8 Ah" in words and "nothing betters it" in words for words in choosing.point_words())
    eight = next(i for i, p in enumerate(points) if p.title == "Pack 4S 8 Ah LiFePO₄")
    region = choosing.chart.region(f"point:{eight}")
    QTest.mouseMove(choosing.chart, QPoint(round(region.x + 8), round(region.y + 8)))
    choosing.chart.pointed.emit(PointMark(eight))
    assert window.strip.ring_of("runtime").verdict == "holds"
    choosing.chart.chosen.emit(PointMark(eight))
    assert choosing.picked.title == "Pack 4S 8 Ah LiFePO₄"
    assert window.store.project.concept.items[15].part.id == "pack-4s-6-ah-lifepo4"  # only picked, not taken
    before = window.store.project
    choosing.chart.chosen.emit(PointMark(eight))
    battery = next(i for i in window.store.project.concept.items if i.id == "battery")
    assert battery.part.id == "pack-4s-8-ah-lifepo4"
    window.undo()
    assert window.store.project is before


def test_other_measures_on_the_axes(window, choosing):
    along = choosing.axis_choices[0]
    along.setCurrentIndex(along.findData("money"))
    along.activated.emit(along.currentIndex())
    assert choosing._points[0].x.id == "money"
    assert "money" in choosing._fits_note.text()


def test_a_requirement_typed_moves_parts_between_the_lists(window, choosing, qtbot):
    fits = len(choosing.fitting_tries)
    typed(choosing, "mass, at most", "heavy")
    assert any("is not a number" in e.text() for e in choosing.panel.findChildren(QLabel))
    typed(choosing, "mass, at most", "0,9 kg")
    qtbot.waitUntil(lambda: choosing.tries_ready, timeout=20_000)
    assert len(choosing.fitting_tries) < fits
    assert next(i for i in window.store.project.concept.items if i.id == "battery").requires.most_mass_kg == 0.9
    move = next(b for b in choosing.panel.findChildren(QPushButton) if b.text().startswith("→ mass, at most"))
    click(move)
    qtbot.waitUntil(lambda: choosing.tries_ready, timeout=20_000)
    assert next(i for i in window.store.project.concept.items if i.id == "battery").requires.most_mass_kg > 0.9


def test_a_need_is_filled_from_the_shelf_by_keys(window, qtbot):
    window.go("candidates")
    view = window.views["candidates"]
    press(view.slot_list, "mud-thermometer")
    qtbot.waitUntil(lambda: view.tries_ready, timeout=20_000)
    view.fitting.setFocus()
    QTest.keyClick(view.fitting, Qt.Key.Key_Return)
    assert view.picked.candidate.origin == "donated"
    QTest.keyClick(view.fitting, Qt.Key.Key_Return)
    item = window.store.project.concept.items[-1]
    assert (item.name, item.part.id, item.origin) == ("Mud thermometer", "temperature-probe-sealed", "donated")
    assert [n.id for n in window.store.project.concept.needs] == ["core-depth"]
    window.undo()
    assert len(window.store.project.concept.needs) == 2


def test_something_new_is_looked_for(window, qtbot, monkeypatch):
    window.go("candidates")
    view = window.views["candidates"]
    answer(monkeypatch, "A horn")
    click(named(view, "+ look for something"))
    assert view.slot.name == "A horn"
    qtbot.waitUntil(lambda: view.tries_ready, timeout=60_000)
    typed(view, "How many", "2")
    assert view.slot.count == 2
    click(named(view, "Look for it no longer"))
    assert len(window.store.project.concept.needs) == 2


# sheets

SHEET = """Name,Kind,Mass (g),Price,have
Winch motor,gearmotor,210,18,2
Heavy thing,structure,lots,3,1
No class,,12,2,1
Free lunch,fastening,20,0,4
Cog,structure,12,1,9
"""


def open_import(window, qtbot, path) -> ImportParts:
    dialog = ImportParts(path, window.store, Library(window.places.library), window.theme, window)
    dialog.show()
    qtbot.waitUntil(lambda: dialog.sheet is not None, timeout=10_000)
    return dialog


def test_a_sheet_with_three_bad_rows(window, qtbot, monkeypatch, tmp_path):
    path = tmp_path / "store.csv"
    path.write_text(SHEET)
    before = window.store.project
    dialog = open_import(window, qtbot, path)
    assert dialog.title.text() == "2 rows can be added, 3 cannot"
    bad = dialog.sheet.bad[0]
    assert dialog.wrong.text().startswith(f"Row {bad.number}: ")
    assert all(p.text in dialog.wrong.text() for p in bad.problems)  # whole, where the table cuts it
    assert window.store.project is before
    QTest.mouseClick(dialog.only_bad, Qt.MouseButton.LeftButton, pos=QPoint(8, dialog.only_bad.height() // 2))
    model = dialog.table.model()
    cells = [model.data(model.index(r, 6), Qt.ItemDataRole.DisplayRole) for r in range(model.rowCount())]
    assert [c.split(":")[0] for c in cells] == ["mass", "kind", "price"]
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "mend.csv"), ""))
    click(dialog.bad_button)
    assert "No class" in (tmp_path / "mend.csv").read_text()
    click(dialog.add_button)
    assert [s.part.name for s in window.store.project.shelf][-2:] == ["Winch motor", "Cog"]
    window.undo()
    assert window.store.project is before


def test_a_sheet_into_the_library_answers_a_slot(window, qtbot, tmp_path):
    path = tmp_path / "store.csv"
    battery = next(p for p in catalogue() if p.id == "pack-4s-8-ah-lifepo4")
    from wired_union.catalogue.sheet import stocks_of
    from wired_union.catalogue.sheet_files import write_sheet

    write_sheet(stocks_of([battery.but(id="lab-pack", name="Lab pack 4S 8 Ah")]), path)
    dialog = open_import(window, qtbot, path)
    dialog.where.show_value("library")
    click(dialog.add_button)
    qtbot.waitUntil(lambda: not dialog.isVisible(), timeout=10_000)
    window.go("candidates")
    view = window.views["candidates"]
    press(view.slot_list, "battery")
    qtbot.waitUntil(lambda: view.tries_ready, timeout=20_000)
    lab = next(a for a in view.fitting_tries if a.title == "Lab pack 4S 8 Ah")
    view.take(lab)
    taken = next(i for i in window.store.project.concept.items if i.id == "battery").part
    assert taken.pack == battery.pack  # copied into the project, which stands alone


def test_the_library_and_the_shelf_are_searched_when_a_part_is_added(window, qtbot):
    from wired_union.app.dialogs.add_part import AddPart
    from wired_union.project.model import Part, Stock

    library = Library(window.places.library)
    library.add([Stock(part=Part(id="horn", name="Brass horn", kind="structure", mass_kg=0.1, price=4.0), have=1)])
    dialog = AddPart(window.store, window.theme, "frame", window, library)
    dialog.search.setText("brass horn")
    assert dialog.part.id == "horn"
    dialog.add()
    assert window.store.project.concept.items[-1].name == "Brass horn"
    dialog = AddPart(window.store, window.theme, "sense", window, library)
    dialog.search.setText("light sensor")
    assert "owned, 3 on the shelf" in dialog.list.item(0).text()
    dialog.add()
    assert window.store.project.concept.items[-1].origin == "owned"


def test_a_file_that_is_no_sheet_is_said_in_the_dialog(window, qtbot, tmp_path):
    path = tmp_path / "b.csv"
    path.write_text("Colour\nred\n")
    dialog = ImportParts(path, window.store, Library(window.places.library), window.theme, window)
    dialog.show()
    qtbot.waitUntil(lambda: "no column is called name" in dialog.note.text(), timeout=10_000)
    assert not dialog.add_button.isEnabled()
    dialog.reject()


# the best mix


def found(view, qtbot) -> None:
    qtbot.waitUntil(lambda: view.progress is not None and view.find_button.isEnabled(), timeout=120_000)


def test_it_finds_pack_and_gearmotor_together_applies_as_one_edit_and_undoes(window, qtbot):
    window.go("combination")
    view = window.views["combination"]
    assert not view.find_button.isEnabled()
    for item in ("battery", "gearmotor"):
        press(view.places, item)
    before = window.store.project
    click(view.find_button)
    found(view, qtbot)
    assert "Proven best (gap 0)" in view._proof.text()
    assert "does not hold: Runtime 4.36" in view._favourite.text().replace("\u202f", " ")
    view.mixes.pointed.emit(0)
    assert window.strip.ring_of("runtime").verdict == "tight"
    click(named(view, "Take it all as one edit"))
    gearmotor = next(i for i in window.store.project.concept.items if i.id == "gearmotor")
    assert gearmotor.part.id == "gearmotor-25-mm-12-v-120-1"  # less current on the flat than a heavier pack would need
    assert window.store.assessment.measure("runtime").verdict == "tight"
    assert "moved on" in view._result_title.text()
    window.undo()
    assert window.store.project is before


def test_weights_limits_and_an_answer_as_a_concept(window, qtbot, monkeypatch):
    window.go("combination")
    view = window.views["combination"]
    for item in ("battery", "gnss"):
        press(view.places, item)
    click(view.favour_buttons["weights"])
    field = view.weight_fields["runtime"].line
    field.setText("-2")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert view.weight_fields["runtime"].error.text() == "A weight is 0 or more."
    field.setText("3")
    QTest.keyClick(field, Qt.Key.Key_Return)
    press(view.limits, "mass")
    assert "mass" not in view.must_hold
    window.set_theme("dark")  # what is asked survives another look
    view = window.views["combination"]
    assert view.chosen_places == ["battery", "gnss"]
    click(view.find_button)
    found(view, qtbot)
    assert view._question.favour.runtime == 3.0
    answer(monkeypatch, "big pack")
    click(named(view, "as D"))
    assert window.store.project.concept.name == "big pack"
    assert (
        next(i for i in window.store.project.concepts[0].items if i.id == "battery").part.id == "pack-4s-6-ah-lifepo4"
    )


def test_a_search_is_stopped_and_dropped_when_the_project_moves_on(window, qtbot):
    window.go("combination")
    view = window.views["combination"]
    for item in ("battery", "gearmotor", "wheel", "gnss", "controller"):
        press(view.places, item)
    click(view.find_button)
    qtbot.waitUntil(lambda: view.progress is not None, timeout=60_000)
    view.stop()
    assert not view.worker.running
    kept = view.progress
    qtbot.wait(30)
    assert view.progress is kept
    assert not view.stop_button.isVisible()
    click(view.find_button)
    import edits

    window.store.attempt(edits.set_count, "battery", 2)
    assert not view.worker.running
    assert "moved on" in view._result_title.text()
    view.worker.wait()
