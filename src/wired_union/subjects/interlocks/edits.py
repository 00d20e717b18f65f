"""Edits of states, cues, ways between states, hazards, gates and failures."""

from collections.abc import Sequence
from functools import partial

from wired_union.project.change import Change, by_id, checked_name, figures_of, new_id, replaced, with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.interlock_model import (
    Clause,
    ClosedIn,
    Closes,
    Cue,
    CueIs,
    Failure,
    Gate,
    Hazard,
    MachineState,
    Passage,
    Silences,
    Tick,
)
from wired_union.project.listed_edits import add_listed, remove_listed, set_listed
from wired_union.project.model import Phase, Project
from wired_union.project.value import made
from wired_union.subjects.interlocks.hazards import Found, as_hazard

add_state = partial(add_listed, room="states", of_kind=MachineState, word="state")
set_state = partial(set_listed, room="states", word="state")
remove_state = partial(remove_listed, room="states", word="state")
add_cue = partial(add_listed, room="cues", of_kind=Cue, word="cue")
set_cue = partial(set_listed, room="cues", word="cue")
remove_cue = partial(remove_listed, room="cues", word="cue")
set_passage = partial(set_listed, room="passages", word="way")
remove_passage = partial(remove_listed, room="passages", word="way")
add_hazard = partial(add_listed, room="hazards", of_kind=Hazard, word="hazard")
set_hazard = partial(set_listed, room="hazards", word="hazard")
remove_hazard = partial(remove_listed, room="hazards", word="hazard")
set_gate = partial(set_listed, room="gates", word="gate")
remove_gate = partial(remove_listed, room="gates", word="gate")
add_failure = partial(add_listed, room="failures", of_kind=Failure, word="failure")
set_failure = partial(set_listed, room="failures", word="failure")
remove_failure = partial(remove_listed, room="failures", word="failure")


def add_passage(project: Project, name: str, start: str, end: str, cue: str = "") -> Change:
    """One more way between two states, on one cue where one is named."""
    name = checked_name(name, "way")
    for state in (start, end):
        by_id(project.concept.states, state, "state")
    clauses = (Clause(parts=(CueIs(cue=by_id(project.concept.cues, cue, "cue").id),)),) if cue else ()
    after_s = None if cue else 1.0
    way = Passage(id=new_id(name, (p.id for p in project.concept.passages)), name=name, start=start, end=end,
                  clauses=clauses, after_s=after_s)  # fmt: skip
    after = with_concept(project, passages=(*project.concept.passages, way))
    said = "" if cue else ", after 1 s until its cue is said"
    return Change(project, after, f"{name}: from {_state(project, start)} to {_state(project, end)}{said}")


def _state(project: Project, state: str) -> str:
    return by_id(project.concept.states, state, "state").name


def ask_also(project: Project, way_id: str, clause: int, cue: str, *, is_not: bool = False) -> Change:
    """One more cue that must be so as well in a clause of a way; in a clause of its own where there is none of that
    number.
    """
    way, what = by_id(project.concept.passages, way_id, "way"), by_id(project.concept.cues, cue, "cue")
    clauses = way.clauses if clause < len(way.clauses) else (*way.clauses, Clause())
    clause = min(clause, len(clauses) - 1)
    if any(p.cue == cue for p in clauses[clause].parts):
        raise ProjectError(f"{way.name} asks for {what.name} there already.")
    new = clauses[clause].but(parts=(*clauses[clause].parts, CueIs(cue=cue, is_not=is_not)))
    return _with_clauses(project, way, (*clauses[:clause], new, *clauses[clause + 1 :]),
                         f"{way.name}: when {'not ' if is_not else ''}{what.name}")  # fmt: skip


def ask_no_more(project: Project, way_id: str, clause: int, cue: str) -> Change:
    """One cue less in a clause of a way; an empty clause goes. Raises ProjectError where nothing would be asked."""
    way = by_id(project.concept.passages, way_id, "way")
    if not 0 <= clause < len(way.clauses):
        raise ProjectError(f"{way.name} has {len(way.clauses)} clauses.")
    new = way.clauses[clause].but(parts=tuple(p for p in way.clauses[clause].parts if p.cue != cue))
    clauses = tuple(c for n, c in enumerate(way.clauses) if n != clause) if not new.parts else (
        *way.clauses[:clause], new, *way.clauses[clause + 1 :])  # fmt: skip
    if not clauses and way.after_s is None:
        raise ProjectError(f"{way.name} would be taken at once. Give it a time first, or another cue.")
    return _with_clauses(project, way, clauses, f"{way.name}: one cue less")


def _with_clauses(project: Project, way: Passage, clauses: tuple[Clause, ...], said: str) -> Change:
    new = way.but(clauses=clauses)
    return Change(project, with_concept(project, passages=replaced(project.concept.passages, way, new)), said)


def move_state(project: Project, state_id: str, x: float, y: float) -> Change:
    """Where a state is drawn."""
    return set_state(project, value_id=state_id, x=round(x), y=round(y))


def add_gate(project: Project, name: str, hazard: str, **figures: object) -> Change:
    """One more gate before a hazard, in series; closed as it should be only where the hazard is meant."""
    of, name = by_id(project.concept.hazards, hazard, "hazard"), checked_name(name, "gate")
    with figures_of(name):
        gate = made(Gate, id=new_id(name, (g.id for g in project.concept.gates)), name=name, hazard=hazard,
                    closed_in=of.meant_in, **figures)  # fmt: skip
    after = with_concept(project, gates=(*project.concept.gates, gate))
    return Change(project, after, f"{name}: one more gate before {of.name}")


def toggle_closed(project: Project, gate_id: str, state: str) -> Change:
    """Whether a gate is closed in a state as it should be: the other way."""
    gate, name = by_id(project.concept.gates, gate_id, "gate"), _state(project, state)
    was = any(c.state == state for c in gate.closed_in)
    closed = tuple(c for c in gate.closed_in if c.state != state) if was else (*gate.closed_in, ClosedIn(state=state))
    after = with_concept(project, gates=replaced(project.concept.gates, gate, gate.but(closed_in=closed)))
    return Change(project, after, f"{gate.name}: {'open' if was else 'closed'} in {name}")


def toggle_meant(project: Project, hazard_id: str, state: str) -> Change:
    """Whether a hazard is meant to happen in a state: the other way."""
    hazard, name = by_id(project.concept.hazards, hazard_id, "hazard"), _state(project, state)
    was = any(c.state == state for c in hazard.meant_in)
    meant = tuple(c for c in hazard.meant_in if c.state != state) if was else (*hazard.meant_in, ClosedIn(state=state))
    after = with_concept(project, hazards=replaced(project.concept.hazards, hazard, hazard.but(meant_in=meant)))
    return Change(project, after, f"{hazard.name}: {'not ' if was else ''}meant in {name}")


def toggle_closes(project: Project, failure_id: str, gate: str) -> Change:
    """Whether a failure closes a gate: the other way."""
    failure, of = by_id(project.concept.failures, failure_id, "failure"), by_id(project.concept.gates, gate, "gate")
    was = any(c.gate == gate for c in failure.closes)
    closes = tuple(c for c in failure.closes if c.gate != gate) if was else (*failure.closes, Closes(gate=gate))
    after = with_concept(project, failures=replaced(project.concept.failures, failure, failure.but(closes=closes)))
    return Change(project, after, f"{failure.name}: {'leaves' if was else 'closes'} {of.name}")


def toggle_silences(project: Project, failure_id: str, cue: str) -> Change:
    """Whether a cue is told no more while a failure lasts: the other way."""
    failure, of = by_id(project.concept.failures, failure_id, "failure"), by_id(project.concept.cues, cue, "cue")
    was = any(s.cue == cue for s in failure.silences)
    silences = tuple(s for s in failure.silences if s.cue != cue) if was else (*failure.silences, Silences(cue=cue))
    after = with_concept(project, failures=replaced(project.concept.failures, failure, failure.but(silences=silences)))
    return Change(project, after, f"{failure.name}: {of.name} is {'told' if was else 'not told'} then")


def notice(project: Project, failure_id: str) -> Change:
    """A cue by which the machine notices a failure, and that it leads to the stop from every state where it does not.

    It takes the way of another cue that asks for a stop where there is one, else one of its own.

    Raises ProjectError where no state is a stop.
    """
    concept = project.concept
    failure = by_id(concept.failures, failure_id, "failure")
    stop = next((s for s in concept.states if s.is_stop), None)
    if stop is None:
        raise ProjectError("No state is a stop. Say of one that everything stands still in it.")
    name = f"{failure.name} noticed"[:120]
    cue = next((c for c in concept.cues if c.id == failure.told_by), None)
    cues = concept.cues
    if cue is None:
        cue = Cue(id=new_id(name, (c.id for c in cues)), name=name)
        cues = (*cues, cue)
    urgent = {Clause(parts=(CueIs(cue=c.id),)) for c in cues if c.urgent}
    asked = Clause(parts=(CueIs(cue=cue.id),))
    heard = {p.start for p in concept.passages if asked in p.clauses}
    ways = list(concept.passages)
    for s in concept.states:
        if s.is_stop or s.id in heard:
            continue
        known = next(
            (n for n, p in enumerate(ways) if (p.start, p.end) == (s.id, stop.id) and urgent & {*p.clauses}), None
        )
        if known is not None:
            ways[known] = ways[known].but(clauses=(*ways[known].clauses, asked))
        else:
            ways.append(Passage(id=new_id(f"{cue.name} {s.name}", (p.id for p in ways)), name=cue.name, start=s.id,
                                end=stop.id, clauses=(asked,)))  # fmt: skip
    failures = replaced(concept.failures, failure, failure.but(told_by=cue.id))
    after = with_concept(project, cues=cues, passages=tuple(ways), failures=failures)
    return Change(project, after, f"{cue.name}: leads to {stop.name} from every state")


def take_on(project: Project, found: Found) -> Change:
    """What was found from a part, on the team's list."""
    hazard = as_hazard(found, new_id(f"{found.item.id} {found.kind}", (h.id for h in project.concept.hazards)))
    after = with_concept(project, hazards=(*project.concept.hazards, hazard))
    return Change(project, after, f"{hazard.name}: on the list of what can hurt")


def tick(project: Project, hazard_id: str, on: str, by: str) -> Change:
    """Somebody looked at a hazard before a run. Raises ProjectError where nobody says who."""
    hazard = by_id(project.concept.hazards, hazard_id, "hazard")
    if not by.strip():
        raise ProjectError("Say who looked at it.")
    ticks = (*project.concept.ticks, Tick(hazard=hazard.id, on=on, by=by.strip()))
    return Change(project, with_concept(project, ticks=ticks), f"{hazard.name}: looked at by {by.strip()}")


def mission_of(project: Project, walked: Sequence[tuple[str, float]]) -> Change:
    """The states of a walk, each with how long it was in it, as the mission: a phase for each that has a mode.

    Raises ProjectError where none of them has one.
    """
    states = {s.id: s for s in project.concept.states}
    phases = tuple(
        Phase(mode=states[s].mode, duration_s=max(seconds, 1e-3)) for s, seconds in walked
        if s in states and states[s].mode
    )  # fmt: skip
    if not phases:
        raise ProjectError("None of these states has a mode of Power. Give them one first.")
    mission = project.concept.mission.but(phases=phases)
    return Change(project, with_concept(project, mission=mission), f"mission: {len(phases)} phases as walked")
