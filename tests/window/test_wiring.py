"""Wiring by hand: a part refused for want of pins, pins solved, a boot pin moved, a cable that breaks and is mended."""

import csv
import importlib.util
import io
import shutil
import subprocess

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog, QMenu, QMessageBox

from window.hands import answer, named, press, typed
from wired_union.catalogue.parts import part
from wired_union.project import edits as project_edits
from wired_union.project.ports import own_lines_of
from wired_union.project.wiring_model import Interface
from wired_union.subjects.wiring import edits
from wired_union.subjects.wiring.agreed import HANDED
from wired_union.subjects.wiring.assess import LEVELS, WIRES
from wired_union.subjects.wiring.pick import WiringPick
from wired_union.subjects.wiring.pins import PINS, assess_pins
from wired_union.subjects.wiring.wishes import Key
from wired_union.ui.fields import Choice

BUMPER = Key(item="bumper", copy=1, line="contact")


@pytest.fixture
def wiring(window):
    window.go("wiring")
    QTest.qWait(20)
    return window.views["wiring"]


def pin_of(window, key):
    return window.store.assessment.of(PINS).at[key].tooth.pin.name


def spot(canvas, region):
    place = canvas.region(region)
    return QPoint(round(place.x + place.w / 2), round(place.y + place.h / 2))


def drag(canvas, start, end, *, let_go=True):
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(canvas, (start + end) / 2)
    QTest.mouseMove(canvas, end)
    QTest.qWait(1)
    if let_go:
        QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=end)


def region_of(window, key=None, pin=""):
    pins = window.store.assessment.of(PINS)
    if key is not None:
        return f"tooth {pins.at[key].tooth.number}"
    return f"free {next(t.number for t in pins.free if t.pin.name == pin)}"


def a_free_pin(window, key) -> str:
    """A free pin that a signal could be on while everything else stays."""
    project, pins = window.store.project, window.store.assessment.of(PINS)
    able = (t for t in pins.free if not t.starts and any(d[0] == "interrupt" for d in t.pin.does))
    return next(t.pin.name for t in able if assess_pins(
        edits.lay_thread(project, key, t.item.id, t.pin.name).after.concept).solved)  # fmt: skip


def chosen(view, name, value):
    choice = view.details.fields[name]
    assert isinstance(choice, Choice)
    choice.setCurrentIndex(choice.findData(value))
    choice.activated.emit(choice.currentIndex())


def test_a_thread_is_dragged_to_another_tooth_and_the_ripple_shows_meanwhile(window, wiring):
    assert pin_of(window, BUMPER) == "D8"
    free = a_free_pin(window, BUMPER)
    start, end = spot(wiring.loom, region_of(window, BUMPER)), spot(wiring.loom, region_of(window, pin=free))
    drag(wiring.loom, start, end, let_go=False)
    assert window.store.preview is not None
    assert f"on {free} of" in window.store.preview.sentence
    QTest.mouseRelease(wiring.loom, Qt.MouseButton.LeftButton, pos=end)
    assert pin_of(window, BUMPER) == free
    assert window.store.preview is None
    window.undo()
    assert pin_of(window, BUMPER) == "D8"


def test_a_thread_over_a_tooth_that_cannot_is_refused_with_the_reason(window, wiring):
    said = []
    window.store.refused.connect(said.append)
    before = window.store.project
    clock = Key(item="imu", line="clock")
    drag(wiring.loom, spot(wiring.loom, region_of(window, clock)), spot(wiring.loom, region_of(window, pin="A0")))
    assert said == ["Salinity probe: clock needs I2C clock; pin A0 of Controller 32-bit cannot do that."]
    assert window.store.project is before


def test_a_boot_pin_is_moved_by_keys_alone(window, wiring):
    """Walked to by arrows, chosen by Enter, moved in the panel."""
    wiring.loom.setFocus()
    regions = [r.id for r in wiring.loom.picture.regions]
    wanted = regions.index(region_of(window, BUMPER))
    for _ in range(wanted):
        QTest.keyClick(wiring.loom, Qt.Key.Key_Down)
    QTest.keyClick(wiring.loom, Qt.Key.Key_Return)
    assert window.store.picked(WiringPick).key == BUMPER
    choice = wiring.details.fields["pin"]
    choice.setFocus()
    wanted_pin = a_free_pin(window, BUMPER)
    free = {t.number: t.pin.name for t in window.store.assessment.of(PINS).free}
    row = next(n for n in range(choice.count()) if free.get(int(choice.itemData(n))) == wanted_pin)
    for _ in range(abs(row - choice.currentIndex())):
        QTest.keyClick(choice, Qt.Key.Key_Up if row < choice.currentIndex() else Qt.Key.Key_Down)
    QTest.qWait(1)
    assert not [f for f in window.store.assessment.findings if f.check == "start-pin"]


def test_the_remedy_of_a_boot_pin_moves_it(window, wiring, qtbot):
    finding = next(f for f in window.store.assessment.findings if f.check == "start-pin")
    qtbot.waitUntil(lambda: any(b.text().startswith("→ move it to") for b in wiring.panel.findChildren(type(named(
        wiring, "Solve")))), timeout=5000)  # fmt: skip
    button = next(
        b for b in wiring.panel.findChildren(type(named(wiring, "Solve"))) if b.text().startswith("→ move it")
    )
    button.click()
    assert not [f for f in window.store.assessment.findings if f.id == finding.id]
    window.undo()


def test_a_part_that_needs_two_pins_is_refused_with_the_reason_until_there_is_room(window, wiring, monkeypatch):
    """Own signals until the board is full; a servo's pulse more clashes, and is told with its smallest clash."""
    project = window.store.project
    for n in range(12):
        window.store.attempt(edits.add_own, name=f"Lamp {n}", flows="to the part")
    assert window.store.assessment.measure("spare-pins").value == 0
    window.store.attempt(project_edits.add_item, "sense", part("ultrasonic-range-4-m"), source="buck")
    found = next(f for f in window.store.assessment.findings if f.check == "pins")
    assert found.hard
    assert "pins are wanted at least, of 40" in found.what
    assert window.store.assessment.measure("pins").verdict == "breaks"
    assert "cannot all be had" in wiring.loom.picture.shapes[0].text or window.stage == "wiring"
    said = []
    window.store.refused.connect(said.append)
    named(wiring, "Solve the pins").click()
    assert said[0].startswith("They cannot all be had")
    window.store.attempt(edits.remove_own, value_id="lamp-0")
    window.store.attempt(edits.remove_own, value_id="lamp-1")
    named(wiring, "Solve the pins").click()
    assert all(w.stored for w in window.store.assessment.of(PINS).wired)
    while window.store.can_undo and window.store.project is not project:
        window.undo()
    assert window.store.project is project


def test_signals_are_kept_let_go_and_solved_afresh(window, wiring):
    press(wiring.loom, region_of(window, BUMPER))
    named(wiring, "let it go").click()
    assert not window.store.assessment.of(PINS).at[BUMPER].kept
    named(wiring, "solve afresh").click()
    assert pin_of(window, BUMPER) != "D8"
    named(wiring, "keep all").click()
    assert all(w.kept for w in window.store.assessment.of(PINS).wired)
    press(wiring.loom, region_of(window, BUMPER))
    named(wiring, "what it belongs to").click()
    assert window.store.picked(WiringPick) == WiringPick("items", "bumper")


def test_a_cable_is_lengthened_until_the_drop_breaks_and_thickened(window, wiring):
    press(wiring.cables, "cable motor-leads")
    assert window.store.assessment.of(WIRES).cable("motor-leads").verdict == "holds"
    typed(wiring, "Driver to motors: long", "4 m")
    found = next(f for f in window.store.assessment.findings if f.check == "cable" and f.of == "motor-leads")
    assert found.verdict == "breaks"
    assert "loses too much voltage" in found.title
    typed(wiring, "Driver to motors: gauge (AWG)", "12")
    assert not [f for f in window.store.assessment.findings if f.check == "cable" and f.of == "motor-leads"]
    line = typed(wiring, "Driver to motors: long", "a mile of it")
    assert line.parent().error.text()
    window.undo()
    window.undo()
    assert window.store.assessment.of(WIRES).cable("motor-leads").laid.cable.length_m == 0.4


def test_a_cable_is_added_reaches_parts_and_is_taken_away(window, wiring, monkeypatch):
    menus = []
    monkeypatch.setattr(QMenu, "popup", lambda self, *_: menus.append(self))
    before = window.store.project
    named(wiring, "+ a cable").click()
    answer(monkeypatch, "Sense lead")
    next(a for a in menus[0].actions() if a.text().startswith("Controller")).trigger()
    chosen(wiring, "reach", "battery")
    cable = next(c for c in window.store.project.concept.cables if c.id == "sense-lead")
    assert [r.item for r in cable.reaches] == ["battery"]
    typed(wiring, "Sense lead: gauge (AWG)", "26")
    named(wiring, "Pack 4S 6 Ah LiFePO₄ ✕").click()
    assert window.store.project.concept.cables[-1].reaches == ()
    named(wiring, "take Sense lead away").click()
    assert window.store.project.but(notebook=before.notebook) == before


def test_addresses_controllers_and_signals_of_a_part_are_set(window, wiring):
    press(wiring.loom, "part items imu")
    typed(wiring, "IMU 6-axis: address", "0x69")
    assert (
        window.store.project.concept.items[[i.id for i in window.store.project.concept.items].index("imu")].address
        == 0x69
    )
    line = typed(wiring, "IMU 6-axis: address", "sixty")
    assert "0x68" in line.parent().error.text()
    line = typed(wiring, "IMU 6-axis: address", "0x20")
    assert "can be set to" in line.parent().error.text()
    typed(wiring, "IMU 6-axis: one signal more", "ready")
    assert window.store.assessment.of(PINS).used == 29
    chosen(wiring, "line 2", "interrupt")
    chosen(wiring, "line 2", "")
    assert window.store.assessment.of(PINS).used == 28
    typed(wiring, "IMU 6-axis: high is read from", "3.25 V")
    levels = {x.wired.wish.key.line: x for x in window.store.assessment.of(LEVELS) if x.wired.wish.key.item == "imu"}
    assert levels["clock"].margin_v == pytest.approx(3.3 - 3.25)


def test_a_divider_is_put_before_a_pin_and_taken_away(window, wiring):
    """8.2 kΩ over 10 kΩ leave 0.55 of 3.3 V: 1.81 V are not read from 2.0 V (JESD8C.01, from memory)."""
    before = window.store.project
    press(wiring.loom, "part items bumper")
    field = "Bumper strip, contact: divider of contact"
    typed(wiring, field, "8.2k / 10k")

    def level():
        return next(x for x in window.store.assessment.of(LEVELS) if x.wired.wish.key == BUMPER)

    assert level().verdict == "breaks"
    assert level().margin_v == pytest.approx(3.3 * 10 / 18.2 - 2.0)
    assert typed(wiring, field, "8.2k").parent().error.text().startswith("“8.2k” is no divider")
    assert "no divider" not in typed(wiring, field, "1 / 10k").text()
    assert level().verdict == "holds"
    typed(wiring, field, "")
    assert level().margin_v == pytest.approx(0.8)
    for _ in range(3):
        window.store.undo()
    assert window.store.project.but(notebook=before.notebook) == before


def test_copies_of_a_part_may_share_a_pin_when_the_team_says_so(window, wiring):
    """Two cameras have a select each; said to be chained they still have, since there is room."""
    before = window.store.project
    window.store.apply(project_edits.set_count(before, "camera", 2))
    window.store.pick(WiringPick("items", "camera"))
    QTest.qWait(10)
    names = [x.name for x in own_lines_of(next(i for i in window.store.project.concept.items if i.id == "camera"))]
    number = names.index("select")
    used = window.store.assessment.of(PINS).used
    chosen(wiring, f"common {number}", "common")
    assert window.store.assessment.of(PINS).used == used
    pins = window.store.assessment.of(PINS)
    first, second = (pins.at[Key(item="camera", copy=n, line="select")].tooth for n in (1, 2))
    assert first.pin.name != second.pin.name
    window.store.attempt(edits.lay_thread, Key(item="camera", copy=2, line="select"), first.item.id, first.pin.name)
    assert window.store.assessment.of(PINS).used == used - 1
    for _ in range(3):
        window.store.undo()
    assert window.store.project.but(notebook=before.notebook) == before


def test_what_would_fit_is_asked_in_words(window, wiring, qtbot):
    window.store.pick(WiringPick())
    qtbot.waitUntil(lambda: "would still fit" in wiring.details._fits.text(), timeout=20_000)
    assert "12 plain pins" in wiring.details._fits.text()
    typed(wiring, "Would these fit", "2 interrupts, 1 UART, a servo")
    assert wiring.details.answer.text() == "They fit, on 5 pins more."
    typed(wiring, "Would these fit", "9 interrupts")
    assert wiring.details.answer.text().startswith("They do not fit")
    line = typed(wiring, "Would these fit", "a kettle")
    assert "is not understood" in line.parent().error.text()
    typed(wiring, "A wire may lose", "0.5 %")
    assert window.store.assessment.measure("wire-drop").value > window.store.project.concept.wiring.most_drop
    assert [f for f in window.store.assessment.findings if f.check == "cable" and f.verdict == "breaks"]


def test_a_pin_table_is_taken_from_a_file_and_a_wrong_one_is_said(window, wiring, tmp_path, monkeypatch):
    told = []
    monkeypatch.setattr(QMessageBox, "warning", lambda *a: told.append(a[2]))
    wrong = tmp_path / "wrong.csv"
    wrong.write_text("pin,does\nA,kettle\n")
    press(wiring.loom, region_of(window, pin="A2"))
    before = window.store.project
    wiring.details.read_pins("controller", wrong)
    wiring.details.read_pins("controller", tmp_path / "none.csv")
    assert "kettle" in told[0]
    assert window.store.project is before
    saved = tmp_path / "saved.csv"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(saved), ""))
    named(wiring, "save its pin table").click()
    saved.write_text(saved.read_text() + "Z1,plain; interrupt 9,free,5.5,0.02\n")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(saved), ""))
    named(wiring, "take a pin table").click()
    assert window.store.assessment.of(PINS).pins == 41
    press(wiring.loom, region_of(window, pin="Z1"))
    chosen(wiring, "put", next(d for n in range(99) if (d := wiring.details.fields["put"].itemData(n))))
    assert len(window.store.assessment.of(PINS).on("controller")) > 0
    assert not [t for t in window.store.assessment.of(PINS).free if t.pin.name == "Z1"]


def test_interfaces_are_agreed_and_controls_printed(window, wiring, tmp_path, monkeypatch):
    press_name = named(wiring, "Corer on its plate")
    press_name.click()
    named(wiring, "both sides agree on it").click()
    handed = {h.interface.id: h for h in window.store.assessment.of(HANDED)}
    assert handed["plate"].interface.agreed.on == "2026-11-24"
    typed(wiring, "Corer on its plate: gives", "three M4")
    assert any(
        "looked at again by frame team" in f.what for f in window.store.assessment.findings if f.check == "interface"
    )
    answer(monkeypatch, "Lid on box")
    named(wiring, "+ an interface").click()
    assert isinstance(window.store.project.concept.interfaces[-1], Interface)
    answer(monkeypatch, "Horn")
    named(wiring, "+ a control").click()
    typed(wiring, "Horn: stick, key, button", "green <button>")
    card = tmp_path / "card.html"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(card), ""))
    named(wiring, "save a card to print").click()
    assert "green &lt;button&gt;" in card.read_text()
    assert "two sticks" in card.read_text()


def saved_by(view, window, name, folder, monkeypatch):
    path = folder / name
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(path), ""))
    return path


def test_everything_for_the_bench_is_saved_and_headers_compile(window, wiring, tmp_path, monkeypatch):
    window.store.pick(WiringPick())
    for text, name in (("bench drawing (PDF)", "b.pdf"), ("bench drawing (SVG)", "b.svg"), ("pin table", "pins.csv"),
                       ("cut list", "cut.csv"), ("connector list", "plugs.csv"), ("label sheet", "labels.pdf"),
                       ("pins of Controller 32-bit for C", "pins.h"),
                       ("pins of Controller 32-bit for Python", "pins.py")):  # fmt: skip
        saved_by(wiring, window, name, tmp_path, monkeypatch)
        named(wiring, text).click()
    assert (tmp_path / "b.pdf").read_bytes().startswith(b"%PDF")
    assert (tmp_path / "labels.pdf").read_bytes().startswith(b"%PDF")
    assert "Bumper loom" in (tmp_path / "b.svg").read_text()
    rows = list(csv.DictReader(io.StringIO((tmp_path / "pins.csv").read_text())))
    assert {r["pin"] for r in rows} == {w.tooth.pin.name for w in window.store.assessment.of(PINS).wired}
    cut = list(csv.DictReader(io.StringIO((tmp_path / "cut.csv").read_text())))
    motors = next(r for r in cut if r["cable"] == "Driver to motors")
    assert float(motors["all m"]) == pytest.approx(0.4 * 2 * 4)
    assert "two-pin" in (tmp_path / "plugs.csv").read_text()
    spec = importlib.util.spec_from_file_location("pins", tmp_path / "pins.py")
    made = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(made)
    names = [t.pin.name for t in window.store.assessment.of(PINS).teeth]
    assert names[made.BUMPER_STRIP_CONTACT_1_CONTACT] == "D8"
    assert made.BUMPER_STRIP_CONTACT_1_CONTACT_NAME == "D8"
    assert made.IMU_6_AXIS_ADDRESS == 0x68
    if shutil.which("cc") is None:
        pytest.skip("no C compiler on this machine")
    (tmp_path / "main.c").write_text(
        '#include <stdio.h>\n#include "pins.h"\nint main(void) { printf("%d %s %d", BUMPER_STRIP_CONTACT_1_CONTACT,'
        " BUMPER_STRIP_CONTACT_1_CONTACT_NAME, IMU_6_AXIS_ADDRESS); return 0; }\n"
    )
    built = ["cc", "-std=c99", "-Wall", "-Wextra", "-Werror", "-o", str(tmp_path / "run"), str(tmp_path / "main.c")]
    subprocess.run(built, check=True, capture_output=True)
    out = subprocess.run([tmp_path / "run"], check=True, capture_output=True, text=True).stdout
    assert out == f"{made.BUMPER_STRIP_CONTACT_1_CONTACT} D8 {0x68}"


def test_two_controllers_are_joined_by_hand(window, wiring, monkeypatch):
    window.store.attempt(project_edits.add_item, "think", part("controller-8-bit-3p3-v-small"), source="ldo")
    answer(monkeypatch, "To the small one")
    named(wiring, "+ join two controllers").click()
    join = window.store.project.concept.joins[0]
    assert {join.one, join.other} == {"controller", window.store.project.concept.items[-1].id}
    assert len({w.tooth.number for w in window.store.assessment.of(PINS).wired if w.wish.key.join}) == 4
    assert wiring.loom.region(f"part joins {join.id}")
    answer(monkeypatch, "Lamp")
    named(wiring, "+ a signal of our own").click()
    assert window.store.picked(WiringPick) == WiringPick("own_lines", "lamp")
