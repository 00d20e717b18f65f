"""The contract: one typed value for each subject, by which the shells, the engine and the search know it.

A subject fills in what it has; every shell loops over the subjects and knows none by name.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from functools import cached_property, lru_cache
from importlib import import_module
from typing import Any, Generic, Protocol, TypeVar

from msgspec import Struct, field

from wired_union.kernel.results import Finding, Measure, Verdict, judged, measure_id, worst
from wired_union.project.model import Brief, Concept, Direction, Item, Limit, Need, Part, Project

T = TypeVar("T")


class Given(Protocol):
    """Results of the nodes that a node needs, and the day on which it is looked at."""

    @property
    def today(self) -> str: ...

    def of(self, node: Node[T]) -> T: ...


class Node(Struct, Generic[T], frozen=True, eq=False):
    """One step of the assessment. It is worked out again only when something that it reads, or needs, is another.

    `reads` gives the values of a project that `work` looks at; they are compared as values.
    """

    name: str
    reads: Callable[[Project], tuple[Any, ...]]
    work: Callable[[Project, Given], T]
    needs: tuple[Node[Any], ...] = ()
    work_all: Callable[[Sequence[tuple[Project, Given]]], list[T]] | None = None
    """The same for several projects at once, where that is quicker than one by one."""
    dated: bool = False
    """Whether it also depends on the day on which it is looked at, `Given.today`; the only clock there is."""


class Selection(Struct, frozen=True):
    """What is selected in a window and means the same on every screen; a subject's own selection is its own type."""

    item: str = ""
    measure: str = ""
    concept: str = ""


class MeasureKind(Struct, frozen=True):
    """A kind of measure that a subject explains, and what a limit on it is like."""

    kind: str
    unit: str = ""
    limit_group: str = "Endure"
    direction: Direction = "at most"
    about: str = ""
    """What it is, in a few words."""
    each: bool = False
    """Whether there is one of each of several things."""
    own_units: bool = False
    """Whether each of them is in a unit of its own; `unit` is then the usual one."""
    select: Callable[[Assessment, Measure], object] | None = None
    """What drives it: what to select when its limit is clicked."""
    drivers: Callable[[Assessment, Measure], list[Driver]] | None = None


NOT_INFORMED, NOT_TRIED = "nothing informs it yet", "not tried yet"


def _measured_words(limit: Limit) -> str:
    """ "measured 2026-11-20 by Ada" """
    return f"measured {limit.measured_on}{f' by {limit.measured_by}' if limit.measured_by else ''}".strip()


class Driver(Struct, frozen=True):
    """Something that drives a measure: its name, how much, that in words, and the discipline whose colour it wears."""

    name: str
    amount: float
    text: str
    ink: str


class Refusal(Struct, frozen=True):
    """Why a part is refused: the requirement, a sentence with figures, and by what share of the requirement."""

    requirement: str
    text: str
    short: float | None = None
    given: float | None = None
    known: bool = True
    """False where the part does not say."""


class Caution(Struct, frozen=True):
    """What can hurt someone, and the items that call for it."""

    title: str
    text: str
    items: tuple[str, ...]


class Block(Struct, frozen=True):
    """A piece of a report's section. Exactly one of text, table, or picture is given."""

    text: str = ""
    tone: str = ""
    """"note" for what is said in passing, "heading" for a heading within the section."""
    head: tuple[str, ...] = ()
    rows: tuple[tuple[str, ...], ...] = ()
    figures: tuple[int, ...] = ()
    """Columns of the table that hold figures."""
    svg: str = ""
    caption: str = ""
    """What stands under the picture."""


class Paper(Struct, frozen=True, eq=False):
    """A document that a subject hands over: its name among all, what it is, and its bytes once they are asked."""

    name: str
    about: str
    make: Callable[[], bytes]


class BuildStep(Struct, frozen=True):
    """Something that a builder does: what, with which tools and what care, drawn as SVG; lower orders come first."""

    order: float
    title: str
    text: str
    tools: tuple[str, ...] = ()
    care: str = ""
    svg: str = ""


class Unready(Struct, frozen=True):
    """Something to be done before the project is handed over, and how far it is."""

    what: str
    """What is wanted: "limits shown by a trial"."""
    names: tuple[str, ...]
    """Those of which it is not so yet."""
    of: int
    """How many there are, ready or not."""
    group: str
    """What it is missing from: "proof", "mass", "faults"; one word."""


class Section(Struct, frozen=True):
    """What a report says of a subject; one without blocks is left out."""

    title: str
    blocks: tuple[Block, ...]
    looked_up: bool = False
    """Whether it is looked up rather than read, and so comes last."""


Slot = Item | Need


class Subject(Struct, frozen=True, eq=False):
    """One stage of the rail with all that belongs to it."""

    id: str
    title: str
    group: str
    about: tuple[str, ...]
    """What F1 says of its screen, a paragraph each."""
    view: str
    """Where its view is, "view:PowerView", loaded when it is first looked at."""
    methods: tuple[str, ...] = ()
    """Published formulas that its figures come from, by name."""
    nodes: tuple[Node[Any], ...] = ()
    measures: Callable[[Assessment], Iterable[Measure]] | None = None
    deep: Mapping[str, Callable[[Assessment], Measure]] = field(default_factory=dict)
    """Measures that cost work, by their ids: each is worked out where a limit is on it, or somebody asks."""
    informs: Callable[[Assessment], Iterable[tuple[str, Measure]]] | None = None
    """Limits that nothing computes and that it knows something of: what the team measures itself, by their ids."""
    findings: Callable[[Assessment], Iterable[Finding]] | None = None
    hard_findings: Callable[[Assessment], Iterable[Finding]] | None = None
    """At least those of its findings that may be hard, where others cost work: all that a ripple looks at."""
    verdict: Callable[[Assessment], Verdict | None] | None = None
    """Its verdict on the rail; the worst of its limited measures and hard findings where this is not given."""
    holds_notebook: bool = False
    """Whether its view is the notebook, where merges are settled; one subject's is."""
    writes_report: bool = False
    """Whether its view writes the report; one subject's does."""
    edits_items: bool = False
    """Whether its view is where an item is edited; one subject's is."""
    judges: bool = True
    """Whether it has a verdict at all."""
    explains: tuple[MeasureKind, ...] = ()
    cautions: Callable[[Concept], Iterable[Caution]] | None = None
    about_now: Callable[[Assessment], Iterable[str]] | None = None
    """What F1 says besides of what stands there at the moment, a paragraph each."""
    section: str = ""
    """Where its part of the report is, "section:section": (assessment, kit) → Section."""
    gist: str = ""
    """Where the few blocks are that a judge reads of it, "section:gist": (assessment, kit) → list of Block."""
    builds: str = ""
    """Where its steps for a builder are, "builds:steps": (assessment, kit) → BuildSteps."""
    passes_on: str = ""
    """Where what a successor must know of it is, "section:passed_on": (assessment, kit) → list of Block."""
    papers: str = ""
    """Where the documents are that it hands over, "papers:papers": assessment → Papers."""
    shows: Callable[[Assessment], Mapping[str, str]] | None = None
    """What runs show of limits, in words, by their measures."""
    unready: Callable[[Assessment], Iterable[Unready]] | None = None
    """What it misses before the project is handed over."""
    pages: str = ""
    """Where the pages are that it adds to the workbook of the plan, "book:pages": assessment → list of Page."""
    commands: str = ""
    """Where it adds its commands, "commands:add"."""
    refuses: Callable[[Assessment, Slot, Part], Iterable[Refusal]] | None = None
    at_place: Callable[[Assessment, Slot, Part], Part] | None = None
    """A part with its figures as they are at a place, such as a motor's at the voltage it gets."""
    feeds: Callable[[Assessment, Part], str | None] | None = None
    """What a new part would be fed from."""
    refuses_new: Callable[[Assessment, Part], Iterable[str]] | None = None
    """Why a part that nothing has asked for does not fit the concept, in words."""
    sums: Mapping[str, Callable[[Item, Brief], float]] = field(default_factory=dict)
    """Measures that are sums over the parts, and what one adds: exact in the search."""
    summable: Callable[[Project], Project] | None = None
    """A project judged so that those measures are sums, no less strictly."""
    bounds: str = ""
    """Where the search finds what it adds to the proof, "bounds:bounds_of"."""
    cuts: str = ""
    """Where the search finds what its broken limits and hard findings prove, "cuts:cuts_of"."""

    def load(self, what: str) -> Any:
        """What one of its addresses, "module:name", stands for; a module of its own folder."""
        module, _, name = what.partition(":")
        return getattr(import_module(f"{self.home}.{module}"), name)

    @property
    def home(self) -> str:
        """The package that holds it."""
        return f"wired_union.subjects.{self.id}" if not self.elsewhere else self.elsewhere

    elsewhere: str = ""
    """The package that holds it where that is not its folder among the program's own."""


class Assessment(Struct, frozen=True, dict=True):
    """Measures, findings and each node's own result for one project."""

    project: Project
    subjects: tuple[Subject, ...]
    _results: dict[Node[Any], Any]
    _read: dict[Node[Any], tuple[Any, ...]]
    _assess: Callable[..., list[Assessment]]
    today: str = ""
    """The day on which it is looked at, as 2026-11-28; "" where nobody said."""

    def of(self, node: Node[T]) -> T:
        """The result of a node. Raises KeyError for one of no subject here."""
        found: T = self._results[node]
        return found

    def known(self, node: Node[T]) -> tuple[T, tuple[Any, ...]] | None:
        """A node's result with what it read; None where it was not worked out."""
        return (self._results[node], self._read[node]) if node in self._results else None

    def again(self, project: Project) -> Assessment:
        """Another project assessed by the same subjects; nodes that read the same values are used again."""
        return self.again_all([project])[0]

    def on(self, today: str) -> Assessment:
        """The same project looked at on a day, as 2026-11-28; what does not depend on the day is used again."""
        return self if today == self.today else self._assess(self.subjects, [self.project], self, today)[0]

    def again_all(self, projects: Sequence[Project]) -> list[Assessment]:
        """Several other projects assessed together, each as `again` does it."""
        return self._assess(self.subjects, projects, self)

    @cached_property
    def all_measures(self) -> dict[str, Measure]:
        """Every measure the program computes, by id, whether limited or not."""
        return self.plain_measures | {i: self._deep(i) for s in self.subjects for i in s.deep}

    @cached_property
    def plain_measures(self) -> dict[str, Measure]:
        """Those that cost no work of their own."""
        found = ((s.id, m) for s in self.subjects if s.measures is not None for m in s.measures(self))
        return {m.id: judged(m, self._limits.get(m.id), subject) for subject, m in found}

    @cached_property
    def limited_measures(self) -> dict[str, Measure]:
        """Those, and of the ones that cost work those that a limit is on: all that the strip and ripples look at."""
        return self.plain_measures | {i: self._deep(i) for s in self.subjects for i in s.deep if i in self._limits}

    @property
    def not_worked_out(self) -> tuple[MeasureKind, ...]:
        """Kinds of measure that cost work and that nobody has asked for yet, no limit either."""
        deep = [i for s in self.subjects for i in s.deep if i not in self._limits and i not in self._worked]
        kinds = _kinds(self.subjects)
        return tuple(kinds[i][1] for i in deep if i in kinds)

    def _deep(self, wanted: str) -> Measure:
        """One that costs work; once."""
        if wanted not in self._worked:
            subject = next(s for s in self.subjects if wanted in s.deep)
            self._worked[wanted] = judged(subject.deep[wanted](self), self._limits.get(wanted), subject.id)
        return self._worked[wanted]

    @cached_property
    def _worked(self) -> dict[str, Measure]:
        return {}

    @cached_property
    def _limits(self) -> dict[str, Limit]:
        return {x.measure: x for x in reversed(self.project.brief.limits)}

    @cached_property
    def measures(self) -> tuple[Measure, ...]:
        """One measure for each limit of the brief, in its order; unknown where nothing informs it yet."""
        return tuple(self._by_limit.values())

    @cached_property
    def _informed(self) -> dict[str, Measure]:
        """Limits that nothing computes, as subjects inform them."""
        found = ((s.id, i, m) for s in self.subjects if s.informs is not None for i, m in s.informs(self))
        return {i: judged(m, self._limits.get(i), subject) for subject, i, m in found}

    @cached_property
    def _by_limit(self) -> dict[str, Measure]:
        known = self._informed | self.limited_measures
        return {i: known[i] if i in known else self._gap(i) for i in (x.measure for x in self.project.brief.limits)}

    def measure(self, wanted: str) -> Measure:
        """The measure with that id; unknown where nothing informs it."""
        if any(wanted in s.deep for s in self.subjects):
            return self._deep(wanted)
        known = self.limited_measures.get(wanted) or self._informed.get(wanted) or self._by_limit.get(wanted)
        return known if known is not None else self._gap(wanted)

    def _gap(self, wanted: str) -> Measure:
        """What nothing computes: what the team measured of it, else unknown."""
        limit = self._limits.get(wanted)
        kind = self.kind_of(wanted)
        unit = kind.unit if kind is not None else limit.unit if limit is not None else ""
        name = limit.name if limit is not None else wanted
        subject = self.explainer(wanted)
        value = limit.measured if limit is not None else None
        lacks = () if value is not None else (NOT_TRIED if limit is not None and limit.own else NOT_INFORMED,)
        gap = Measure(wanted, name, value, unit, missing=lacks, subject=subject.id if subject else "",
                      measured=_measured_words(limit) if limit is not None and value is not None else "")  # fmt: skip
        return judged(gap, limit)

    @property
    def units(self) -> dict[str, str]:
        """The unit of each limit, by its measure."""
        return {m.id: m.unit for m in self.measures}

    @cached_property
    def uninformed(self) -> tuple[str, ...]:
        """Limits that no computation informs yet."""
        limits = self.project.brief.limits
        known = {*self.limited_measures, *self._informed}
        return tuple(x.measure for x in limits if x.measure not in known and x.measured is None)

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """All findings, worst first."""
        found = [f.said_by(s.id) for s in self.subjects if s.findings is not None for f in s.findings(self)]
        return tuple(sorted(found, key=lambda f: f.verdict.rank))

    @cached_property
    def hard_breaks(self) -> tuple[Finding, ...]:
        """What breaks something that a part cannot do without; of `findings`, those that are hard and break."""
        if "findings" in vars(self):
            return tuple(f for f in self.findings if f.breaks_hard)
        each = ((s.id, s.hard_findings or s.findings) for s in self.subjects)
        return tuple(f.said_by(i) for i, find in each if find is not None for f in find(self) if f.breaks_hard)

    @cached_property
    def breaks_besides(self) -> tuple[Finding, ...]:
        """What breaks besides limits of the brief, hard or not."""
        return tuple(f for f in self.findings if f.verdict is Verdict.BREAKS and not f.of_limit)

    @cached_property
    def cautions(self) -> tuple[Caution, ...]:
        concept = self.project.concept
        return tuple(c for s in self.subjects if s.cautions is not None for c in s.cautions(concept))

    @cached_property
    def item_verdicts(self) -> dict[str, Verdict]:
        """Worst verdict on each item that a finding is about."""
        found: dict[str, Verdict] = {}
        for finding in self.findings:
            for item in finding.items:
                if item not in found or finding.verdict.rank < found[item].rank:
                    found[item] = finding.verdict
        return found

    def stage_verdict(self, subject: Subject) -> Verdict | None:
        """Worst verdict of a stage of the rail, None where nothing is judged there."""
        if not subject.judges:
            return None
        return subject.verdict(self) if subject.verdict is not None else worst(list(self.own_verdicts(subject.id)))

    def own_verdicts(self, subject: str) -> Iterator[Verdict]:
        """Verdicts of a subject's limited measures and hard findings."""
        yield from (m.verdict for m in self.limited_measures.values() if m.limit is not None and m.subject == subject)
        yield from (f.verdict for f in self.findings if f.hard and f.subject == subject)

    def kind_of(self, wanted: str) -> MeasureKind | None:
        """The kind of measure that an id is of, None where no subject explains one like it."""
        known = self.plain_measures.get(wanted)
        kinds = _kinds(self.subjects)
        if known is not None:
            return kinds[known.kind][1] if known.kind in kinds else None
        return _kind_like(self.subjects, wanted)

    def explainer(self, wanted: str) -> Subject | None:
        """The subject that explains a measure, None where none does yet."""
        kind = self.kind_of(wanted)
        return _kinds(self.subjects)[kind.kind][0] if kind is not None else None

    def subject(self, subject_id: str) -> Subject | None:
        return next((s for s in self.subjects if s.id == subject_id), None)


@lru_cache(maxsize=1024)
def _kind_like(subjects: tuple[Subject, ...], wanted: str) -> MeasureKind | None:
    """The kind that an id is of which nothing informs yet."""
    kinds = (k for _, k in _kinds(subjects).values())
    return next((k for k in kinds if wanted == k.kind or (k.each and _is_one_of(wanted, k.kind))), None)


def _is_one_of(wanted: str, kind: str) -> bool:
    """Whether an id is that of one thing's measure of a kind, as `measure_id` makes them."""
    made, _, of = wanted.partition(":")
    return bool(of) and measure_id(made, of) == wanted and made == kind


@lru_cache(maxsize=8)
def _kinds(subjects: tuple[Subject, ...]) -> dict[str, tuple[Subject, MeasureKind]]:
    return {k.kind: (s, k) for s in subjects for k in s.explains}


def limit_on(measure: Measure, kind: MeasureKind | None) -> Limit:
    """A limit where the project stands now, rounded, for the team to change."""
    value = measure.value if measure.value is not None and 0 < measure.value < float("inf") else 1.0
    return Limit(
        measure=measure.id, name=measure.label, value=float(f"{value:.2g}"), direction=measure.direction,
        group=kind.limit_group if kind is not None else "Endure",
    )  # fmt: skip
