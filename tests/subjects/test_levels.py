"""Level shifters: a clash of signals is mended by one that really goes between the two, with channels for all."""

import pytest

import edits
from builders import Link, a_buck, a_load, a_pack, a_part, a_project, plain
from subjects.test_pins import a_board, a_concept, a_thing
from wired_union.catalogue.parts import part
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.project.errors import ProjectError
from wired_union.project.model import Item, Shifter
from wired_union.project.ports import own_lines_of
from wired_union.project.wiring_model import Board, Pin
from wired_union.subjects import assess
from wired_union.subjects.wiring.assess import LEVELS
from wired_union.subjects.wiring.edits import set_line


def wired(sensor_v: float = 5.0, brain_v: float = 3.3, pins: int | None = 2):
    """A sensor that signals at 5 V and a controller of 3.3 V."""
    sensor = a_load("sensor", 0.02, rated_v=5.0, link=Link(bus="I2C", logic_v=sensor_v, pins=pins))
    brain = a_load("brain", 0.1, rated_v=5.0, link=Link(logic_v=brain_v)).but(kind="microcontroller")
    return a_project(a_pack(), a_buck(), sensor, brain, feeds=(("pack", "buck"), ("buck", "sensor"), ("buck", "brain")))


def levels(project):
    return [f for f in assess(project).findings if f.check in {"level", "shifter"}]


def through(project, **figures):
    """The sensor's signals through a level shifter."""
    shifter = a_part(
        "shifter", "level shifter", shifter=Shifter(**{"channels": 4, "low_v": 3.3, "high_v": 5.0, **figures})
    )
    project = edits.add_item(project, "all", shifter).after
    return edits.shift_levels(project, "sensor", "shifter").after


def test_a_level_shifter_is_offered_and_mends_the_clash():
    assessed = assess(wired())
    (clash,) = [f for f in assessed.findings if f.check == "level"]
    assert clash.breaks_hard
    remedies = offered(assessed, clash)
    assert remedies[0][0].label.startswith("add Level shifter")
    mended = remedies[0][0].change.after
    assert not levels(mended)
    new = mended.concept.items[-1]
    assert new.part.kind == "level shifter"
    assert next(i for i in mended.concept.items if i.id == "sensor").shifted_by == new.id


def test_one_that_is_there_already_is_offered_first():
    project = edits.shift_levels(through(wired()), "sensor", "").after
    (clash,) = levels(project)
    assert clash.remedies[0].label == "through shifter"
    assert not levels(clash.remedies[0].change.after)


def test_one_of_other_voltages_mends_nothing_and_says_why():
    (found,) = levels(through(wired(), low_v=1.8, high_v=2.5))
    assert found.breaks_hard
    assert found.what.replace("\u202f", " ") == "It signals at 5 V and 3.3 V; the shifter goes between 1.8 V and 2.5 V."


def test_either_side_may_be_the_higher():
    assert not levels(through(wired(sensor_v=3.3, brain_v=5.0)))


def test_every_signal_wants_a_channel():
    (found,) = levels(through(wired(pins=6)))
    assert found.breaks_hard
    assert found.what == "6 signals go through it; it has 4 channels."
    assert not levels(through(wired(pins=4)))
    (unknown,) = levels(through(wired(pins=None)))
    assert unknown.verdict is Verdict.UNKNOWN


def test_without_its_voltages_nothing_is_known():
    (found,) = levels(through(wired(), high_v=None))
    assert found.verdict is Verdict.UNKNOWN


def test_what_is_no_shifter_passes_no_signals_and_one_that_goes_leaves_none_dangling():
    with pytest.raises(ProjectError, match="is no level shifter"):
        edits.shift_levels(wired(), "sensor", "buck")
    gone = edits.remove_item(through(wired()), "shifter").after
    assert next(i for i in gone.concept.items if i.id == "sensor").shifted_by == ""
    assert levels(gone)[0].breaks_hard


def an_echo(**figures):
    """A part that is triggered and answers, as its class is sold, and a controller that bears 3.6 V."""
    eye = Item(id="eye", name="Eye", subsystem="s", part=part("ultrasonic-range-4-m"), **figures)
    return a_concept(a_board("A: plain", "B: interrupt 1", "C: plain; interrupt 2"), eye)


def wires(project):
    """Of each wire its verdict and what is to spare, in V."""
    found = assess(project).of(LEVELS)
    return {x.wired.wish.line.name: (x.verdict.value, x.margin_v) for x in found}


def change_line(project, name, **figures):
    eye = next(i for i in project.concept.items if i.id == "eye")
    number = [x.name for x in own_lines_of(eye)].index(name)
    return set_line(project, "eye", number, **figures).after


def test_dividers_before_the_pins_that_a_part_gives_a_level_to():
    """8.2 kΩ over 10 kΩ leave 2.75 V of 5 V and 2.42 V of 4.4 V; 3.3 V CMOS reads that from 2.0 V (JESD8C.01, from
    memory). The other way 3.1 V are read from 2.0 V, and 0.2 V up to 0.8 V.
    """
    assessed = assess(an_echo())
    (clash,) = levels(an_echo())
    labels = [r.label for r in clash.remedies]
    assert plain(labels[0]) == "dividers of 8.2 kΩ and 10 kΩ before the pins that it gives a level to"
    assert [words for r, words in offered(assessed, clash) if r.label == labels[0]] == ["then holds"]
    mended = clash.remedies[0].change.after
    assert not levels(mended)
    assert wires(mended) == {
        "trigger": ("holds", pytest.approx(0.6)),
        "echo": ("holds", pytest.approx(0.4176, abs=1e-4)),
    }
    weak = change_line(mended, "echo", upper_ohm=18e3)
    assert wires(weak)["echo"] == ("breaks", pytest.approx(4.4 * 10 / 28 - 2.0))
    (found,) = [f for f in assess(weak).findings if f.check == "wire-level"]
    without = next(r for r in found.remedies if r.label == "without its dividers").change.after
    assert [f.check for f in levels(without)] == ["level"]
    strong = change_line(mended, "echo", upper_ohm=1e3)
    (found,) = [f for f in assess(strong).findings if f.check == "wire-level"]
    assert found.what == "4.55 V come in; 3.6 V are survived."
    half = change_line(mended, "echo", upper_ohm=None)
    assert wires(half)["echo"] == ("unknown", None)
    (gap,) = [f for f in assess(half).findings if f.check == "level-gap"]
    assert gap.what == "Not known yet: Eye: echo: both resistors of its divider."


def test_a_buffer_passes_one_way_and_the_rest_goes_straight():
    """Into it 0.33 V at the most are read as low up to 0.8 V, out of it 0.2 V (JESD8C.01, from memory); it takes one channel of
    two signals. One that passes the other way leaves the echo to hurt the pin.
    """
    project = an_echo()
    (clash,) = levels(project)
    down = next(r for r in clash.remedies if "one way" in r.label).change.after
    new = down.concept.items[-1]
    assert new.part.shifter.passes == "to the low side"
    assert not levels(down)
    assert wires(down) == {"trigger": ("holds", pytest.approx(0.6)), "echo": ("holds", pytest.approx(0.47))}
    up = edits.set_part_value(down, new.id, "shifter.passes", "to the high side").after
    (found,) = [f for f in assess(up).findings if f.check == "wire-level"]
    assert found.what == "5 V come in; 3.6 V are survived."
    one = edits.set_part_value(down, new.id, "shifter.channels", 1).after
    assert not levels(one)
    both = edits.set_count(one, "eye", 2).after
    assert [f.what for f in levels(both)] == ["2 signals go through it; it has 1 channels."]
    silent = edits.set_part_value(down, new.id, "shifter.high_v", None).after
    assert wires(silent)["echo"] == ("unknown", None)


def test_ttl_gives_less_than_its_rail_but_may_give_all_of_it():
    """A TTL output is high from 2.4 V; unloaded it may come to its rail, and that is what a pin must survive."""
    ttl = a_thing("Eye", "v = plain from", logic_v=3.3)
    ttl = ttl.but(part=ttl.part.but(port=ttl.part.port.but(family="TTL")))
    weak = Item(id="brain", name="Brain", subsystem="s", part=a_part(
        "Brain", "microcontroller", link=Link(bus="digital", logic_v=3.3, logic_max_v=3.6),
        board=Board(pins=(Pin(name="A", does=(("plain", "", ""),), max_v=2.5),))))  # fmt: skip
    (found,) = [f for f in assess(a_concept(weak, ttl)).findings if f.check == "wire-level"]
    assert found.what == "3.3 V come in; 2.5 V are survived."
