"""The margin strip: what breaks keeps its name and place; what holds gathers where there is no room."""

import pytest

from builders import texts
from wired_union.kernel.results import Measure, Verdict
from wired_union.picture.shapes import Kit, Line, Text
from wired_union.picture.strip import MOST_THIN, arrange, bundle_cell, cell_least, strip_cell

KIT = Kit()


def limits(breaks: int = 1, tight: int = 1, unknown: int = 1, holds: int = 0) -> tuple[Measure, ...]:
    """So many limits of each verdict, mixed."""
    values = (
        [("breaks", 20.0)] * breaks
        + [("tight", 9.5)] * tight
        + [("unknown", None)] * unknown
        + [("holds", 5.0)] * holds
    )
    mixed = [*values[::2], *values[1::2]]
    return tuple(Measure(f"m{n}", f"Some {word} limit", v, "kg", 10.0) for n, (word, v) in enumerate(mixed))


@pytest.mark.parametrize("room", [700.0, 1024.0, 1280.0, 2000.0])
@pytest.mark.parametrize("holds", [0, 3, 9, 17])
def test_what_does_not_hold_keeps_its_name(room, holds):
    measures = limits(2, 2, 1, holds)
    found = arrange(measures, KIT, room)
    assert sorted(m.id for m in (*found.shown, *found.bundled)) == sorted(m.id for m in measures)
    assert [m.id for m in found.shown] == [m.id for m in measures if m in found.shown], "in the brief's order"
    gathered = {m.verdict for m in found.bundled}
    assert gathered <= {Verdict.HOLDS, Verdict.UNKNOWN}
    if Verdict.UNKNOWN in gathered:
        assert all(m.value is None for m in found.bundled if m.verdict is Verdict.UNKNOWN)
        assert not any(m.verdict is Verdict.HOLDS for m in found.shown), "what holds gives way first"
    if room >= 1024 and not gathered <= {Verdict.HOLDS}:
        pytest.fail("there is room for five names")


@pytest.mark.parametrize("count", [12, 20])
def test_many_limits_stay_readable_in_one_row(count):
    found = arrange(limits(1, 2, 1, count - 4), KIT, 1280.0)
    assert found.cell_w * len(found.shown) + found.bundle_w <= 1280.5
    for m in found.shown:
        assert found.cell_w >= cell_least(m, KIT)


def test_nothing_of_a_limit_is_cut_at_its_least_width():
    for measure in (
        *limits(1, 1, 1, 1),
        Measure("runtime", "Runs a whole tide and back", 15712.0, "s", 18000.0, "at least"),
    ):
        picture = strip_cell(measure, KIT, cell_least(measure, KIT), 76.0)
        assert not any("…" in t for t in texts(picture)), texts(picture)
        for shape in picture.shapes:
            if isinstance(shape, Text):
                wide = KIT.ruler(shape.text, shape.size, shape.family, shape.bold)
                left = shape.x - (wide if shape.anchor == "end" else 0)
                assert left >= 0
                assert left + wide <= picture.width + 0.5


def test_the_bundle_counts_and_says_what_would_turn():
    measures = limits(0, 0, 0, 12)
    closed = bundle_cell(measures, KIT, 150.0, 76.0, {}, opened=False)
    assert "12 hold" in texts(closed)
    assert "open" in texts(closed)
    assert sum(isinstance(s, Line) and s.ink == "holds" for s in closed.shapes) == MOST_THIN
    broken = Measure("m3", "Some holds limit", 20.0, "kg", 10.0)
    turned = bundle_cell(measures, KIT, 150.0, 76.0, {"m3": broken}, opened=True)
    assert "then 1 breaks" in texts(turned)
    mixed = bundle_cell(limits(0, 0, 2, 3), KIT, 200.0, 76.0, {}, opened=False)
    assert "3 hold, 2 unknown" in texts(mixed)


def test_no_limits_no_strip():
    assert arrange((), KIT, 500.0).shown == ()
