"""The main job with real clicks and keys: try a battery, see where it lands, swap, undo, save, open again."""

import subprocess
import sys

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog

from wired_union.project.cables import laid_feed
from wired_union.project.file import load
from wired_union.subjects.timing.pick import TimingPick

from .conftest import ready
from .hands import click


def battery(window):
    return next(i for i in window.store.project.concept.items if i.id == "battery")


def test_hovering_an_alternative_shows_rings_and_leaving_takes_them_away(window, parts):
    card = parts.try_list.cards[0]
    assert window.strip.ring_of("runtime") is None
    parts.panel.ensureWidgetVisible(card)
    QTest.mouseMove(card, QPoint(20, 20))
    card.setFocus()
    ring = window.strip.ring_of("runtime")
    assert ring is not None
    assert ring.verdict == "holds"
    assert window.strip.ring_of("mass").value > window.store.assessment.measure("mass").value
    assert window.strip.ring_of("chain:bump-to-stop") is None
    assert battery(window).part.id == "pack-4s-6-ah-lifepo4"
    window.views["parts"].cards["battery"].setFocus()
    assert window.strip.ring_of("runtime") is None


def test_swap_with_one_click_then_undo_and_redo(window, parts, qtbot):
    first = window.store.project
    click(parts.try_list.cards[0])
    assert battery(window).part.id == "pack-4s-8-ah-lifepo4"
    assert "Swap Pack 4S 6 Ah LiFePO₄ for Pack 4S 8 Ah LiFePO₄" in window.ripple_line.text
    assert "Runtime +" in window.ripple_line.text
    assert "holds" in window.strip.cell("runtime").accessibleName()
    assert window.windowTitle().startswith("●")
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.store.project is first
    assert "breaks" in window.strip.cell("runtime").accessibleName()
    both = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    QTest.keyClick(window, Qt.Key.Key_Z, both)
    assert battery(window).part.id == "pack-4s-8-ah-lifepo4"


def test_swap_with_enter(window, parts):
    card = parts.try_list.cards[0]
    card.setFocus()
    QTest.keyClick(card, Qt.Key.Key_Return)
    assert battery(window).part.id == "pack-4s-8-ah-lifepo4"


def test_save_and_open_again(window, parts, qtbot, tmp_path, monkeypatch):
    path = tmp_path / "mudlark"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(path), ""))
    click(parts.try_list.cards[0])
    changed = window.store.project
    QTest.keyClick(window, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    saved = tmp_path / "mudlark.union.json"
    assert load(saved) == changed
    assert not window.store.unsaved
    assert "saved · mudlark.union.json" in window.header.saved.text()
    window.open_path(saved)
    assert window.store.project == changed
    assert window.store.can_undo == ""
    assert window.settings.recent == (str(saved),)


def test_a_reason_goes_into_the_notebook(window, parts):
    click(parts.try_list.cards[0])
    window.ripple_line.why.setText("it is in the drawer")
    QTest.keyClick(window.ripple_line.why, Qt.Key.Key_Return)
    entry = window.store.project.notebook[-1]
    assert entry.why == "it is in the drawer"
    assert entry.when == "2026-11-24"
    assert entry.text.startswith("Swap Pack")


def test_a_remedy_previews_and_acts(window, parts, qtbot):
    from wired_union.ui.findings import PreviewButton

    remedies = [b for b in parts.panel.findChildren(PreviewButton) if "in parallel" in b.text().replace("\n    ", " ")]
    remedies[0].setFocus()
    assert window.strip.ring_of("runtime").verdict == "holds"
    click(remedies[0])
    assert battery(window).count == 2


def test_a_limit_on_the_strip_leads_to_the_view_that_explains_it(window):
    for measure, stage in (("runtime", "power"), ("mass", "mass"), ("chain:bump-to-stop", "timing"), ("money", "mass")):
        click(window.strip.cell(measure))
        assert window.stage == stage
    assert window.store.picked(TimingPick) == TimingPick("bump-to-stop", 6)  # the stage that costs most


def test_every_value_of_a_part_can_be_edited_and_a_bad_one_changes_nothing(window, parts):
    field = parts.form.fields["mass_kg"]
    field.line.setText("0,9 kg")
    QTest.keyClick(field.line, Qt.Key.Key_Return)
    assert battery(window).part.mass_kg == 0.9
    before = window.store.project
    field.line.setText("heavy")
    QTest.keyClick(field.line, Qt.Key.Key_Return)
    assert field.error.text() == "“heavy” is not a number. Write it like 0.21 kg or 210 g."
    assert field.line.text() == "heavy"
    assert window.store.project is before
    field.line.setFocus()
    field.line.clear()
    QTest.keyClicks(field.line, "-1 kg")
    QTest.keyClick(field.line, Qt.Key.Key_Return)
    assert field.error.text() == "mass: must be 0 or more."
    assert window.store.project is before
    QTest.keyClick(field.line, Qt.Key.Key_Escape)
    assert field.line.text() == "900\u202fg"


def test_an_emptied_figure_is_unknown_never_zero(window, qtbot):
    view = ready(window, qtbot, "leadscrew")
    for path in ("load.active_a", "load.peak_a"):
        field = view.form.fields[path]
        field.line.setText("")
        QTest.keyClick(field.line, Qt.Key.Key_Return)
    measure = window.store.assessment.measure("runtime")
    assert measure.missing == ("Leadscrew actuator: its current when active",)
    assert "lacks" in window.strip.cell("runtime").accessibleName()


def test_count_origin_knowledge_feed_and_mode_from_the_panel(window, qtbot):
    view = ready(window, qtbot, "probe")
    for name, index_of in (("knowledge", "guess"), ("origin", "to buy"), ("feed", "bus"), ("state:drive", "active")):
        choice = view.form.choices[name]
        choice.setCurrentIndex(choice.findData(index_of))
        choice.activated.emit(choice.currentIndex())
    probe = next(i for i in window.store.project.concept.items if i.id == "probe")
    assert (probe.knowledge, probe.origin) == ("guess", "to buy")
    assert any(f.source == "bus" and f.load == "probe" for f in window.store.project.concept.feeds)
    drive = next(m for m in window.store.project.concept.modes if m.id == "drive")
    assert any(u.item == "probe" and u.state == "active" for u in drive.uses)
    field = view.form.fields["duty:drive"]
    field.line.setText("25 %")
    QTest.keyClick(field.line, Qt.Key.Key_Return)
    drive = next(m for m in window.store.project.concept.modes if m.id == "drive")
    assert any(u.item == "probe" and u.duty == 0.25 for u in drive.uses)
    finding = {f.id for f in window.store.assessment.findings}
    assert "input-high:probe" in finding  # 5 V probe on the 13 V bus


def test_the_efficiency_curve_and_kinds_are_edited_too(window, qtbot):
    view = ready(window, qtbot, "buck")
    field = view.form.fields["regulator.efficiency_curve"]
    assert "300 mA: 86" in field.line.text().replace("\u202f", " ") or ": " in field.line.text()
    field.line.setText("10 mA: 60 %, 1 A: 95 %")
    QTest.keyClick(field.line, Qt.Key.Key_Return)
    buck = next(i for i in window.store.project.concept.items if i.id == "buck")
    assert buck.part.regulator.efficiency_curve == ((0.01, 0.6), (1.0, 0.95))
    before = window.store.project
    for text, said in (
        ("1 A: 90 %, 10 mA: 60 %", "rising order"),
        ("half", "is no point"),
        ("1 A: 120 %", "must be"),
    ):
        field.line.setText(text)
        QTest.keyClick(field.line, Qt.Key.Key_Return)
        assert said in field.error.text()
        assert window.store.project is before
    view = ready(window, qtbot, "controller")
    choice = view.form.choices["load.draw"]
    choice.setCurrentIndex(choice.findData("power"))
    choice.activated.emit(choice.currentIndex())
    assert next(i for i in window.store.project.concept.items if i.id == "controller").part.load.draw == "power"


def test_wire_fields(window, qtbot):
    view = ready(window, qtbot, "gearmotor")
    for name, text in (("wire_length_m", "1 m"), ("wire_awg", "26")):
        field = view.form.fields[name]
        field.line.setText(text)
        QTest.keyClick(field.line, Qt.Key.Key_Return)
    concept = window.store.project.concept
    feed = laid_feed(concept, next(f for f in concept.feeds if f.load == "gearmotor"))
    assert (feed.wire_length_m, feed.wire_awg) == (1.0, 26)


def test_whether_a_bus_is_fused_is_chosen_and_the_bare_wire_behind_the_pack_is_said(window, qtbot):
    view = ready(window, qtbot, "bus")
    choice = view.form.choices["rail.fused"]
    assert choice.currentData() == "each way"
    said = {}
    for fused in ("no", "whole", "each way"):
        choice.setCurrentIndex(choice.findData(fused))
        choice.activated.emit(choice.currentIndex())
        said[fused] = {f.check for f in window.store.assessment.findings} & {"no-fuse", "fuse"}
    assert said == {"no": {"no-fuse"}, "whole": {"fuse"}, "each way": set()}


def test_edits_of_lanes(window, qtbot):
    window.go("parts")
    view = window.views["parts"]
    click(view.lanes["drive"].head)
    from wired_union.ui.fields import EntryField

    def shares():
        return [f for f in view.panel.findChildren(EntryField)
                if f.line.accessibleName() == "Share of mass" and f.isVisibleTo(view.panel)]  # fmt: skip

    qtbot.waitUntil(lambda: bool(shares()))
    (field,) = shares()
    field.line.setText("2 kg")
    QTest.keyClick(field.line, Qt.Key.Key_Return)
    assert window.store.project.concept.subsystems[0].mass_share_kg == 2.0
    assert "mass 2.56" in view.lanes["drive"].head.accessibleName()


@pytest.mark.parametrize(("key", "done"), [(Qt.Key.Key_Delete, "delete"), (Qt.Key.Key_D, "duplicate")])
def test_delete_and_duplicate_by_key(window, qtbot, key, done):
    view = ready(window, qtbot, "imu")
    modifier = Qt.KeyboardModifier.ControlModifier if done == "duplicate" else Qt.KeyboardModifier.NoModifier
    QTest.keyClick(view.cards["imu"], key, modifier)
    ids = [i.id for i in window.store.project.concept.items]
    assert ("imu" in ids, "imu-6-axis" in ids) == ((False, False) if done == "delete" else (True, True))


def test_a_card_dragged_to_another_lane_moves_its_part(window, qtbot):
    window.resize(1280, 1000)
    view = ready(window, qtbot, "imu")
    card, target = view.cards["imu"], view.lanes["think"]
    end = target.mapToGlobal(QPoint(target.width() - 40, 30))
    QTest.mousePress(card, Qt.MouseButton.LeftButton, pos=QPoint(20, 20))
    QTest.mouseMove(card, QPoint(40, 60))
    qtbot.wait(1)
    _drag(card, QPoint(60, 80))
    QTest.mouseRelease(card, Qt.MouseButton.LeftButton, pos=card.mapFromGlobal(end))
    imu = next(i for i in window.store.project.concept.items if i.id == "imu")
    assert imu.subsystem == "think"
    assert [c.item_id for c in view.lanes["think"].cards][-1] == "imu"


def _drag(widget, place: QPoint) -> None:
    """A move with the button held, which QTest.mouseMove does not send."""
    from PyQt6.QtCore import QEvent, QPointF
    from PyQt6.QtGui import QMouseEvent
    from PyQt6.QtWidgets import QApplication

    event = QMouseEvent(QEvent.Type.MouseMove, QPointF(place), QPointF(widget.mapToGlobal(place)),
                        Qt.MouseButton.NoButton, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)  # fmt: skip
    QApplication.sendEvent(widget, event)


def test_the_form_offers_every_word_that_a_figure_may_be():
    """A field of words that the form did not know would be read as a number."""
    from wired_union.catalogue.parts import FACETS
    from wired_union.project.value import choices, field_names, holds_number
    from wired_union.ui import item_form

    for model in FACETS.values():
        for name in field_names(model):
            words = choices(model, name)
            if words:
                assert {word for word, _ in item_form._CHOICES[name]} == set(words), name
            elif not holds_number(model, name):
                assert name in item_form._CHOICES or name in item_form._TEXTS or name in item_form.CURVES, name


def test_a_start_loads_nothing_that_is_only_needed_later(tmp_path):
    """What a person looks at first needs no remedies, no alternatives, no forms, and only the kinds of load there are."""
    later = [
        "choose.alternatives", "project.careful_reading", "project.meanings", "subjects.motion.remedies",
        "subjects.motion.kinds.canopy", "subjects.timing.remedies", "subjects.power.bounds", "ui.item_form", "app.start",
        "app.dialogs.find", "report",
    ]  # fmt: skip
    code = (
        "import sys; from pathlib import Path; from wired_union.app.run import make_app, make_window\n"
        "from wired_union.ui.places import Places\n"
        f"app, window = make_app(['x']), make_window(Places.within(Path({str(tmp_path)!r})))\n"
        "window.open_demo(); window.show(); window.grab()\n"
        f"print([m for m in {later!r} if 'wired_union.' + m in sys.modules])\n"
        "print([m for m in ('scipy', 'pint', 'json', 'csv', 'tempfile', 'traceback') if m in sys.modules])\n"
        "window.store = None\n"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.splitlines()[:2] == ["[]", "[]"]
