"""Pins of whole concepts against trying everything: buses, copies, kept threads and two controllers, from the JSON."""

import itertools

import msgspec
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from subjects.test_pins import a_board, a_concept, a_thing
from wired_union.project.change import with_concept
from wired_union.project.wiring_model import Thread
from wired_union.subjects import assess
from wired_union.subjects.wiring.assess import WIRES
from wired_union.subjects.wiring.edits import lay_thread, set_line, solve_pins
from wired_union.subjects.wiring.pins import assess_pins
from wired_union.subjects.wiring.teeth import Slot
from wired_union.subjects.wiring.wishes import Key

SHARED = {"I2C", "SPI", "CAN"}
ONCE = {"interrupt", "PWM", "analogue"}
"""A line, a channel of a timer, an input of a converter serves one signal."""


class Whole:
    """A concept as it is written. An assignment gives each signal a pin and one of its uses; every rule is looked at
    in the whole of it.
    """

    def __init__(self, concept) -> None:
        made = msgspec.to_builtins(concept)
        self.kept = {(t["item"], t["copy"], t["line"]): (t["board"], t["pin"])
                     for t in made.get("threads", []) if t.get("kept")}  # fmt: skip
        self.uses = [(i["id"], p["name"], tuple(d)) for i in made["items"] if i["part"]["board"]
                     for p in i["part"]["board"]["pins"] for d in p["does"]]  # fmt: skip
        self.lines = [(i["id"], copy, line) for i in made["items"] if not i["part"]["board"]
                      for copy in range(1, i.get("count", 1) + 1) for line in i["part"]["port"]["lines"]]  # fmt: skip

    def able(self, signal):
        item, copy, line = signal
        does, role = line.get("does", "plain"), line.get("role", "")
        at = self.kept.get((item, copy, line["name"]))
        return [u for u in self.uses if u[2][0] == does and (not role or u[2][2] in {"", role})
                and at in {None, u[:2]}]  # fmt: skip

    def can(self, *, common=True) -> bool:
        return self._next(0, [], common)

    def _next(self, n, chosen, common) -> bool:
        if n == len(self.lines):
            return True
        return any(all(self.together(self.lines[m], u, self.lines[n], use, common) for m, u in enumerate(chosen))
                   and self._next(n + 1, [*chosen, use], common) for use in self.able(self.lines[n]))  # fmt: skip

    def together(self, one, u, other, v, common) -> bool:
        """Whether two signals may be where they are, each beside the other."""
        same_device = one[:2] == other[:2]
        if same_device and u[0] != v[0]:
            return False
        bus, role = self.bus(one), one[2].get("role", "")
        if bus is not None and bus == self.bus(other):
            on_one = (u[0], u[2][1]) == (v[0], v[2][1])
            if same_device and not on_one:
                return False
            if on_one and role == other[2].get("role", ""):
                return u[:2] == v[:2]  # one wire of one bus
        elif u[:2] == v[:2]:
            alike = one[0] == other[0] and one[2]["name"] == other[2]["name"]
            return common and alike and one[2].get("common", False) and one[2].get("flows") == "to the part"
        once = u[2][0] in ONCE and u[2][1]
        return u[:2] != v[:2] and not (once and (u[0], u[2]) == (v[0], v[2]))

    @staticmethod
    def bus(signal):
        line = signal[2]
        return line["does"] if line.get("does") in SHARED and line.get("role") else None


PINS = ("plain", "SPI 1 clock; plain", "SPI 1 out; plain", "SPI 1 in", "SPI 2 clock", "SPI 2 out; plain", "SPI 1 clock",
        "interrupt 1; plain", "SPI 2 in", "I2C 1 clock; SPI 2 out", "I2C 1 data")  # fmt: skip
LINES = ("clock = SPI clock", "out = SPI out", "in = SPI in", "select = plain to", "ready = interrupt from",
         "beat = I2C clock", "word = I2C data")  # fmt: skip


@st.composite
def concepts(draw):
    boards = [
        a_board(*(f"{b}{n}: {does}" for n, does in enumerate(draw(st.lists(st.sampled_from(PINS), min_size=1, max_size=5)))),
                name=b) for b in draw(st.sampled_from((("A",), ("A", "B"))))
    ]  # fmt: skip
    things = []
    for name in draw(st.sampled_from((("X",), ("X", "Y"), ("X", "Y", "Z")))):
        lines = draw(st.lists(st.sampled_from(LINES), min_size=1, max_size=3, unique=True))
        thing = a_thing(name, *lines, count=draw(st.integers(1, 2)))
        if draw(st.booleans()):
            port = thing.part.port
            thing = thing.but(part=thing.part.but(port=port.but(
                lines=tuple(x.but(common=x.name == "select") for x in port.lines))))  # fmt: skip
        things.append(thing)
    project = a_concept(*boards, *things)
    threads = []
    for item, copy, line in Whole(project.concept).lines[:4]:
        able = Whole(project.concept).able((item, copy, line))
        if able and draw(st.integers(0, 3)) == 0:
            use = draw(st.sampled_from(able))
            threads.append(Thread(item=item, copy=copy, line=line["name"], board=use[0], pin=use[1], kept=True))
    return with_concept(project, threads=tuple(threads))


@given(project=concepts())
@settings(max_examples=150, deadline=None, suppress_health_check=[HealthCheck.too_slow])
def test_whole_concepts_have_pins_exactly_when_trying_everything_finds_them(project):
    found, whole = assess_pins(project.concept), Whole(project.concept)
    if found.undecided:
        return
    assert bool(found.wired) is whole.can(), [w.wish.name for w in found.wired] or [w.name for w in found.clash]
    if not found.wired:
        return
    if whole.can(common=False):  # a pin of its own for each, while there is one
        alone = [w.tooth.number for w in found.wired if w.wish.key.line == "select"]
        assert len(set(alone)) == len(alone)
    uses = [(w.tooth.item.id, w.tooth.pin.name, w.does) for w in found.wired]
    signals = [(w.wish.key.item, w.wish.key.copy, msgspec.to_builtins(w.wish.line)) for w in found.wired]
    for a, b in itertools.combinations(range(len(uses)), 2):
        assert whole.together(signals[a], uses[a], signals[b], uses[b], True), (signals[a], signals[b])
    assert all(use in whole.able(signal) for signal, use in zip(signals, uses, strict=True))


@given(project=concepts())
@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.too_slow])
def test_without_any_one_of_a_clash_the_others_fit(project):
    found = assess_pins(project.concept)
    for wish in found.clash:
        whole = Whole(project.concept)
        keys = {(w.key.item, w.key.copy, w.key.line) for w in found.clash if w is not wish}
        whole.lines = [s for s in whole.lines if (s[0], s[1], s[2]["name"]) in keys]
        assert whole.can(), (wish.name, [w.name for w in found.clash])


SPI = ("clock = SPI clock", "out = SPI out", "in = SPI in", "select = plain to")
BUS = ("S1: SPI 1 clock", "S2: SPI 1 out", "S3: SPI 1 in")


def chained(*pins, count=3):
    """Three parts on one bus that may have one select, and what the controller has left for them."""
    project = a_concept(a_board(*BUS, *pins), a_thing("Driver", *SPI, count=count))
    return set_line(project, "driver", 3, common=True).after


def selects(project):
    return [w.tooth.pin.name for w in assess_pins(project.concept).wired if w.wish.key.line == "select"]


def test_a_select_is_shared_only_where_pins_run_out():
    assert len(set(selects(chained("A: plain", "B: plain", "C: plain")))) == 3
    tight = chained("A: plain", "B: plain")
    assert len(set(selects(tight))) == 1
    pins = assess_pins(tight.concept)
    assert (pins.used, pins.needed, pins.solved) == (4, 4, True)
    assert not [f for f in assess(tight).findings if f.check == "pins"]
    assert assess(tight).of(WIRES).buses[0].slot == Slot("SPI", 0, tuple(("item", "driver", n) for n in (1, 2, 3)))
    own = set_line(tight, "driver", 3, common=False).after
    assert {w.name for w in assess_pins(own.concept).clash} == {f"Driver {n}: select" for n in (1, 2, 3)}
    (short,) = [f for f in assess(own).findings if f.check == "pins"]
    chain = next(r for r in short.remedies if r.label.startswith("one pin for “select” of all 3 Driver"))
    assert assess_pins(chain.change.after.concept).solved
    stored = solve_pins(tight).after
    assert len({t.pin for t in stored.concept.threads if t.line == "select"}) == 1
    assert assess_pins(stored.concept).wired == tuple(w for w in assess_pins(stored.concept).wired if w.stored)


def test_no_more_selects_are_shared_than_have_to_be():
    project = a_concept(a_board(*BUS, "A: plain", "B: plain", "C: plain"), a_thing("Driver", *SPI, count=2),
                        a_thing("Screen", *SPI, count=2))  # fmt: skip
    for item in ("driver", "screen"):
        project = set_line(project, item, 3, common=True).after
    pins = selects(project)
    assert len(set(pins)) == 3
    assert (pins[0] == pins[1]) != (pins[2] == pins[3])


def test_a_select_dropped_on_that_of_its_copy_shares_it_and_both_stay():
    free = solve_pins(chained("A: plain", "B: plain", "C: plain")).after
    where = selects(free)
    key = Key(item="driver", copy=2, line="select")
    both = lay_thread(free, key, "brain", where[0]).after
    assert selects(both)[:2] == [where[0], where[0]]
    assert selects(both)[2] != where[0]
    away = lay_thread(both, key, "brain", next(p for p in "ABC" if p not in selects(both))).after
    assert len(set(selects(away))) == 3
    lamp = Key(item="driver", copy=2, line="select")
    alone = set_line(free, "driver", 3, common=False).after
    moved = lay_thread(alone, lamp, "brain", where[0]).after
    assert len(set(selects(moved))) == 3  # what was there moves on


def test_a_select_ends_at_the_controller_of_its_bus():
    one, two = a_board(*BUS, name="One"), a_board("P: plain", "Q: plain", name="Two")
    project = a_concept(one, two, a_thing("Eye", *SPI))
    assert {w.name for w in assess_pins(project.concept).clash} & {"Eye: select"}
    able = a_concept(one, a_board(*(x.replace("S", "T", 1) for x in BUS), "P: plain", name="Two"), a_thing("Eye", *SPI))
    assert {w.tooth.item.name for w in assess_pins(able.concept).wired} == {"Two"}


@pytest.mark.parametrize("kept", ["S1", "S2"])
def test_devices_with_other_lines_may_need_a_bus_each(kept):
    """One bus has no line in, the other none out: what only listens and what only speaks fit, each on its own."""
    board = a_board("S1: SPI 1 clock", "S2: SPI 1 out", "T1: SPI 2 clock", "T2: SPI 2 in")
    project = a_concept(board, a_thing("Screen", "clock = SPI clock", "out = SPI out"),
                        a_thing("Probe", "clock = SPI clock", "in = SPI in"))  # fmt: skip
    assert len({w.tooth.number for w in assess_pins(project.concept).wired}) == 4
    line = {"S1": "clock", "S2": "out"}[kept]
    assert assess_pins(lay_thread(project, Key(item="screen", line=line), "brain", kept).after.concept).solved
