"""Findings of states, stops, gates and hazards."""

from collections.abc import Iterator
from functools import partial

from wired_union.kernel.results import Finding, Remedy, Verdict, possible, tried
from wired_union.kernel.subject import Assessment
from wired_union.project.interlock_model import Failure
from wired_union.subjects.interlocks import edits
from wired_union.subjects.interlocks.assess import FAILING, GATES, STATES, STOPS, never_stops
from wired_union.subjects.interlocks.failing import HUNG, Failing
from wired_union.subjects.interlocks.gates import GatesResult
from wired_union.subjects.interlocks.hazards import not_listed
from wired_union.subjects.interlocks.machine import Fault

TITLES = {
    "never": "Never reached",
    "dead-end": "A dead end",
    "at-once": "Two ways out at once",
    "ring": "A ring without time",
    "unheard": "Not heard",
    "no-stop": "No way to a stop",
}
WHYS = {
    "never": "Either a way lacks, or it is not needed.", "dead-end": "Only switching it off would help.",
    "at-once": "Which it takes is chance, or the order of lines in a program. Ranks say which goes first.",
    "ring": "A program that goes round without time does nothing else.",
    "unheard": "Whoever presses it then waits for something that never happens.",
    "no-stop": "From there it cannot be stopped but by cutting its power.",
}  # fmt: skip


def findings(assessment: Assessment) -> Iterator[Finding]:
    """All of them."""
    for n, fault in enumerate(assessment.of(STATES).faults):
        yield _fault(assessment, fault, n)
    yield from _stops(assessment)
    for failing in assessment.of(FAILING):
        yield from _failing(assessment, failing)
    for result in assessment.of(GATES):
        yield from _gated(assessment, result)
        yield from _left_loaded(result)
    yield from _found(assessment)


def _fault(assessment: Assessment, fault: Fault, n: int) -> Finding:
    story = f" The shortest story there: {fault.story}." if fault.story else ""
    return Finding(
        "states",
        Verdict.BREAKS if fault.sure else Verdict.TIGHT,
        TITLES[fault.kind],
        f"{fault.said}{story}",
        WHYS[fault.kind],
        (),
        "stop-time" if fault.kind == "no-stop" else "",
        partial(_fault_remedies, assessment, fault),
        of=fault.states[0] if fault.states else fault.kind,
        detail=f"{fault.kind}{n}",
    )


def _fault_remedies(assessment: Assessment, fault: Fault) -> tuple[Remedy, ...]:
    """What the fault itself suggests: a way to the stop, ranks, an end that is meant."""
    project, machine = assessment.project, assessment.of(STATES).machine
    stop = next((s for s in machine.states if s.is_stop), None)
    urgent = machine.urgent[0] if machine.urgent else None
    state = fault.states[0] if fault.states else ""
    ways = []
    if fault.kind in {"dead-end", "no-stop", "unheard"} and stop is not None and urgent is not None and state:
        change = tried(
            edits.add_passage, project, f"{urgent.name} in {machine.names[state]}", state, stop.id, urgent.id
        )
        ways.append((f"{urgent.name} leads to {stop.name}", change))
    if fault.kind == "dead-end":
        ways.append(("the story may end there", tried(edits.set_state, project, value_id=state, may_end=True)))
    if fault.kind == "at-once":
        out = machine.ways[state]
        later = [p for n, p in enumerate(out) if n and p.rank == out[0].rank]
        if later:
            words = f"“{out[0].name}” goes first"
            ways.append((words, tried(edits.set_passage, project, value_id=later[0].id, rank=later[0].rank + 1)))
    if fault.kind == "no-stop" and not fault.states:
        ways += [
            (f"{s.name} is a stop", tried(edits.set_state, project, value_id=s.id, is_stop=True))
            for s in machine.states
            if not machine.ways[s.id]
        ][:2]
    return possible(*ways)


def _stops(assessment: Assessment) -> Iterator[Finding]:
    """States from which an urgent cue leads to no stop by itself, and what is not known of the time."""
    names = assessment.of(STATES).machine.names
    cues = assessment.of(STATES).machine.cues
    for s in assessment.of(STOPS):
        if never_stops(s) and s.path:
            way = " → ".join([names[s.path[0].start], *(names[p.end] for p in s.path)])
            yield Finding("stop-way", Verdict.BREAKS, f"“{cues[s.cue].name}” leads to no stop",
                          f"From {names[s.state]}: {way}, and there it stays.",
                          "What asks for a stop must end in one without anything else happening.", (), "stop-time",
                          of=s.state, detail=s.cue)  # fmt: skip
        elif s.missing:
            yield Finding("stop-gap", Verdict.UNKNOWN, f"{names[s.state]}: time to a stop",
                          f"Not known yet: {s.missing}.", "A chain of Timing, or a figure, says it.", (), "stop-time",
                          of=s.state, detail=s.cue)  # fmt: skip


def _failing(assessment: Assessment, failing: Failing) -> Iterator[Finding]:
    """A failure after which nothing leads to a stop, or only what need not come; what goes on when power comes back."""
    machine, failure = assessment.of(STATES).machine, failing.failure
    names, of = machine.names, failure.id
    offer = partial(_failing_remedies, assessment, failure)
    items = (failure.item,) if failure.item else ()
    silent = _few([machine.cues[c.id].name for c in machine.urgent if c.id in failing.silent])
    if failing.stuck:
        where = _few([names[s] for s in failing.stuck])
        yield Finding(
            "failing", Verdict.BREAKS, f"{failure.name}: nothing stops it",
            f"In {where} {silent} is not heard then, and nothing else leads to a stop. The shortest story there:"
            f" {machine.story(failing.stuck[0])} — {failure.name}.",
            "One failure must leave a way to stop it: common practice.", items, "stop-time", offer, of=of,
        )  # fmt: skip
    elif failing.unnoticed:
        where = _few([names[s] for s in failing.unnoticed])
        others = _few([c.name for c in machine.urgent if c.id not in failing.silent])
        yield Finding("failing", Verdict.TIGHT, f"{failure.name}: not noticed",
                      f"In {where} {silent} is not heard then; only {others} still leads to a stop.",
                      "Nobody sees that it is not heard until it is needed.", items, "stop-time", offer,
                      of=of)  # fmt: skip
    if failing.goes_on:
        first, where = machine.states[0].name, _few([names[s] for s in failing.goes_on])
        yield Finding("power-back", Verdict.TIGHT, f"{failure.name}: it goes on by itself",
                      f"When power comes back it begins in {first}, and goes on to {where} without any event.",
                      "Somebody may be reaching into it: that it waits for a start is common practice (ISO 14118, from"
                      " memory).", items, of=of)  # fmt: skip


def _few(names: list[str]) -> str:
    """ "Drive, Core and 2 more" """
    return ", ".join(names[:3]) + (f" and {len(names) - 3} more" if len(names) > 3 else "")


def _failing_remedies(assessment: Assessment, failure: Failure) -> tuple[Remedy, ...]:
    """That the machine notices it, in every state."""
    words = "a watchdog that leads to a stop" if failure.kind == HUNG else "notice it, and stop"
    return possible((words, tried(edits.notice, assessment.project, failure.id)))


def _gated(assessment: Assessment, r: GatesResult) -> Iterator[Finding]:
    """What releases a hazard with fewer failures than wanted."""
    hazard, names = r.hazard, assessment.of(STATES).machine.names
    measure = f"failures-to-fire:{hazard.id}"
    items = (hazard.item,) if hazard.item else ()
    if r.groups and r.missing:
        yield Finding(
            "gates-gap",
            Verdict.UNKNOWN,
            hazard.name,
            f"Not known yet: {'; '.join(r.missing)}.",
            "Until they are known nothing says when a gate is closed.",
            items,
            measure,
            of=hazard.id,
        )
    if not r.groups:
        if hazard.wanted is not None:
            yield Finding("gates-gap", Verdict.UNKNOWN, hazard.name, f"Not known yet: what gates {hazard.name}.",
                          f"{hazard.wanted} failures are wanted at least.", items, "", of=hazard.id)  # fmt: skip
        return
    least = r.least
    if least is None or least >= r.wanted + 1:
        return
    cut = r.cuts[0]
    where = f" in {names[cut.state]}" if cut.state in names else ""
    where += f", as it was in {names[cut.since]}" if cut.since in names else ""
    story = assessment.of(STATES).machine.story(cut.state)
    enough = least >= r.wanted
    number = {0: "Nothing has to fail", 1: "One failure releases it", 2: "Two failures release it"}.get(
        least, "Three failures release it")  # fmt: skip
    if enough and least > 1:
        return
    said = f"{cut.said}{where}: {hazard.name}." + (f" The shortest story there: {story}." if story else "")
    yield Finding(
        "gates", Verdict.TIGHT if enough else Verdict.BREAKS, f"{hazard.name}: {number[:1].lower()}{number[1:]}", said,
        f"{r.wanted} wanted at least. Searched: the gates and failures that were given, in {r.states} states.", items,
        measure, partial(_gate_remedies, assessment, r), of=hazard.id,
    )  # fmt: skip


NEW_GATES = (("a pin in the power path, pulled by hand", "mechanical", "Safety pin"),
             ("a second switch in series, on its own pin", "in the power path", "Second switch"),
             ("a sensor that must see it is clear", "sensed", "Clear"))  # fmt: skip


def _gate_remedies(assessment: Assessment, r: GatesResult) -> tuple[Remedy, ...]:
    """One more gate of each kind that fails by itself."""
    project = assessment.project
    kinds = {g.kind for group in r.groups for g in group}
    ways = [
        (words, tried(edits.add_gate, project, name, r.hazard.id, kind=kind)) for words, kind, name in NEW_GATES
    ]  # fmt: skip
    ordered = sorted(zip(NEW_GATES, ways, strict=True), key=lambda x: x[0][1] in kinds)
    return possible(*(w for _, w in ordered))


def _left_loaded(r: GatesResult) -> Iterator[Finding]:
    """What stays loaded without power, and nobody says how it is unloaded."""
    hazard = r.hazard
    items = (hazard.item,) if hazard.item else ()
    stored = hazard.kind in {"spring", "pressure", "height", "falling mass"}
    if hazard.stays == "yes" and not hazard.released_by.strip():
        energy = f", {hazard.energy_j:g} J" if hazard.energy_j else ""
        yield Finding("left-loaded", Verdict.TIGHT, f"{hazard.name}: left loaded",
                      f"Without power it stays loaded{energy}, and nothing unloads it by hand.",
                      "Say so on the machine; a lever or a valve for the bench.", items, of=hazard.id)  # fmt: skip
    elif stored and hazard.stays == "not said":
        yield Finding("left-loaded", Verdict.UNKNOWN, f"{hazard.name}: power lost",
                      "Not known yet: whether it stays loaded without power.", "Somebody will reach into it.", items,
                      of=hazard.id)  # fmt: skip


def _found(assessment: Assessment) -> Iterator[Finding]:
    """What parts can do that is on no list, once the team has begun one."""
    concept = assessment.project.concept
    if not (concept.hazards or concept.states):
        return
    found = not_listed(concept)
    if found:
        names = ", ".join(f"{f.item.name} ({f.kind})" for f in found[:4])
        more = f" and {len(found) - 4} more" if len(found) > 4 else ""
        yield Finding("hazards-found", Verdict.UNKNOWN, "What can hurt, and is on no list",
                      f"Not looked at yet: {names}{more}.", "Found from the parts; what guards it, and who checks?",
                      tuple(dict.fromkeys(f.item.id for f in found[:4])))  # fmt: skip
