"""Motion: what must move, what moves it, what shakes, and the room there is."""

from collections.abc import Iterator

from wired_union.kernel.cautions import RULES
from wired_union.kernel.results import Measure, Verdict, worst
from wired_union.kernel.subject import Assessment, Caution, Driver, MeasureKind, Subject
from wired_union.project.model import Concept, Item
from wired_union.subjects.motion.assess import MOTION, measures
from wired_union.subjects.motion.findings import findings, hard_findings
from wired_union.subjects.motion.pick import MotionPick
from wired_union.subjects.motion.room import refuses
from wired_union.subjects.motion.usual import USUAL

STRONG_TORQUE_N_M = 0.5  # common practice: from here a motor pinches fingers badly


def _verdict(assessment: Assessment) -> Verdict | None:
    loads = [r.verdict for r in assessment.of(MOTION).loads]
    return worst([*assessment.own_verdicts("motion"), *loads])


def _load(_: Assessment, measure: Measure) -> MotionPick:
    return MotionPick(load=measure.of)


def _checks(assessment: Assessment, measure: Measure) -> list[Driver]:
    result = assessment.of(MOTION).of(measure.of)
    checks = sorted(result.checks, key=lambda c: -c.use) if result is not None else []
    return [Driver(c.name, min(c.use, 10.0), c.said, "copper") for c in checks]


def _cautions(concept: Concept) -> Iterator[Caution]:
    kinds = (
        (_is_strong, "Moving parts", "First run with wheels or load off the ground and hands clear; guard what pinches"
         " or spins, and keep a switch in reach that cuts the power."),
        (_stores_energy, "Stored energy", "Springs, elastics and tanks release at once. Unload before working on"
         " them, keep out of the line of release, wear eye protection."),
    )  # fmt: skip
    for test, title, text in kinds:
        items = tuple(i.id for i in concept.items if test(i))
        if items:
            yield Caution(title, f"{text} {RULES}", items)


def _is_strong(item: Item) -> bool:
    motor, stepper = item.part.motor, item.part.stepper
    if motor is not None and (motor.stall_torque_n_m or 0.0) >= STRONG_TORQUE_N_M:
        return True
    if stepper is not None and (stepper.holding_torque_n_m or 0.0) >= STRONG_TORQUE_N_M:
        return True
    return item.part.thrust is not None and item.part.motor is None


def _stores_energy(item: Item) -> bool:
    part = item.part
    return part.spring is not None or part.tank is not None or (part.stored_energy_j or 0.0) > 0


SUBJECT = Subject(
    id="motion", title="Motion", group="CHOOSE",
    about=(
        "Each load is worked out by statics: wheels on the slope and an axle at the step, an arm over its whole"
        " range and either way, a screw with its friction, a launcher by impulse. All wheels are taken to carry"
        " alike while nothing has a place; then the whole vehicle of two axles meets a step, first one axle, then"
        " the other with the lean it has, and turns on the spot. Only driven wheels grip. Motors share a load,"
        " loads of the same mode add on a motor. A brushed motor is the linear model: current follows torque,"
        " speed follows voltage, on average and at the worst instant of the modes that the load moves in. A"
        " stepper gives what its driver's current makes until impedance and back-EMF use up the volts; its"
        " resonances are not worked out. The usual current stands for the motor's current at work in Power. All"
        " day: root mean square current against what is given, else what warms the winding by 80 °C through the"
        " can in still air, at most 30 % of stall, 10 % where the size is not known (common practice). The spiral"
        " scales motors by torque and the pack by energy. What turns keeps 20 % away from what swings (common"
        " practice).",
        "Joints in series are point masses on slender links: weight, accelerations either way and all at once, and what"
        " speeds push as a bound, in the pose that is worst for each joint, found by search from a grid; they are"
        " held there all day. A hull is a box that is as full at every height. A roller pulls by friction, and"
        " speeds a piece up within its own length.",
        "Not checked: soft ground, how a belly meets a hump; how a rotor's"
        " own inertia slows an arm, a joint or a leg; friction in joints; links that bend or twist; water that"
        " sloshes; speeds on the way up to where a load is hardest.",
    ),
    view="view:MotionView",
    methods=(
        "dc-motor", "stepper-torque", "solenoid-force", "drive-torque", "step-climb", "two-axle-step",
        "skid-turn", "belly-clearance", "leadscrew", "column-buckling",
        "screw-critical-speed", "joint-torque", "pendulum", "float-stability", "list-angle",
        "spring-energy", "tank-shot", "spin-up-time", "best-gear-ratio",
        "reaction-wheel-slew", "gripper-force", "opening-shock",
        "descent-rate", "standard-atmosphere", "airflow-flap", "natural-frequency",
    ),
    nodes=(USUAL, MOTION), measures=measures, findings=findings, hard_findings=hard_findings, verdict=_verdict,
    explains=(
        MeasureKind("motion", "share", "Move", each=True, select=_load, drivers=_checks,
                    about="the largest share that a load takes of what there is"),
        MeasureKind("speed", "m/s", "Move", direction="at least", each=True, select=_load, drivers=_checks,
                    about="how fast it moves where it is hardest"),
    ),
    cautions=_cautions, section="section:section", refuses=refuses, cuts="cuts:cuts_of",
)  # fmt: skip
