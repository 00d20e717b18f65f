"""Everything by keyboard: stages, lanes, charts, find, help, adding, and never a trap."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QComboBox, QLineEdit

from wired_union.app.dialogs.add_part import AddPart
from wired_union.app.dialogs.calculator import Calculator
from wired_union.app.dialogs.find import FindAnything
from wired_union.app.dialogs.help import Help
from wired_union.kernel.subject import Selection
from wired_union.subjects import subjects
from wired_union.subjects.parts.view import PartsView
from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.power.view import PowerView
from wired_union.subjects.timing.pick import TimingPick

from .conftest import ready

ALT, SHIFT = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ShiftModifier


def test_alt_and_a_number_go_to_each_stage(window):
    stages = ("brief", "concepts", "parts", "candidates", "combination", "motion", "power", "mass", "timing")
    for number, stage in enumerate(stages, 1):
        QTest.keyClick(window, Qt.Key(Qt.Key.Key_0 + number), ALT)
        assert window.stage == stage


def test_arrows_walk_the_lanes_and_alt_arrows_move_a_part(window, qtbot):
    view = ready(window, qtbot, "gearmotor")
    QTest.keyClick(view.cards["gearmotor"], Qt.Key.Key_Right)
    assert window.store.picked(Selection).item == "driver"
    QTest.keyClick(view.cards["driver"], Qt.Key.Key_Down)
    assert window.store.picked(Selection).item == "core-tube"
    QTest.keyClick(view.cards["core-tube"], Qt.Key.Key_Left, ALT)
    corer = [c.item_id for c in view.lanes["corer"].cards]
    assert corer[:2] == ["core-tube", "leadscrew"]
    QTest.keyClick(view.cards["core-tube"], Qt.Key.Key_Up, ALT)
    assert "core-tube" in [c.item_id for c in view.lanes["drive"].cards]
    assert view.cards["core-tube"].hasFocus()


def test_rename_with_f2(window, qtbot):
    view = ready(window, qtbot, "imu")
    QTest.keyClick(view.cards["imu"], Qt.Key.Key_F2)
    line = view.form.fields["name"].line
    assert line.hasFocus()
    QTest.keyClicks(line, "Tilt")
    QTest.keyClick(line, Qt.Key.Key_Return)
    assert next(i for i in window.store.project.concept.items if i.id == "imu").name == "Tilt"


def test_a_mission_edge_moves_by_keys(window, qtbot):
    window.go("power")
    view = window.views["power"]
    assert isinstance(view, PowerView)
    view.chart.setFocus()
    for _ in range(1):
        QTest.keyClick(view.chart, Qt.Key.Key_Right)
    assert view.chart.accessibleDescription().startswith("end of Drive")
    before = window.store.project.concept.mission.phases[0].duration_s
    QTest.keyClick(view.chart, Qt.Key.Key_Right, SHIFT)
    assert window.store.project.concept.mission.phases[0].duration_s > before
    assert window.store.project.concept.mission.cycle_s == 75 * 60


def test_the_tree_and_the_chains_are_walked_by_arrows(window):
    window.go("power")
    tree = window.views["power"].tree
    tree.setFocus()
    first = tree.accessibleDescription()
    QTest.keyClick(tree, Qt.Key.Key_Down)
    assert tree.accessibleDescription() != first
    QTest.keyClick(tree, Qt.Key.Key_Return)
    assert window.store.picked(PowerPick).node
    window.go("timing")
    chain = window.views["timing"].canvases["bump-to-stop"]
    chain.setFocus()
    QTest.keyClick(chain, Qt.Key.Key_Down)
    QTest.keyClick(chain, Qt.Key.Key_Return)
    assert window.store.picked(TimingPick) == TimingPick("bump-to-stop", 1)


def entries(window):
    from wired_union.app.actions import find_entries

    return find_entries(window, window._actions)


@pytest.mark.parametrize(
    ("typed", "found", "kind"),
    [("gearmotor", "Gearmotor 25 mm", "part"), ("runtime", "Runtime: 4.36", "number"), ("dark", "Dark theme", "action"),
     ("voltage drop", "voltage drop", "calculator"), ("go to mass", "Go to Mass", "stage")],
)  # fmt: skip
def test_find_anything(window, qtbot, typed, found, kind):
    dialog = FindAnything(entries(window), window.theme, window)
    qtbot.addWidget(dialog)
    QTest.keyClicks(dialog.field, typed)
    text = dialog.list.item(0).text().replace("\u202f", " ")
    assert text.startswith(f"{kind}:  {found}")


def test_find_does_what_is_chosen_and_says_when_nothing_is_found(window, qtbot):
    dialog = FindAnything(entries(window), window.theme, window)
    qtbot.addWidget(dialog)
    QTest.keyClicks(dialog.field, "salinity")
    QTest.keyClick(dialog.field, Qt.Key.Key_Return)
    assert window.stage == "parts"
    assert window.store.picked(Selection).item == "probe"
    other = FindAnything(entries(window), window.theme, window)
    qtbot.addWidget(other)
    QTest.keyClicks(other.field, "zzz")
    assert other.list.item(0).text() == "Nothing found. Try another word."
    other.choose()


def test_a_calculator_works_as_it_is_typed(window, qtbot):
    from wired_union.physics.methods import find_method

    dialog = Calculator(find_method("voltage-drop"), window.theme, window)
    qtbot.addWidget(dialog)
    assert dialog.answer.text() == "Still to give: length, awg, current"
    for name, text in (("length_m", "50 cm"), ("awg", "20"), ("current_a", "3 A")):
        QTest.keyClicks(dialog.inputs[name], text)
    assert dialog.answer.text().replace("\u202f", " ").startswith("drop: 99.9 mV")
    dialog.inputs["awg"].setText("77")
    assert "gauge is from" in dialog.answer.text()


def test_f1_says_what_each_screen_computes_and_its_sources(window, qtbot):
    for stage, source in (("power", "Peukert 1897"), ("timing", "Davare et al. 2007"), ("mass", "ESA margin"),
                          ("brief", "Clopper"), ("parts", "ASTM B258")):  # fmt: skip
        subject = next(s for s in subjects() if s.id == stage)
        page = Help(subject, subject.title, window.theme, window)
        qtbot.addWidget(page)
        text = page.page.toPlainText()
        assert source in text
        assert "What nothing here checks" in text
        assert "licensed practitioner" in text


def test_add_a_part_by_keys_with_a_ripple_and_reasons(window, qtbot):
    dialog = AddPart(window.store, window.theme, "sense", window)
    qtbot.addWidget(dialog)
    QTest.keyClicks(dialog.search, "depth pressure")
    assert dialog.part.id == "depth-pressure-30-bar"
    assert window.strip.ring_of("money") is not None
    QTest.keyClick(dialog.search, Qt.Key.Key_Return)
    item = window.store.project.concept.items[-1]
    assert item.name == "Depth pressure 30 bar"
    assert item.subsystem == "sense"
    assert any(f.source == "ldo" and f.load == item.id for f in window.store.project.concept.feeds)
    assert window.strip.ring_of("money") is None


def test_a_figure_with_its_unit_is_looked_for_together(window, qtbot):
    from wired_union.app.dialogs.add_part import search_words

    assert search_words("motor 12 V  75:1") == ["motor", "12 v", "75:1"]
    dialog = AddPart(window.store, window.theme, "drive", window)
    qtbot.addWidget(dialog)
    QTest.keyClicks(dialog.search, "12 V")
    names = [dialog.list.item(i).text() for i in range(dialog.list.count())]
    assert any("Gearmotor 25 mm 12 V" in n for n in names)
    assert not any("Hall current sensor" in n for n in names)
    dialog.reject()


def test_what_does_not_fit_says_why_and_can_be_hidden(window, qtbot):
    dialog = AddPart(window.store, window.theme, "think", window)
    qtbot.addWidget(dialog)
    QTest.keyClicks(dialog.search, "inductive proximity")
    text = dialog.list.item(0).text().replace("\u202f", " ")
    assert "does not fit: signals at 12 V; Controller 32-bit survives 5 V" in text
    dialog.only_fitting.setChecked(True)
    assert dialog.list.count() == 0
    dialog.reject()


def test_an_own_part_starts_with_everything_unknown(window, qtbot):
    dialog = AddPart(window.store, window.theme, "sense", window)
    qtbot.addWidget(dialog)
    QTest.keyClicks(dialog.search, "Mud claw")
    dialog.add_own()
    item = window.store.project.concept.items[-1]
    assert (item.name, item.knowledge, item.part.mass_kg) == ("Mud claw", "guess", None)
    assert "Mud claw: its mass" in window.store.assessment.measure("mass").missing


@pytest.mark.parametrize("stage", ["brief", "parts", "power", "mass", "timing"])
def test_every_control_can_be_reached_and_has_a_name(window, stage):
    window.go(stage)
    for kind in (QAbstractButton, QLineEdit, QComboBox):
        for control in window.findChildren(kind):
            if not control.isVisible() or not control.isEnabled() or control.objectName().startswith("qt_"):
                continue
            if control.parent() is not None and control.parent().metaObject().className() in {"QSpinBox", "QComboBox"}:
                continue
            assert control.accessibleName() or (isinstance(control, QAbstractButton) and control.text()), control
            assert control.focusPolicy() & Qt.FocusPolicy.TabFocus, control


def test_tab_goes_round_the_window_without_a_trap(window, qtbot):
    view = ready(window, qtbot, "gearmotor")
    assert isinstance(view, PartsView)
    view.cards["gearmotor"].setFocus()
    seen = []
    for _ in range(400):
        focused = window.focusWidget()
        if focused in seen:
            break
        seen.append(focused)
        QTest.keyClick(focused, Qt.Key.Key_Tab)
    assert window.focusWidget() is seen[0]
    assert len(seen) > 45
    assert any(w in seen for w in view.cards.values())
    assert window.strip.cell("mass") in seen
    assert window.rail.button("power") in seen


def test_esc_drops_a_preview(window, qtbot):
    view = ready(window, qtbot, "battery")
    view.try_list.cards[0].setFocus()
    qtbot.waitUntil(lambda: window.store.preview is not None, timeout=5000)
    QTest.keyClick(window, Qt.Key.Key_Escape)
    assert window.store.preview is None
