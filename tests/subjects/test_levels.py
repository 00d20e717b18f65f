"""Level shifters: a clash of signals is mended by one that really goes between the two, with channels for all."""

import pytest

import edits
from builders import Link, a_buck, a_load, a_pack, a_part, a_project
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.project.errors import ProjectError
from wired_union.project.model import Shifter
from wired_union.subjects import assess


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
