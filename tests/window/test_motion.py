"""Motion in the real window: size a drive, drag what is asked, switch two and four, change the ratio, undo."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel, QLineEdit

import edits
from builders import texts
from wired_union.picture.shapes import Ring
from wired_union.subjects.mass.gives import MASS
from wired_union.subjects.motion.pick import MotionPick
from wired_union.ui.findings import ChangeButton
from wired_union.ui.slider import STEPS

from .hands import answer, click, named, typed


@pytest.fixture
def motion(window):
    window.go("motion")
    return window.views["motion"]


def drive(window):
    return next(x for x in window.store.project.concept.loads if x.id == "drive")


def test_a_drive_is_sized_for_a_slope_and_a_step(window, motion):
    before = window.store.project
    typed(motion, "Drive: slope", "20°")
    typed(motion, "Drive: step", "40 mm")
    assert (drive(window).slope_deg, drive(window).step_m) == (20.0, 0.04)
    assert "breaks" in motion.cards["drive"].accessibleName() or "tight" in motion.cards["drive"].accessibleName()
    typed(motion, "Drive: slope", "12")
    typed(motion, "Drive: step", "1 in")
    assert drive(window).step_m == 0.0254
    assert "25.4 mm step" in " ".join(texts(motion.drawn.picture))
    line = typed(motion, "Drive: slope", "steep")
    assert line.text() == "steep"
    assert drive(window).slope_deg == 12.0
    while window.store.can_undo:
        window.undo()
    assert window.store.project is before


def test_two_and_four_driven_wheels(window, motion):
    before = window.store.project
    four = window.store.assessment.measure("mass").value
    two = named(motion, "two driven")
    two.setFocus()
    assert window.strip.ring_of("mass").value < four
    assert window.strip.ring_of("runtime") is not None
    click(two)
    assert drive(window).driven_wheels == 2
    assert next(i for i in window.store.project.concept.items if i.id == "gearmotor").count == 2
    assert "Drive: 2 wheels driven" in window.ripple_line.text
    click(named(motion, "four driven"))
    assert window.store.assessment.measure("mass").value == pytest.approx(four)
    window.undo()
    window.undo()
    assert window.store.project is before


def test_another_ratio_moves_the_strip_and_is_undone(window, motion):
    before = window.store.project
    gear = next(b for b in motion.panel.findChildren(ChangeButton) if b.text().startswith("120:1"))
    gear.setFocus()
    assert window.strip.ring_of("speed:drive").value < window.store.assessment.measure("speed:drive").value
    assert window.strip.ring_of("runtime").value > window.store.assessment.measure("runtime").value
    click(gear)
    assert "Drive speed −" in window.ripple_line.text
    assert "Runtime +" in window.ripple_line.text
    assert motion._chart_title.text() == "Gearmotor 25 mm 12 V 120:1"
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.store.project is before


def test_a_slider_shows_where_it_would_land_and_lands_when_let_go(window, motion):
    before = window.store.project
    slider = motion.sliders["slope_deg"].slider
    slider.setSliderDown(True)
    slider.setValue(STEPS * 2 // 3)
    assert window.store.project is before  # only looked at
    assert window.strip.ring_of("speed:drive").value < window.store.assessment.measure("speed:drive").value
    assert "20° slope" in texts(motion.drawn.picture)
    slider.setSliderDown(False)
    assert drive(window).slope_deg == pytest.approx(20.0)
    window.undo()
    assert motion.sliders["slope_deg"].slider.value() == round(STEPS * 12 / 30)
    QTest.keyClick(slider, Qt.Key.Key_Right)
    assert drive(window).slope_deg == pytest.approx(12.1)


def test_every_kind_of_load_is_added_drawn_and_taken_out(window, motion, monkeypatch):
    from wired_union.subjects.motion.kinds.every import every_kind

    for kind in every_kind():
        answer(monkeypatch, f"New {kind}")
        motion.add(kind)
        assert motion.result.load.kind == kind
        assert motion.drawn.picture.shapes
        assert motion.sliders
        QTest.qWait(1)
    assert len(motion.cards) == 2 + len(every_kind())
    click(named(motion, "It need not move"))
    assert len(motion.cards) == 1 + len(every_kind())


def test_the_screw_and_the_stored_energy_of_the_demo(window, motion):
    click(motion.cards["corer"])
    assert "stroke 180 mm" in texts(motion.drawn.picture)
    assert motion._chart_card.isHidden()  # an actuator with its own screw has no motor chart
    window.switch_concept("b")
    click(motion.cards["core-ejector"])
    shown = texts(motion.drawn.picture)
    assert {"stored", "wanted", "motor alone", "motor brakes from"} <= set(shown)
    typed(motion, "Core ejector: measured curve", "0 mm: 0 N, 50 mm: 100 N")
    assert window.store.project.concept.loads[2].curve == ((0.0, 0.0), (0.05, 100.0))
    line = typed(motion, "Core ejector: measured curve", "50 mm")
    assert line.property("bad")


def test_a_motor_is_chosen_and_a_screw_has_ends(window, motion, monkeypatch):
    from wired_union.ui.fields import Choice

    answer(monkeypatch, "Winch screw")
    motion.add("screw")
    QTest.qWait(1)

    def choice(name):
        QTest.qWait(1)
        return next(
            c for c in motion.panel.findChildren(Choice) if c.accessibleName() == name and c.isVisibleTo(motion.panel)
        )

    mover = choice("Winch screw: actuator")
    mover.setCurrentIndex(mover.findData("gearmotor"))
    mover.activated.emit(mover.currentIndex())
    assert motion.result.drive is not None
    QTest.qWait(1)
    ends = choice("ends")
    ends.setCurrentIndex(ends.findData("fixed-free"))
    ends.activated.emit(ends.currentIndex())
    switches = choice("limit switches")
    switches.setCurrentIndex(switches.findData("yes"))
    switches.activated.emit(switches.currentIndex())
    load = motion.result.load
    assert (load.ends, load.limit_switches) == ("fixed-free", True)


def test_what_swings_and_the_room_from_the_panel(window, motion, monkeypatch):
    answer(monkeypatch, "Lamp")
    click(named(motion, "+ something that can swing"))
    typed(motion, "Lamp: frequency", "99 Hz")
    assert any(f.title == "Lamp shakes" for f in window.store.assessment.findings)
    click(named(motion, "Watch it no longer"))
    assert not any(f.title == "Lamp shakes" for f in window.store.assessment.findings)
    motion.shakes.chosen.emit("probe-mast")
    typed(motion, "Probe mast: stiffness", "2000 N/m")
    assert window.store.project.concept.mounts[0].stiffness_n_per_m == 2000
    click(named(motion, "Back to the load"))
    typed(motion, "gate width", "200 mm")
    typed(motion, "gate height", "20 cm")
    assert any(f.id == "room:deck" for f in window.store.assessment.findings)
    typed(motion, "gate width", "")
    assert not any(f.id == "room:deck" for f in window.store.assessment.findings)
    assert window.store.project.brief.space.gate_width_m is None


def test_the_strip_leads_to_motion_and_points_can_be_read(window, motion):
    window.go("brief")
    click(window.strip.cell("speed:drive"))
    assert window.stage == "motion"
    labels = [r.label.replace("\u202f", " ") for r in motion.chart.picture.regions]
    assert labels[0].startswith("usual: ")
    assert all(x.endswith((" A", "mA")) for x in labels)
    assert sum(isinstance(s, Ring) for s in motion.chart.picture.shapes) == 3
    QTest.keyClick(window, Qt.Key.Key_6, Qt.KeyboardModifier.AltModifier)
    assert window.stage == "motion"


def test_a_project_without_loads_says_what_to_do(open_window):
    window = open_window(demo="bat-counter")
    window.go("motion")
    view = window.views["motion"]
    assert view._title.text() == "Nothing has to move yet"
    assert view.cards == {}


def test_the_rotor_seen_through_the_gear_is_said(window, motion):
    """5.5 g·cm² behind 100:1 is 5.5 g·cm² × 100²; with the ratio that accelerates the wheels fastest (inertia matching)."""
    QTest.qWait(1)
    said = [x.text().replace("\u202f", " ") for x in motion.panel.findChildren(QLabel)]
    line = next(x for x in said if x.startswith("Rotor seen through the gear"))
    assert "0.0055 kg·m²" in line
    mass = window.store.assessment.of(MASS).total_kg / 4
    assert f"Fastest acceleration at {(mass * 0.06**2 / 5.5e-7) ** 0.5:.0f}:1." in line
    window.store.attempt(edits.set_part_value, "gearmotor", "motor.rotor_inertia_kg_m2", None)
    QTest.qWait(1)
    said = [x.text() for x in motion.panel.findChildren(QLabel)]
    assert "Reflected inertia: the rotor's own is not given." in said


def test_a_form_has_no_fields_that_say_nothing(window):
    """The demo's corer is an actuator with a screw of its own: no thread to describe; a motor on a screw has one."""
    window.go("motion")
    window.store.pick(MotionPick("corer"))
    view = window.views["motion"]

    def asked() -> set[str]:
        QTest.qWait(1)  # what was just laid out is shown
        return {
            x.accessibleName().removeprefix("Corer: ")
            for x in view.panel.findChildren(QLineEdit)
            if x.isVisibleTo(view.panel)
        }

    assert {"force", "stroke", "time"} <= asked()
    assert not {"lead", "mean diameter", "friction", "ratio"} & asked()
    window.store.attempt(edits.set_load, "corer", actuator="gearmotor")
    assert {"lead", "mean diameter", "friction", "ratio"} <= asked()
