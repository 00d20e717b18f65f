"""Every view in every look opens without a warning, fits its frame, and does what its own controls promise."""

import logging

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QScrollArea

from wired_union.kernel.subject import Selection
from wired_union.picture.palette import DARK
from wired_union.picture.shapes import Text
from wired_union.project.model import Limit
from wired_union.subjects import subjects
from wired_union.subjects.brief.edits import add_limit
from wired_union.subjects.power.picture_mission import EdgeMark
from wired_union.subjects.timing.pick import TimingPick
from wired_union.ui.places import Settings
from wired_union.ui.theme import Theme

from .conftest import ready

STAGES = ("brief", "concepts", "parts", "candidates", "combination", "motion", "power", "mass", "timing")


@pytest.fixture(autouse=True)
def _no_qt_warnings(qtlog):
    """Qt says nothing at warning level or above while a view is shown."""
    yield
    said = [r.message for r in qtlog.records if r.type.name in {"QtWarningMsg", "QtCriticalMsg"}]
    offscreen = "This plugin does not support"  # the offscreen platform's own remark, not ours
    assert [m for m in said if offscreen not in m] == []
    logging.getLogger().debug("quiet")


@pytest.mark.parametrize("demo", ["mudlark", "bat-counter"])
@pytest.mark.parametrize("size", [(1280, 800), (1024, 700)])
def test_every_view_opens(open_window, qtbot, demo, size):
    window = open_window(demo=demo, size=size)
    for stage in STAGES:
        window.go(stage)
        qtbot.wait(5)
        assert window.work.currentWidget() is window.views[stage]
        bar = window.views[stage].horizontalScrollBar()
        assert bar.maximum() == 0, f"{stage} is wider than its frame"
        panel = window.views[stage].panel
        assert isinstance(panel, QScrollArea)
        assert panel.horizontalScrollBar().maximum() <= 2, f"the panel of {stage} is wider than its frame"


@pytest.mark.parametrize("scale", [1.0, 1.5])
@pytest.mark.parametrize("size", [pytest.param((1280, 800), marks=pytest.mark.slow), (1024, 700)])
def test_no_text_leaves_its_picture(open_window, qtbot, scale, size):
    """Measured with the fonts on screen: every text of every picture lies inside the picture."""
    window = open_window(size=size)
    window.scale_text(scale)
    from wired_union.ui.canvas import Canvas, PictureButton

    for stage in STAGES:
        window.go(stage)
        qtbot.wait(5)
        for widget in [*window.findChildren(Canvas), *window.findChildren(PictureButton)]:
            if not widget.isVisible():
                continue
            for text in (s for s in widget.picture.shapes if isinstance(s, Text)):
                width = window.theme.width(text.text, text.size, text.family, text.bold)
                left = {"start": text.x, "end": text.x - width, "middle": text.x - width / 2}[text.anchor]
                assert left >= -2, (stage, text)
                assert left + width <= widget.picture.width + 3, (stage, text)


def test_themes_and_sizes_are_kept(window, places):
    window.set_theme("dark")
    assert window.theme.palette is DARK
    window.scale_text(1.15)
    assert window.theme.scale == pytest.approx(1.15)
    assert places.read_settings().theme == "dark"
    assert places.read_settings().text_size == pytest.approx(1.15)
    window.scale_text(0)
    window.set_theme("light")
    assert places.read_settings() == Settings("light", 1.0, ())
    assert Theme.named("light", 1.0).palette.name == "light"


def test_broken_settings_cost_no_more_than_the_settings(places):
    places.settings_file.parent.mkdir(parents=True)
    places.settings_file.write_text("{", encoding="utf-8")
    assert places.read_settings() == Settings()


def press(line, text):
    line.setFocus()
    line.selectAll()
    QTest.keyClicks(line, text)
    QTest.keyClick(line, Qt.Key.Key_Return)


def test_a_limit_is_edited_in_place(window):
    window.go("brief")
    view = window.views["brief"]
    QTest.mouseClick(view.rows["mass"], Qt.MouseButton.LeftButton)
    press(view._fields["value"].line, "7.9 kg")
    assert window.store.project.brief.limit("mass").value == 7.9
    assert "breaks" in view.rows["mass"].accessibleName()
    press(view._fields["value"].line, "0")
    assert view._fields["value"].error.text() == "A limit is a number above zero."
    press(view._fields["value"].line, "8.5 kg")
    press(view._fields["reserve"].line, "2 %")
    assert "holds" in view.rows["mass"].accessibleName()
    press(view._fields["proof"].line, "bathroom scale")
    assert window.store.project.brief.limit("mass").proof == "bathroom scale"
    press(view._fields["mass_margin"].line, "20 %")
    assert window.store.project.brief.mass_margin == 0.2


def test_any_computed_measure_can_be_limited_and_dropped(window, qtbot):
    window.go("brief")
    view = window.views["brief"]
    view._add_limit(window.store.assessment.all_measures["chain:core-limit"])
    assert window.store.project.brief.limit("chain:core-limit").value == 0.07
    assert window.store.picked(Selection).measure == "chain:core-limit"
    assert "chain:core-limit" in view.rows
    assert window.strip.cell("chain:core-limit")
    QTest.mouseClick(view.add_button, Qt.MouseButton.LeftButton)
    from PyQt6.QtWidgets import QApplication

    menu = QApplication.activePopupWidget()
    names = [a.text() for a in menu.actions()]
    assert any(n.startswith("Parts (now 35)") for n in names)
    assert any(n.startswith("Pack energy") for n in names)
    menu.close()


def test_the_brief_says_what_nothing_informs(window):
    window.go("brief")
    view = window.views["brief"]
    assert view._uninformed.text() == ""
    window.store.attempt(
        add_limit, Limit(measure="charge-cycles", name="Charged by then", value=2.0, direction="at least")
    )
    assert view._uninformed.text() == "Nothing yet informs: charged by then."
    assert "unknown" in view.rows["charge-cycles"].accessibleName()


def test_mode_buttons_show_each_mode_and_the_worst_instant(window):
    window.go("power")
    view = window.views["power"]
    assert [b.text() for b in view.mode_buttons.values()] == ["Drive", "Core", "Report", "Idle", "Worst instant"]
    QTest.mouseClick(view.mode_buttons["core"], Qt.MouseButton.LeftButton)
    assert view.tree.region("leadscrew").label.replace("\u202f", " ").split(", ")[1] == "880 mA"
    QTest.mouseClick(view.mode_buttons["worst"], Qt.MouseButton.LeftButton)
    assert "10.9 A" in view.tree.region("gearmotor").label.replace("\u202f", " ")


def test_dragging_an_edge_previews_and_then_changes_the_mission(window, qtbot):
    window.go("power")
    view = window.views["power"]
    edge = view.chart.region("edge:0")
    start = QPoint(round(edge.x + edge.w / 2), round(edge.y + edge.h / 2))
    QTest.mousePress(view.chart, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(view.chart, start + QPoint(20, 0))
    qtbot.wait(1)
    view.chart.dragged.emit(EdgeMark(0), 20.0)
    assert window.strip.ring_of("runtime") is not None
    before = window.store.project.concept.mission
    QTest.mouseRelease(view.chart, Qt.MouseButton.LeftButton, pos=start + QPoint(20, 0))
    after = window.store.project.concept.mission
    assert after.phases[0].duration_s > before.phases[0].duration_s
    assert after.cycle_s == before.cycle_s
    assert window.strip.ring_of("runtime") is None


def test_hovering_the_mission_reads_it(window):
    window.go("power")
    view = window.views["power"]
    curve = view.chart.region("curve")
    text = view.chart.reader(curve, curve.x + 60).replace("\u202f", " ")
    assert "A, " in text and "V, " in text and "left" in text
    QTest.mouseMove(view.chart, QPoint(round(curve.x + 60), round(curve.y + 20)))


def test_modes_and_phases_from_the_panel(window, monkeypatch, qtbot):
    window.go("power")
    view = window.views["power"]
    monkeypatch.setattr("wired_union.ui.ask.word", lambda *a, **k: ("Wash", True))
    view._add_mode()
    assert window.store.project.concept.modes[-1].name == "Wash"
    assert view.mode == "wash"
    from wired_union.ui.fields import EntryField

    fields = {f.line.accessibleName(): f for f in view.panel.findChildren(EntryField)}
    field = next(f for n, f in fields.items() if n.startswith("Duration of phase 6"))
    press(field.line, "30 min")
    assert window.store.project.concept.mission.phases[-1].duration_s == 1800
    fields = {f.line.accessibleName(): f for f in view.panel.findChildren(EntryField) if f.line.text()}
    press(next(f for n, f in fields.items() if n.startswith("Duration of phase 6")).line, "0")
    assert len(window.store.project.concept.mission.phases) == 5


def test_weighing_a_part_takes_its_allowance_away(window):
    window.go("mass")
    view = window.views["mass"]
    region = view.bars.region("core-tube")
    QTest.mouseClick(view.bars, Qt.MouseButton.LeftButton,
                     pos=QPoint(round(region.x + region.w / 2), round(region.y + region.h / 2)))  # fmt: skip
    assert window.store.picked(Selection).item == "core-tube"
    from wired_union.ui.fields import EntryField

    (field,) = [f for f in view.panel.findChildren(EntryField) if f.line.accessibleName() == "Mass on the scale"][-1:]
    press(field.line, "588 g")
    item = next(i for i in window.store.project.concept.items if i.id == "core-tube")
    assert (item.part.mass_kg, item.knowledge) == (0.588, "measured")


def test_a_stage_of_a_chain_is_edited(window):
    window.go("timing")
    view = window.views["timing"]
    window.store.pick(TimingPick("bump-to-stop", 1))
    press(view.fields["most_s"].line, "80 ms")
    assert "breaks" not in view.fields["most_s"].error.text()
    chain = window.store.project.concept.chains[0]
    assert chain.stages[1].most_s == 0.08
    assert window.store.assessment.measure("chain:bump-to-stop").value == pytest.approx(0.240, abs=2e-3)
    window.store.pick(TimingPick("bump-to-stop", 6))
    press(view.fields["least_s"].line, "2 s")
    assert "least time is above the most" in view.fields["least_s"].error.text()
    view._add_stage("bump-to-stop", chain.stages[0].but(name="brake"))
    assert window.store.project.concept.chains[0].stages[-1].name == "brake"


def test_a_chain_is_added_from_nothing(window, monkeypatch):
    window.go("timing")
    monkeypatch.setattr("wired_union.ui.ask.word", lambda *a, **k: ("Probe to log", True))
    window.views["timing"]._add_chain()
    assert window.store.project.concept.chains[-1].id == "probe-to-log"
    assert "probe-to-log" in window.views["timing"].canvases
    assert window.store.assessment.all_measures["chain:probe-to-log"].verdict == "unknown"


def test_alternatives_of_every_part_of_the_demo_can_be_shown(window, qtbot):
    for item in ("ldo", "controller", "mast", "cables"):
        window.go_to_item(item)
        view = window.views["parts"]
        qtbot.waitUntil(lambda v=view: v.tries_ready, timeout=20_000)
    assert ready(window, qtbot, "camera").try_list.cards


def test_the_rail_names_what_the_views_are(window):
    for subject in subjects():
        view = subject.load(subject.view)
        assert (view.stage, view.title) == (subject.id, subject.title)
        assert window.rail.button(subject.id).toolTip().startswith(subject.title)
