"""States, gates and hazards in the report."""

from collections.abc import Iterator

from wired_union.kernel.subject import Assessment, Block, Section
from wired_union.picture.shapes import Kit
from wired_union.picture.svg import drawn
from wired_union.subjects.interlocks.assess import FAILING, GATES, STATES, STOPS
from wired_union.subjects.interlocks.pick import InterlockPick
from wired_union.subjects.interlocks.picture_failures import failing_words
from wired_union.subjects.interlocks.picture_gates import gates_picture
from wired_union.subjects.interlocks.picture_states import Drawn, states_picture
from wired_union.subjects.interlocks.wall import FIRST_RUNS, wall_lines
from wired_union.units import show

WIDE, MOST_CUTS = 1000.0, 3


def section(assessment: Assessment, kit: Kit) -> Section:
    """Each gated hazard with what releases it, the states, and the list to tick."""
    return Section("What must be true before it moves", tuple(_blocks(assessment, kit)))


def _blocks(assessment: Assessment, kit: Kit) -> Iterator[Block]:
    states = assessment.of(STATES)
    names = states.machine.names
    for r in assessment.of(GATES):
        if not r.groups:
            continue
        yield Block(text=f"{r.hazard.name}: {r.least if r.least is not None else 'more than 3'} failures at least, "
                         f"{r.wanted} wanted", tone="heading")  # fmt: skip
        yield drawn(gates_picture(r, "", (), kit, WIDE, InterlockPick()), r.hazard.name)
        cuts = tuple((f"{len(c.failures)}", c.said, names.get(c.state, "")) for c in r.cuts[:MOST_CUTS])
        if cuts:
            yield Block(head=("failures", "what fails together", "first state"), rows=cuts, figures=(0,))
    if states.machine.states:
        yield Block(text="States of the machine", tone="heading")
        walk = Drawn(states.machine, states.faults, {})
        yield drawn(states_picture(walk, kit, WIDE, InterlockPick()), "states")
        stops = [s.time_s for s in assessment.of(STOPS) if s.time_s is not None]
        yield Block(
            text=f"{len(states.machine.reached)} states can be reached and were searched;"
            f" {len(states.faults)} faults found." + (f" Slowest stop {show(max(stops), 's')}." if stops else "")
        )
        for fault in states.faults:
            yield Block(text=f"{fault.said}{f' Story: {fault.story}.' if fault.story else ''}")
    failing = "; ".join(f"{f.failure.name}: {failing_words(f)}" for f in assessment.of(FAILING))
    if failing:
        yield Block(text=f"One failure: {failing}.")
    lines = tuple(wall_lines(assessment))
    if lines:
        yield Block(text="Before each run", tone="heading")
        yield Block(head=("what can hurt", "what guards it", "who looks"), rows=lines)
        yield Block(text=" ".join(FIRST_RUNS), tone="note")
