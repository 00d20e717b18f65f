"""Wires without bytes in whole projects: verdicts, remedies that bring what they say, and what chains wait for them."""

import pytest

import edits
from builders import a_chain, a_project
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.project.signal_model import Signal
from wired_union.project.timing_model import Bus, Message, Processor, SignalStage, Task
from wired_union.subjects import assess
from wired_union.subjects.timing.assess import TIMING
from wired_union.subjects.timing.buses import BUSES
from wired_union.subjects.timing.signals import SIGNALS, signal_words

ANALOGUE = {"kind": "analogue", "frequency_hz": 1000.0, "bits": 12, "source_ohm": 1e3, "hold_f": 20e-12,
            "settle_s": 2e-6, "highest_hz": 50.0, "disturbed_hz": 0.0, "needed_bits": 6.0}  # fmt: skip


def wired(*tasks, **figures):
    """A project with one wire, a chain that passes through it, and tasks of one controller."""
    project = a_project()
    concept = project.concept.but(
        signals=(Signal(id="wire", name="Wire", **figures),), chains=(a_chain(SignalStage(name="it", signal="wire")),),
        processors=(Processor(id="brain", name="Brain", way="pre-emptive"),), tasks=tasks,
    )  # fmt: skip
    return project.but(concepts=(concept,))


def task(**figures):
    return Task(id="t", name="T", processor="brain", **figures)


def of(project):
    (found,) = assess(project).of(SIGNALS)
    return found


BAD = {
    "pulse": ({"frequency_hz": 600.0, "clock_hz": 1e6}, ()),
    "uneven": (
        {"made_with": "a task", "made_by": "t", "clock_hz": 1e6},
        (task(period_s=0.02, least_s=0.001, most_s=0.005),),
    ),
    "step": ({"clock_hz": 10e3}, ()),
    "levels": ({"kind": "PWM", "frequency_hz": 20e3, "clock_hz": 1e6, "bits": 8}, ()),
    "settling": (ANALOGUE | {"source_ohm": 1e6}, ()),
    "converting": (ANALOGUE | {"channels": 64, "conversion_s": 1e-4}, ()),
    "aliasing": (ANALOGUE | {"highest_hz": 600.0}, ()),
    "bits": (ANALOGUE | {"noise_v": 0.05, "needed_bits": 9.0}, ()),
    "folding": (ANALOGUE | {"disturbed_hz": 20_010.0}, ()),
    "edges": (
        {"kind": "encoder", "turns_hz": 500.0, "counted_by": "a task", "read_by": "t"},
        (task(period_s=0.001, most_s=1e-5, interrupt=True),),
    ),
}


@pytest.mark.parametrize("check", BAD)
def test_what_does_not_hold_is_told_and_a_remedy_mends_it(check):
    figures, tasks = BAD[check]
    before = assess(wired(*tasks, **figures))
    (result,) = before.of(SIGNALS)
    assert result.verdict is Verdict.BREAKS
    finding = next(f for f in before.findings if f.id == f"signal:wire:{check}")
    told = offered(before, finding)
    assert told
    for remedy, words in told:
        after = next((f for f in assess(remedy.change.after).findings if f.id == finding.id), None)
        assert after is None or finding.use is None or after.use < finding.use
        assert words


def test_a_servo_that_holds_and_what_a_chain_waits_for_it():
    project = wired(clock_hz=1e6)
    assert of(project).verdict is Verdict.HOLDS
    assert "1000 steps of 0.18" in signal_words(of(project))
    (chain,) = assess(project).of(TIMING).chains
    assert (chain.latency.least_s, chain.latency.most_s) == pytest.approx((0.001, 0.022))


def test_what_is_not_known_is_unknown_and_so_is_its_chain():
    for figures in (
        {},
        {"kind": "PWM"},
        {"kind": "analogue"},
        {"kind": "encoder"},
        {"made_with": "a task", "made_by": "t"},
        {"made_with": "a task", "clock_hz": 1e6},
        {"kind": "encoder", "turns_hz": 1.0, "counted_by": "a task"},
    ):
        project = wired(*([task()] if "made_by" in figures else []), **figures)
        assert of(project).verdict is Verdict.UNKNOWN, figures
        assert of(project).missing
    (chain,) = assess(wired(kind="encoder")).of(TIMING).chains
    assert chain.latency is None


@pytest.mark.parametrize("lacks", ["source_ohm", "settle_s", "highest_hz", "disturbed_hz", "needed_bits"])
def test_each_figure_of_a_converter_is_asked(lacks):
    found = of(wired(**{k: v for k, v in ANALOGUE.items() if k != lacks}))
    assert found.verdict is Verdict.UNKNOWN
    assert len(found.missing) == 1


def test_a_poll_must_come_between_two_edges():
    def polled(period):
        return of(
            wired(task(period_s=period, most_s=1e-4), kind="encoder", turns_hz=10.0, counted_by="a task", read_by="t")
        )

    # 12 counts at 10 turns a second: 8.33 ms apart, by hand
    assert polled(0.005).verdict is Verdict.HOLDS
    assert polled(0.009).verdict is Verdict.BREAKS


def test_an_encoder_turns_as_fast_as_motion_says(mudlark):
    made = edits.add_signal(mudlark, name="Wheel turns", kind="encoder").after
    ref = made.concept.signals[-1].id
    slow = edits.set_signal(made, value_id=ref, load="drive").after
    fast = edits.set_signal(made, value_id=ref, load="drive", turns_with="the rotor").after
    words = [signal_words(next(r for r in assess(p).of(SIGNALS) if r.signal.id == ref)) for p in (slow, fast)]
    edges = [float(w.split()[0]) for w in words]
    assert edges[1] == pytest.approx(100 * edges[0], rel=0.05)  # a gear of 100:1


def test_errors_on_can_make_every_message_later_and_none_earlier():
    """By hand: 135 bits at 250 kbit/s are 540 µs; one error costs 31 bits and the longest frame again: 664 µs."""

    def arrival(errors):
        project = a_project()
        messages = [Message(id=x, name=x, bus="can", bytes=8, every_s=0.05, priority=n) for n, x in enumerate("ab", 1)]
        concept = project.concept.but(buses=(Bus(id="can", name="CAN", kind="can", clock_hz=250e3,
                                                 errors_per_min=errors),), messages=tuple(messages))  # fmt: skip
        (bus,) = assess(project.but(concepts=(concept,))).of(BUSES)
        return [m.response_s for m in bus.messages], bus.share

    (calm, share), (spoilt, more) = arrival(0.0), arrival(60.0)
    assert [b - a for a, b in zip(calm, spoilt, strict=True)] == pytest.approx([664e-6, 664e-6])
    assert more - share == pytest.approx(664e-6)
