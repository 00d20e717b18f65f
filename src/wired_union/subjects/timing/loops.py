"""Control loops: what is controlled, the delay of a chain, margins with it and without, what never comes to rest."""

import math
from collections.abc import Callable
from functools import cached_property
from itertools import product

from msgspec import Struct
from msgspec.structs import replace

from wired_union.kernel.results import Verdict, share_verdict, worst
from wired_union.kernel.subject import Given, Node
from wired_union.physics.loops import LoopDelay, Transfer, is_stable, margins, pid
from wired_union.physics.sampled import (
    MOST_AHEAD,
    Run,
    Sampled,
    noise_through,
    run_of,
    sampled_margins,
    sampled_swing,
    worst_swing,
)
from wired_union.project.loop_model import Loop
from wired_union.project.model import Project
from wired_union.subjects.mass.gives import TOTAL_KG, UNWEIGHED
from wired_union.subjects.motion.gives_times import MOTION
from wired_union.subjects.timing.assess import TIMING
from wired_union.subjects.timing.plants import Around, delay_s, one_lag, plant_of

ENOUGH_DEG = 45.0
"""Phase margin from which a loop neither rings nor minds a model that is a little wrong: common practice, 30 to 60."""
OFF = 0.3
"""How far a model is off that nobody measured: common practice, 30 %."""
LONG_DELAYS, LONG_LAGS, FINE, MOST_PERIODS = 60, 10, 4, 6000
"""How long a loop is run to see whether it comes to rest, in delays and lags; points a period, and periods at most."""
STARTS = (1.0, 0.73, 1.31)
"""Shares of a step from which it is seen: where steps of a sensor lie to what is wanted makes a difference."""


class LoopResult(Struct, frozen=True, dict=True):
    """A loop with its margins; None where something that they rest on is not known."""

    loop: Loop
    plant: Transfer | None
    delay_s: float | None
    """From what is measured to what is done, with half a period in which each output is held."""
    margins: LoopDelay | None = None
    """At the crossover that bears the least delay; None where its gain never is 1, and any delay does."""
    settles: bool = True
    """Whether it settles without any delay."""
    sampled_settles: bool = True
    """Whether it settles as it is: its controller run once a period, and each output held"""
    missing: tuple[str, ...] = ()
    drifts_rad_s: float = 0.0
    """How fast two motors drift apart by themselves."""
    quick_rad_s: float | None = None
    """Up to where the loop inside follows, of a cascade."""

    @property
    def known(self) -> bool:
        return self.plant is not None and self.delay_s is not None and not self.missing

    @property
    def switches(self) -> bool:
        return self.loop.controller == "on and off"

    @property
    def as_it_runs(self) -> bool:
        """Whether its margins are of the sampled loop, since no smooth one says them."""
        return self.loop.controller == "state feedback" or self.loop.predicts_s > 0

    @property
    def left_deg(self) -> float | None:
        """Phase margin that the delay leaves; below 0 it swings up. A controller that only switches has none."""
        if not self.known or self.switches:
            return None
        if not self.settles:
            return -180.0
        left = 180.0 if self.margins is None else self.margins.margin_left_deg
        return left if self.sampled_settles else min(left, 0.0)

    @property
    def bears_s(self) -> float | None:
        """Delay that it could still bear; below 0 there is too much."""
        if not self.known or self.delay_s is None or self.switches:
            return None
        if not self.settles:
            return -self.delay_s
        bears = math.inf if self.margins is None else self.margins.delay_margin_s - self.delay_s
        return bears if self.sampled_settles else min(bears, 0.0)

    @property
    def aim_deg(self) -> float | None:
        """How far it has turned past what it saw before it acts; what it predicts is not turned past."""
        if self.loop.turns_rad_s is None or self.delay_s is None or self.missing:
            return None
        c = self.loop
        late = abs(self.delay_s - c.predicts_s) + abs(c.model_off) * c.predicts_s
        return math.degrees(self.loop.turns_rad_s * late)

    def span_deg(self, off: float = OFF) -> tuple[float, float] | None:
        """Margin left where the plant's gain and time constant are that share off either way: least and most."""
        if not self.known or self.plant is None or self.switches or not one_lag(self.plant):
            return None
        found = []
        for gain, time in product((1 - off, 1.0, 1 + off), repeat=2):
            found.append(self._left_with(_off_by(self.plant, gain, time)))
        return min(found), max(found)

    def _left_with(self, plant: Transfer) -> float:
        """What would be left with another plant under the same controller."""
        if not self.as_it_runs:
            return _left_deg(self.loop, plant, self.delay_s or 0.0)
        run = self.linear()
        if self.plant is not None and run.ahead:
            run = replace(run, model=run.model or self.plant)
        if (sampled_swing(plant, run) or 0.0) >= 1:
            return -180.0
        found = sampled_margins(plant, run)
        return 180.0 if found is None else found.margin_left_deg

    @property
    def verdict(self) -> Verdict:
        rests = [self.rest_verdict] if self.may_swing or self.swing == math.inf else []
        return worst([self.margin_verdict, *rests]) or Verdict.UNKNOWN

    @property
    def may_swing(self) -> bool:
        """Whether something keeps it from resting, so that it is asked how far it may swing."""
        c = self.loop
        return self.switches or c.swings is not None or bool(c.backlash or c.quantum or c.noise)

    @property
    def margin_verdict(self) -> Verdict:
        """By its phase margin; a controller that only switches has none, and is judged by how far it swings."""
        if self.switches:
            return Verdict.HOLDS if self.known else Verdict.UNKNOWN
        left = self.left_deg
        if left is None:
            return Verdict.UNKNOWN
        return Verdict.BREAKS if left <= 0 else Verdict.TIGHT if left < ENOUGH_DEG else Verdict.HOLDS

    @property
    def rest_verdict(self) -> Verdict:
        """Whether it swings no further than it may; a controller that only switches is asked how far it may."""
        swing, most = self.swing, self.loop.swings
        if swing == math.inf:
            return Verdict.BREAKS
        if swing is None or most is None:
            return Verdict.UNKNOWN
        return share_verdict(swing / most)

    @cached_property
    def swing(self) -> float | None:
        """From end to end, how far it goes on swinging: of several runs the most, and noise three σ either way."""
        c = self.loop
        if not self.known or self.plant is None:
            return None
        comes_to_rest = self.settles and self.sampled_settles
        if not self.reaches or not comes_to_rest:
            return math.inf
        noise = noise_through(self.plant, self.linear()) if c.noise and not self.switches else None
        shaken = 6 * noise.moved if noise is not None else 6 * c.noise
        if not (self.switches or c.backlash or c.quantum):
            return shaken
        runs = [worst_swing(self.rest(share).y) for share in STARTS]
        return shaken + max(*runs, self._switched_swing())

    @property
    def reaches(self) -> bool:
        """Whether the most that it can give brings it there and, of one that only switches, beyond, and back."""
        plant, c = self.plant, self.sampled()
        assert plant is not None
        if plant.denominator[-1] == 0:  # it moves on as long as it is pushed
            return c.most > 0 and (c.switches is None or c.lowest < 0)
        if c.switches is None:
            return bool(c.lowest <= c.step * plant.denominator[-1] / plant.numerator[-1] <= c.most)
        gain = plant.numerator[-1] / plant.denominator[-1]
        band = (c.switches or 0.0) / 2
        return gain * c.lowest < c.step - band and gain * c.most > c.step + band

    def rest(self, share: float = 1.0) -> Run:
        """A step of a share of what is looked at, long enough to see whether it comes to rest; without noise."""
        assert self.plant is not None
        run = replace(self.sampled(), noise=0.0, step=self.loop.step * share)
        periods = round(self.rest_s / self.loop.sample_s)
        return run_of(self.plant, run, self.rest_s, periods * (FINE if periods * FINE <= MOST_PERIODS else 1))

    @property
    def rest_s(self) -> float:
        assert self.plant is not None
        lag = abs(self.plant.denominator[0]) if one_lag(self.plant) else 0.0
        slow = LONG_DELAYS * (self.delay_s or 0.0) + LONG_LAGS * lag
        if self.margins is not None and self.margins.crossover_rad_s > 0:
            slow = max(slow, LONG_DELAYS / self.margins.crossover_rad_s)
        return min(max(slow, 100 * self.loop.sample_s), MOST_PERIODS * self.loop.sample_s)

    def _switched_swing(self) -> float:
        """Exactly, of one lag that is switched: it goes on for the delay and up to a period after either edge."""
        plant, c = self.plant, self.sampled()
        assert plant is not None
        if c.switches is None or len(plant.denominator) != 2 or len(plant.numerator) != 1:
            return 0.0
        gain, lag = plant.numerator[0] / plant.denominator[1], plant.denominator[0] / plant.denominator[1]
        left, band = math.exp(-(c.delay_s + c.period_s) / lag), c.switches / 2 + c.quantum / 2 + c.backlash / 2
        high = gain * c.most - (gain * c.most - (c.step + band)) * left
        low = gain * c.lowest - (gain * c.lowest - (c.step - band)) * left
        return high - low

    @property
    def off_rad(self) -> float | None:
        """How far two motors stay apart though they are held in step; nothing with an I part."""
        if not self.drifts_rad_s or self.plant is None or self.loop.integral_s:
            return 0.0 if self.drifts_rad_s else None
        return self.drifts_rad_s / (self.plant.numerator[0] * self.loop.control_gain)

    @property
    def noise_out(self) -> float | None:
        """Effective value of what the sensor's noise makes of the output."""
        if not (self.loop.noise or self.loop.quantum) or not self.known or self.plant is None or self.switches:
            return None
        found = noise_through(self.plant, self.linear())
        return found.output if found is not None else None

    def sampled(self, late_s: float | None = None) -> Sampled:
        """Its controller as it runs; the held half period is in the run itself."""
        c = self.loop
        wanted = (self.delay_s or 0.0) - c.sample_s / 2 if late_s is None else late_s
        return sampled_of(c, self.plant, max(wanted, 0.0))

    def linear(self) -> Sampled:
        """The same without what it can give at the most, and what its sensor shows."""
        return replace(self.sampled(), most=math.inf, least=None)


def sampled_of(c: Loop, plant: Transfer | None, late_s: float) -> Sampled:
    """A loop's controller as it runs, with a delay after it."""
    feedback, ahead = c.controller == "state feedback", round(c.predicts_s / c.sample_s)
    known = plant is not None and one_lag(plant)
    model = _off_by(plant, 1 + c.model_off, 1.0) if ahead and known and plant is not None else None
    level = plant is not None and feedback and len(plant.denominator) == 2
    forward = 1 / (plant.numerator[0] * c.control_gain) if level and plant is not None else 0.0
    return Sampled(
        c.control_gain, None if feedback else c.integral_s, None if feedback else c.derivative_s, c.sample_s, late_s,
        c.most or math.inf, c.least, c.filter_s, c.speed_gain if feedback else 0.0, forward, ahead if model else 0,
        model, c.band if c.controller == "on and off" else None, c.step, c.noise, c.quantum, c.backlash,
        c.sees or math.inf,
    )  # fmt: skip


def _off_by(plant: Transfer, gain: float, time: float) -> Transfer:
    """A plant of one lag with another gain and time constant."""
    return Transfer((plant.numerator[0] * gain,), (plant.denominator[0] * time, *plant.denominator[1:]))


def law_of(loop: Loop) -> Transfer:
    """Its PID controller as a smooth one."""
    return pid(loop.control_gain, loop.integral_s, loop.derivative_s, loop.filter_s)


def _left_deg(loop: Loop, plant: Transfer, late_s: float) -> float:
    whole = plant.times(law_of(loop))
    if not is_stable(whole):
        return -180.0
    found = margins(whole, late_s)
    return 180.0 if found is None else found.margin_left_deg


def assess_loop(loop: Loop, around: Around) -> LoopResult:
    """Its plant, its delay, its margins."""
    missing: list[str] = []
    plant = plant_of(loop, around, missing)
    late = delay_s(loop, around, missing)
    if plant is None or late is None:
        return LoopResult(loop, plant.transfer if plant else None, late, missing=tuple(missing))
    missing += _asked(loop, plant.transfer, late)
    found = LoopResult(loop, plant.transfer, late, missing=tuple(missing), drifts_rad_s=plant.drifts_rad_s,
                       quick_rad_s=plant.quick_rad_s)  # fmt: skip
    if missing or found.switches:
        return found
    return with_margins(found)


def _asked(loop: Loop, plant: Transfer, late_s: float) -> list[str]:
    """What its controller needs besides."""
    periods = MOST_AHEAD * loop.sample_s
    feedback = loop.controller == "state feedback"
    lacks = (
        ("the most that it can give", loop.controller == "on and off" and loop.most is None),
        ("how far it may go on swinging", loop.controller == "on and off" and loop.swings is None),
        ("a plant of one lag, to predict it or to feed back its speed",
         (loop.predicts_s > 0 or feedback) and not one_lag(plant)),
        (f"a delay and a prediction below {MOST_AHEAD} of its periods",
         (loop.predicts_s > 0 or feedback) and max(late_s, loop.predicts_s) > periods),
        ("a least that it can give below the most",
         loop.least is not None and loop.least >= (loop.most or math.inf)),
    )  # fmt: skip
    return [f"{loop.name}: {words}" for words, gone in lacks if gone]


def with_margins(found: LoopResult) -> LoopResult:
    """The same with the margins that its settings leave."""
    loop, plant, late = found.loop, found.plant, found.delay_s
    assert plant is not None
    assert late is not None
    swing = sampled_swing(plant, found.linear())
    settles = swing is None or swing < 1 - 1e-12
    if found.as_it_runs:
        told = sampled_margins(plant, found.linear()) if settles else None
        if told is not None:  # half a period of its own is in the run already
            told = LoopDelay(told.crossover_rad_s, told.phase_margin_deg, told.phase_lost_deg, told.margin_left_deg,
                             told.delay_margin_s + loop.sample_s / 2)  # fmt: skip
        return replace(found, margins=told, sampled_settles=settles)
    whole = plant.times(law_of(loop))
    return replace(found, margins=margins(whole, late), settles=is_stable(whole), sampled_settles=settles)


LEAST_GAIN, MOST_GAIN, HALVINGS = 1 / 30, 30.0, 12
"""Shares of a plant's gain between which it is looked at whether its controller still holds it."""


def gain_range(found: LoopResult) -> tuple[float, float]:
    """Shares of the plant's gain from and up to which it settles as it runs; the same where it does not now."""
    assert found.plant is not None
    plant = found.plant

    def settles(share: float) -> bool:
        other = Transfer(tuple(share * x for x in plant.numerator), plant.denominator)
        run = found.linear()
        run = replace(run, model=run.model or plant) if run.ahead else run
        swing = sampled_swing(other, run)
        if swing is not None:
            return swing < 1 - 1e-12
        return _left_deg(found.loop, other, found.delay_s or 0.0) > 0

    if not settles(1.0):
        return 1.0, 1.0
    return _edge(settles, LEAST_GAIN), _edge(settles, MOST_GAIN)


def _edge(settles: Callable[[float], bool], end: float) -> float:
    """The last share from 1 towards an end at which it still settles, by halving."""
    if settles(end):
        return end
    inside, outside = 1.0, end
    for _ in range(HALVINGS):
        middle = math.sqrt(inside * outside)
        inside, outside = (middle, outside) if settles(middle) else (inside, middle)
    return inside


def _read(project: Project) -> tuple[object, ...]:
    concept = project.concept
    return concept.control_loops, concept.loads if concept.control_loops else ()


def _work(project: Project, given: Given) -> tuple[LoopResult, ...]:
    if not project.concept.control_loops:
        return ()
    chains = {c.chain.id: c for c in given.of(TIMING).chains}
    around = Around(project.concept, given.of(MOTION), chains, given.of(TOTAL_KG), given.of(UNWEIGHED))
    return tuple(assess_loop(loop, around) for loop in project.concept.control_loops)


LOOPS = Node("loops", _read, _work, (TIMING, MOTION, TOTAL_KG, UNWEIGHED))
