"""In the window: a heater sized until the pack is known in the cold, a panel sized until a day gives what it takes."""

import pytest
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton

from wired_union.app.screenshots_power import sunny_roost
from wired_union.catalogue.parts import of_kind
from wired_union.project import edits
from wired_union.subjects.brief.edits import set_air
from wired_union.subjects.power.node import HEATING
from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.power.warmth.edits import set_air_curve

from .hands import click, typed
from .test_spread import until

COLD_C = -12.0


def at_power(window, project):
    window.hold(project, None)
    window.go("power")
    QTest.qWait(1)
    return window.views["power"]


@pytest.fixture
def frozen(window):
    """The rover in the frost, its pack in the box, a heater on the shelf of its parts."""
    project = set_air(window.store.project, "coldest_c", COLD_C).after
    project = set_air_curve(project, starts_c=15.0).after
    heater = next(p for p in of_kind("heater") if p.load is not None and (p.load.rated_v or 0) >= 12)
    project = edits.add_item(project, "feed", heater).after
    project = edits.feed_from(project, project.concept.items[-1].id, "bus").after
    return at_power(window, project), project.concept.items[-1]


def sized(view, name: str):
    """The remedy that takes more of a panel, once it is worked out."""
    made = (b for b in view.panel.findChildren(QPushButton) if b.isVisibleTo(view.panel))
    return next((b for b in made if name.split()[0] in b.text() and " × " in b.text() and "then" in b.text()), None)


def test_a_heater_is_said_to_keep_the_pack_warm_and_pays_from_it(window, frozen):
    view, heater = frozen
    assert any("its capacity and resistance at" in m for m in window.store.assessment.measure("runtime").missing)
    click(view.span.buttons["warmth"])
    window.store.change(PowerPick, node=heater.id)
    QTest.qWait(1)
    bad = typed(view, f"{heater.name}: heater keeps it at", "warm")
    assert bad.text() == "warm"
    view.span.warmth._set_part(heater.id, lambda _: None, "plate", "battery")
    typed(view, f"{heater.name}: heater keeps it at", "5 °C")
    shares = window.store.assessment.of(HEATING).shares[0]
    assert shares[0] == heater.id
    assert 0 < max(shares[1]) <= 1
    assert dict(window.store.assessment.of(HEATING).packs_c)["battery"] == pytest.approx(5.0, abs=0.1)
    assert not any("battery" in f.items and f.check == "missing" for f in window.store.assessment.findings)
    warm = window.store.assessment.measure("runtime").value
    typed(view, "Electronics box: foam", "20 mm")
    assert window.store.assessment.measure("runtime").value > warm
    window.undo()
    window.undo()
    window.undo()
    assert window.store.assessment.measure("runtime").missing


def test_a_panel_is_sized_until_a_day_gives_what_it_takes(window):
    view = at_power(window, sunny_roost())
    click(view.span.buttons["sun"])
    typed(view, "The site: latitude, north", "58")
    measure = window.store.assessment.measure("energy-balance")
    assert measure.value < 0
    panel = next(i for i in window.store.project.concept.items if i.part.panel is not None)
    until(lambda: sized(view, panel.name) is not None)
    click(sized(view, panel.name))
    assert window.store.assessment.measure("energy-balance").value > 0
    assert "A usual day brings" in "".join(
        w.text() for w in view.panel.findChildren(type(view.span.spread._said)) if "A usual day" in w.text()
    )
    typed(view, "The site: latitude, north", "95")
    assert window.store.project.brief.site.latitude_deg == 58.0
    window.undo()
    assert window.store.assessment.measure("energy-balance").value < 0
