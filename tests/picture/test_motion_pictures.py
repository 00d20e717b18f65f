"""Drawings of what moves: to scale, inside their frame, readable as text; the motor's chart, the spiral, what swings."""

import math
import re
from xml.etree import ElementTree

import pytest

import edits
from builders import a_pack, a_part, a_project, a_rover, texts, with_load
from wired_union.catalogue.parts import part
from wired_union.picture.shapes import Box, Kit, Line, Poly, Ring, Text
from wired_union.picture.svg import to_svg
from wired_union.project.change import with_concept
from wired_union.project.model import Mount, Spring, Tank
from wired_union.project.place_model import Place
from wired_union.subjects import assess
from wired_union.subjects.motion.assess import MOTION, Shake
from wired_union.subjects.motion.kinds.every import kind_of, named_kind
from wired_union.subjects.motion.picture import CARD_H, drawing, load_card
from wired_union.subjects.motion.picture_motor import motor_chart, spiral_picture, spiral_words
from wired_union.subjects.motion.picture_shakes import shakes_picture
from wired_union.subjects.motion.results import LoadResult, Turning
from wired_union.subjects.motion.spiral import iterate

KIT = Kit()
WIDE, HIGH = 420.0, 220.0


def first(project) -> LoadResult:
    return assess(project).of(MOTION).loads[0]


def with_canopy(**figures):
    canopy = part("parachute-flat-0p6-m")
    project = a_project(canopy, a_part("body", mass_kg=0.8))
    return edits.add_load(project, "canopy", "Load", actuator=canopy.id, mass_kg=1.0, **figures).after


def with_slew(angle_deg: float = 90.0):
    wheel = part("reaction-wheel-60-mm")
    return edits.add_load(a_project(wheel), "slew", "Load", actuator=wheel.id, angle_deg=angle_deg, time_s=4.0).after


SPRING = a_part("spring", "spring", spring=Spring(stiffness_n_per_m=3000, travel_m=0.05, efficiency=0.9))
TANK = a_part("tank", "tank", tank=Tank(volume_m3=4e-4, max_pressure_pa=8e5))


def placed(project):
    """With everything at one place, so that there is a centre of mass."""
    items = tuple(i.but(places=(Place(x_m=0.0, y_m=0.0, z_m=0.05),) * i.count) for i in project.concept.items)
    return with_concept(project, items=items)


MADE = {
    "wheels": lambda: a_rover(),
    "arm": lambda: with_load("arm", actuator="motor", payload_kg=0.3, reach_m=0.2, from_deg=-60, to_deg=80),
    "joint": lambda: with_load("joint", actuator="motor", payload_kg=0.3, link_mass_kg=0.1),
    "swing": lambda: with_load("swing", actuator="motor", amplitude_deg=100.0),
    "grip": lambda: with_load("grip", actuator="motor"),
    "intake": lambda: with_load("intake", actuator="motor"),
    "float": lambda: placed(with_load("float", width_m=0.3)),
    "steady": lambda: placed(with_load("steady", pressure_z_m=0.2)),
    "drum": lambda: with_load("drum", actuator="motor", payload_kg=2.0, drum_diameter_m=0.04),
    "screw": lambda: with_load("screw", actuator="motor", force_n=60.0, stroke_m=0.1),
    "spin": lambda: with_load("spin", actuator="motor", wheel_diameter_m=0.08, release_speed_m_s=8.0),
    "stored": lambda: with_load("stored", SPRING, actuator="motor", store="spring", mass_kg=0.3, release_speed_m_s=4.0),
    "slew": with_slew,
    "canopy": with_canopy,
    "flap": lambda: edits.add_load(a_project(a_part("lid")), "flap", "Load", mass_kg=0.02).after,
}


@pytest.mark.parametrize("scale", [1.0, 1.4])
@pytest.mark.parametrize("kind", MADE)
def test_every_kind_is_drawn_inside_its_frame(kind, scale):
    kit = Kit(scale)
    result = first(MADE[kind]())
    picture = drawing(result, kit, WIDE * scale, HIGH * scale)
    assert len(picture.shapes) > 4
    for s in picture.shapes:
        if isinstance(s, Text):
            wide = kit.ruler(s.text, s.size, s.family, s.bold)
            left = s.x - {"start": 0.0, "middle": wide / 2, "end": wide}[s.anchor]
            assert left >= -0.5 and left + wide <= picture.width + 0.5, s.text
            assert 0 <= s.y <= picture.height, s.text
        if isinstance(s, Ring):
            assert s.r >= 0
        if isinstance(s, Box):
            assert s.w >= 0 and s.h >= 0
    assert all(math.isfinite(v) for s in picture.shapes if isinstance(s, Line) for v in (s.x1, s.y1, s.x2, s.y2))
    ElementTree.fromstring(to_svg(picture))


@pytest.mark.parametrize("kind", MADE)
def test_every_card_says_what_is_asked_with_its_unit(kind):
    result = first(MADE[kind]())
    card = load_card(result, KIT, 190, selected=False)
    assert card.height == KIT.px(CARD_H)
    said = texts(card)
    assert said[0] == ("Drive" if kind == "wheels" else "Load")
    assert result.verdict.value in said
    assert re.search(
        r"\d[\d.]* ?(mm|kg|g|N|m/s|°|s|m)\b|\d°", kind_of(result.load).asked(result.load).replace("\u202f", " ")
    )
    ringed = load_card(result, KIT, 190, selected=True)
    assert (ringed.shapes[0].ink, card.shapes[0].ink) == ("ink", "line")
    assert named_kind(kind).words


def test_a_card_without_its_part_says_what_it_lacks():
    result = first(a_rover(actuator=""))
    assert "lacks what moves it" in texts(load_card(result, KIT, 300, selected=False))


@pytest.mark.parametrize(
    ("project", "hint"),
    [
        (lambda: a_rover(wheel=""), "Say which wheel it runs on."),
        (lambda: with_load("stored", store=""), "Say which spring, elastic or tank stores the energy."),
        (
            lambda: edits.add_load(a_project(a_part("body")), "canopy", "Load").after,
            "Say which parachute lets it down.",
        ),
    ],
)
def test_a_drawing_without_its_part_says_what_to_do(project, hint):
    assert texts(drawing(first(project()), KIT, WIDE, HIGH)) == [hint]


def test_the_step_is_drawn_at_the_scale_of_the_bar():
    """The bar under the drawing is a length to judge by: the step and the wheel must agree with it."""
    result = first(a_rover(slope_deg=0.0, step_m=0.025))
    picture = drawing(result, KIT, WIDE, HIGH)
    bar = next(s for s in picture.shapes if isinstance(s, Line) and s.ink == "mute" and s.y1 == s.y2 == HIGH - 8)
    length = next(s for s in picture.shapes if isinstance(s, Text) and s.y == bar.y1).text.replace("\u202f", " ")
    px_per_m = (bar.x2 - bar.x1) / {"100 mm": 0.1, "50 mm": 0.05, "200 mm": 0.2}[length]
    ground = next(s for s in picture.shapes if isinstance(s, Poly) and len(s.points) == 4)
    assert ground.points[1][1] - ground.points[2][1] == pytest.approx(0.025 * px_per_m)
    wheel = next(s for s in picture.shapes if isinstance(s, Ring))
    assert wheel.r == pytest.approx(0.06 * px_per_m)
    assert wheel.y + wheel.r == pytest.approx(ground.points[0][1])  # it stands on the ground …
    edge = ground.points[2]
    assert math.hypot(edge[0] - wheel.x, edge[1] - wheel.y) == pytest.approx(wheel.r)  # … and touches the edge


def test_the_slope_is_drawn_at_its_angle():
    picture = drawing(first(a_rover(slope_deg=12.0)), KIT, WIDE, HIGH)
    (x1, y1), (x2, y2) = next(s for s in picture.shapes if isinstance(s, Poly) and len(s.points) == 4).points[:2]
    assert math.degrees(math.atan2(y1 - y2, x2 - x1)) == pytest.approx(12.0)
    assert "12° slope" in texts(picture)


def test_stored_energy_stands_next_to_the_motor_alone():
    result = first(MADE["stored"]())
    picture = drawing(result, KIT, WIDE, HIGH)
    bars = [s for s in picture.shapes if isinstance(s, Box) and s.fill in {"moss", "ink", "copper", "breaks"}]
    wide = {b.fill: b.w for b in bars}
    assert wide["moss"] / wide["ink"] == pytest.approx(result.facts["speed_m_s"] / 4.0)
    assert wide["copper"] / wide["ink"] == pytest.approx(result.facts["direct_m_s"] / 4.0)
    assert {"stored", "wanted", "motor alone", "motor brakes from"} <= set(texts(picture))
    tank = first(with_load("stored", TANK, store="tank", mass_kg=0.1, release_speed_m_s=5.0))
    assert "motor alone" not in texts(drawing(tank, KIT, WIDE, HIGH))  # nothing winds it


def test_a_slew_beyond_a_turn_and_a_canopy_without_wind_can_be_drawn():
    assert "720° in 4 s" in texts(drawing(first(with_slew(720.0)), KIT, WIDE, HIGH))
    still = drawing(first(with_canopy(wind_m_s=0.0)), KIT, WIDE, HIGH)
    path = next(s for s in still.shapes if isinstance(s, Line) and s.ink == "slate")
    assert path.x1 == path.x2  # straight down
    blown = drawing(first(with_canopy(wind_m_s=8.0)), KIT, WIDE, HIGH)
    path = next(s for s in blown.shapes if isinstance(s, Line) and s.ink == "slate")
    assert path.x2 > path.x1


# the motor under its load


def test_the_chart_has_each_operating_point_on_the_speed_line():
    result = first(a_rover())
    chart = motor_chart(result, KIT, 500, 270)
    (x0, y0), (x1, y1) = next(
        s for s in chart.shapes if isinstance(s, Poly) and s.ink == "copper" and s.width == 2.4
    ).points
    rings = [s for s in chart.shapes if isinstance(s, Ring)]
    assert len(rings) == len(chart.regions) == len(result.points)
    for ring in rings:
        assert ring.y == pytest.approx(y0 + (y1 - y0) * (ring.x - x0) / (x1 - x0))
    for region, point in zip(chart.regions, result.points, strict=True):
        assert region.label.startswith(f"{point.name}: ")
        assert region.label.replace("\u202f", " ").endswith(" A") or "mA" in region.label


def test_the_sagging_line_lies_below_and_the_bands_do_not_pass_the_stall():
    chart = motor_chart(first(a_rover()), KIT, 500, 270)
    solid = next(s for s in chart.shapes if isinstance(s, Poly) and s.ink == "copper" and not s.dash)
    sagging = next(s for s in chart.shapes if isinstance(s, Poly) and s.ink == "copper" and s.dash)
    assert sagging.points[0][1] > solid.points[0][1]
    assert sagging.points[1][0] < solid.points[1][0]
    bands = [s for s in chart.shapes if isinstance(s, Box) and s.fill in {"soft", "tight_soft"}]
    assert bands[0].x + bands[0].w == pytest.approx(bands[1].x)
    assert bands[1].x + bands[1].w <= solid.points[1][0] + 1e-9


def test_the_efficiency_line_peaks_where_the_closed_form_says():
    """Torque of best efficiency is sqrt(I0·Istall) − I0 times the torque constant: the linear motor model, by hand."""
    result = first(a_rover())
    chart = motor_chart(result, KIT, 500, 270)
    line = next(s for s in chart.shapes if isinstance(s, Poly) and s.ink == "moss")
    motor, volts = result.drive.motor, result.drive.nominal_v
    top = min(line.points, key=lambda p: p[1])
    stall_x = max(p[0] for p in line.points)
    zero_x = min(p[0] for p in line.points)
    stall_a = volts / motor.resistance_ohm
    torque = motor.torque_n_m_per_a * (math.sqrt(motor.no_load_current_a * stall_a) - motor.no_load_current_a)
    expected = torque / motor.stall_torque_at(volts)
    assert (top[0] - zero_x) / (stall_x - zero_x) == pytest.approx(expected, abs=1 / 60)


def test_a_load_without_a_motor_says_what_the_chart_needs():
    said = texts(motor_chart(first(a_rover(actuator="")), KIT, 500, 270))
    assert said == ["No motor yet: the chart needs its torque, speed and currents."]


def test_a_blocked_motor_has_no_point_beyond_its_stall():
    chart = motor_chart(first(a_rover(slope_deg=60.0, rolling_resistance=2.0, driven_wheels=1)), KIT, 500, 270)
    assert all(0 <= s.x <= 500 and 0 <= s.y <= 270 for s in chart.shapes if isinstance(s, Ring))


# the spiral, what turns and what swings


def test_a_spiral_that_settles_and_one_that_does_not():
    calm = iterate(2.0, 0.2, 0.3, 0.3, 1.0)
    assert "settles after" in spiral_words(calm)
    assert "4.6 kg" in spiral_words(calm).replace("\u202f", " ")  # (2 + 0.3) / (1 − 0.5)
    rings = [s for s in spiral_picture(calm, KIT, 180, 92).shapes if isinstance(s, Ring)]
    assert [r.y for r in rings] == sorted((r.y for r in rings), reverse=True)  # heavier is higher
    wild = iterate(2.0, 0.8, 0.3, 0.4, 1.0)
    assert wild.settles_kg is None
    assert "It does not settle" in spiral_words(wild)
    assert all(0 <= r.y <= 92 for r in spiral_picture(wild, KIT, 180, 92).shapes if isinstance(r, Ring))


def test_what_swings_has_its_band_on_a_line_of_decades():
    assert texts(shakes_picture((), KIT, 400)) == ["Name what can swing, and it is held against everything that turns."]
    mast = Mount(id="mast", name="Mast", frequency_hz=10.0)
    wheel, rotor = Turning("wheel", 1.0, 1.0, 1.0), Turning("rotor", 100.0, 100.0, 110.0)
    picture = shakes_picture((Shake(mast, 10.0, "wheel", wheel), Shake(mast, 10.0, "rotor", rotor)), KIT, 400)
    one, hundred = sorted(s.x for s in picture.shapes if isinstance(s, Box) and s.fill == "copper")
    level = [s for s in picture.shapes if isinstance(s, Line) and s.ink == "copper" and s.y1 == s.y2]
    runs_up = sorted(s.x2 for s in level)
    assert runs_up == [one, hundred]  # the dotted line ends where the bar begins
    band = next(s for s in picture.shapes if isinstance(s, Box) and s.fill == "tight_soft")
    decade = (hundred - one) / 2
    assert band.w == pytest.approx(decade * math.log10(1.2 / 0.8))
    assert band.ink == "holds"
    said = picture.regions[0].label.replace("\u202f", " ")
    assert said.startswith("Mast swings at 10 Hz; the nearest is 90 % away")
    assert "rotor run through it on the way up" in said  # 100 Hz is reached through 10 Hz, 1 Hz is not
    assert "10 Hz, run through" in texts(picture)
    for turning, times in ((Turning("wheel", 11.0, 11.0, 11.0), 1), (Turning("wheel", 5.0, 4.0, 6.0), 2)):
        near = shakes_picture((Shake(mast, 10.0, "wheel", turning, "", times),), KIT, 400)
        assert "10 Hz" in texts(near)
        assert next(s for s in near.shapes if isinstance(s, Box) and s.fill == "tight_soft").ink == "tight"


def test_a_pack_alone_has_nothing_to_move():
    assert assess(a_project(a_pack())).of(MOTION).loads == ()


def test_no_line_of_a_point_runs_through_the_words_of_the_efficiency():
    chart = motor_chart(first(a_rover()), KIT, 500, 270)
    words = next(s for s in chart.shapes if isinstance(s, Text) and s.text.startswith("efficiency"))
    right = words.x + KIT.ruler(words.text, words.size, words.family, words.bold)
    assert [s.x for s in chart.shapes if isinstance(s, Ring) and words.x <= s.x <= right] == []
