"""Joints in series: each is one load, with the link that it moves and what sits on the end of it."""

import math

from msgspec import Struct

from wired_union.physics.chain import Held, Joint, worst_poses
from wired_union.physics.growth import ALLOWANCES
from wired_union.physics.method import require
from wired_union.picture.shapes import Kit, Line, Ring, Shape
from wired_union.project.model import Concept, Item
from wired_union.project.motion_model import JointLoad
from wired_union.project.value import references
from wired_union.subjects.motion.kind import (
    LoadKind,
    Scene,
    Torques,
    all_day,
    known,
    shared,
    sharing,
    turns,
    with_others,
)
from wired_union.subjects.motion.results import Drive, LoadResult, Row, check_of
from wired_union.subjects.motion.scale import Scale, arc, arrow, scale_bar
from wired_union.units import show


class Chain(Struct, frozen=True):
    """All joints that hang together, each after the one it sits on; what of them is not known."""

    loads: tuple[JointLoad, ...]
    joints: tuple[Joint, ...]
    missing: tuple[str, ...]

    def place(self, load: JointLoad) -> int:
        return next(n for n, x in enumerate(self.loads) if x.id == load.id)


def root_of(load: JointLoad, concept: Concept) -> JointLoad:
    """The joint on the body. Raises ValueError where joints sit on each other in a ring."""
    joints = {x.id: x for x in concept.loads if isinstance(x, JointLoad)}
    walked = {load.id}
    while (below := joints.get(load.on)) is not None:
        require(below.id not in walked, f"{below.name} sits on itself in a ring: let one of them sit on the body")
        walked.add(below.id)
        load = below
    return load


def hanging_together(load: JointLoad, concept: Concept) -> tuple[JointLoad, ...]:
    """The joints of its chain, each after the one it sits on. Raises ValueError for a ring."""
    found = [root_of(load, concept)]
    for joint in found:  # grows while it is walked
        found += [x for x in concept.loads if isinstance(x, JointLoad) and x.on == joint.id]
    return tuple(found)


def chain_of(load: JointLoad, concept: Concept) -> Chain:
    """A chain with its masses: links, motors and payloads, each with the allowance of what is known of it."""
    loads = hanging_together(load, concept)
    places = {x.id: n for n, x in enumerate(loads)}
    items = {i.id: i for i in concept.items}
    missing: dict[str, None] = {}

    def mass(item_id: str, copies: int = 1) -> float:
        item = items.get(item_id)
        if item is None:
            return 0.0
        if item.part.mass_kg is None:
            missing[f"{item.name}: its mass"] = None
            return 0.0
        return item.part.mass_kg * (1 + ALLOWANCES[item.knowledge]) * copies

    joints = []
    for x in loads:
        link = mass(x.link) if x.link in items else x.link_mass_kg
        if link is None:
            missing[f"{x.name}: the mass of its link"] = None
        ends = sum(mass(y.actuator, _motors(y, items)) for y in loads if y.on == x.id)
        joints.append(_joint(x, places.get(x.on, -1), link or 0.0, ends + x.payload_kg, mass(x.counter)))
    return Chain(loads, tuple(joints), tuple(missing))


def _motors(load: JointLoad, items: dict[str, Item]) -> int:
    return load.motors or (items[load.actuator].count if load.actuator in items else 1)


def _joint(load: JointLoad, on: int, link_kg: float, end_kg: float, counter_kg: float) -> Joint:
    if load.turns == "slide":
        return Joint(load.turns, on, 0.0, load.travel_m, load.link_m, link_kg, end_kg, counter_kg, load.counter_m,
                     load.spring_n, load.speed_m_s or 0.0, load.acceleration_m_s2)  # fmt: skip
    low, high = sorted((math.radians(load.from_deg), math.radians(load.to_deg)))
    return Joint(load.turns, on, low, high, load.link_m, link_kg, end_kg, counter_kg, load.counter_m, load.spring_n_m,
                 load.speed_rad_s or 0.0, load.acceleration_rad_s2)  # fmt: skip


def at_shaft(load: JointLoad, most: float) -> float:
    """Torque at the load's last gear: of a slide the force by the radius of its pinion."""
    return most * load.pinion_m / 2 if load.turns == "slide" else most


def torques(load: JointLoad, scene: Scene) -> Torques | None:
    """It has to be held in its worst pose, so that counts as usual too; None while a mass is missing."""
    chain = chain_of(load, scene.concept)
    if chain.missing:
        return None
    most = at_shaft(load, worst_poses(chain.joints)[chain.place(load)].most)
    return shared(load, scene, most, most)


def carried(load: JointLoad, scene: Scene) -> LoadResult:
    chain = chain_of(load, scene.concept)
    place = chain.place(load)
    held = worst_poses(chain.joints)[place]
    slides = load.turns == "slide"
    unit, still = ("N", "kg") if slides else ("N·m", "kg·m²")
    rows = (Row(f"most {'force' if slides else 'torque'} at the joint", show(held.most, unit)),
            Row("of that holds the weight", show(abs(held.weight), unit)),
            Row("mass it slides" if slides else "inertia about the joint", show(held.inertia, still)),
            Row("in the pose", _pose_words(chain, held)), *sharing(load, scene))  # fmt: skip
    facts = _facts(chain, held, place)
    if scene.drive is None or chain.missing:
        missing = (*chain.missing, *(scene.lacks if scene.drive is None else ()))
        return LoadResult(load, rows=rows, missing=missing, drive=scene.drive, facts=facts)
    return _driven(load, scene, scene.drive, held, LoadResult(load, rows=rows, drive=scene.drive, facts=facts))


def _driven(load: JointLoad, scene: Scene, drive: Drive, held: Held, found: LoadResult) -> LoadResult:
    slides = load.turns == "slide"
    own = at_shaft(load, held.most)
    torque = with_others(shared(load, scene, own, own), scene).most_n_m
    turn = max(drive.motor.speed_at(drive.sag_v, torque), 0.0) / load.ratio
    fast = turn * load.pinion_m / 2 if slides else turn
    wanted, unit = (load.speed_m_s, "m/s") if slides else (load.speed_rad_s, "rad/s")
    checks = known(
        check_of("torque", torque, drive.stall_n_m, "N·m"),
        check_of("speed", wanted, fast, unit) if wanted else None,
        all_day(scene, drive.motor.current_at(torque)),
    )
    way = load.travel_m if slides else math.radians(abs(load.to_deg - load.from_deg))
    free = drive.motor.speed_at(drive.nominal_v, 0.0) / load.ratio * (load.pinion_m / 2 if slides else 1.0)
    slow, quick = way / fast if fast > 0 else math.inf, way / free if free > 0 else math.inf
    level = shared(load, scene, at_shaft(load, abs(held.weight)), 0.0).usual_n_m
    points = (drive.point("weight alone", level), drive.point("worst pose", torque))
    return LoadResult(load, checks, (*found.rows, Row("fastest there", show(fast, unit))), points, drive,
                      facts=found.facts, speed_m_s=fast if slides else None, takes_s=(min(quick, slow), slow),
                      turning=turns(scene, points, points[1], load.ratio, "joint"))  # fmt: skip


def _pose_words(chain: Chain, held: Held) -> str:
    """ "shoulder 0°, elbow −90°": nothing of what does not matter, the turn of the whole about the upright."""
    said = [
        f"{x.name} {show(q, 'm') if x.turns == 'slide' else f'{math.degrees(q):.0f}°'.replace('-', '−')}"
        for x, j, q in zip(chain.loads, chain.joints, held.pose, strict=True)
        if not (j.on < 0 and x.turns == "yaw")
    ]
    return ", ".join(said) or "any"


def _facts(chain: Chain, held: Held, place: int) -> dict[str, float]:
    """The chain as it is drawn: every joint from the side, in the plane that it reaches out in."""
    facts = {"links": float(len(chain.loads)), "place": float(place), "most": held.most, "weight": held.weight,
             "end_kg": chain.joints[place].end_kg}  # fmt: skip
    far = max(held.points, key=lambda p: math.hypot(p[0], p[1]))
    along = math.atan2(far[1], far[0])
    for n, (x, y, z) in enumerate(held.points):
        facts[f"x{n}"] = x * math.cos(along) + y * math.sin(along)
        facts[f"z{n}"] = z
    for n, joint in enumerate(chain.joints):
        facts[f"on{n}"] = float(joint.on)
    return facts


def drawn(result: LoadResult, kit: Kit, width: float, height: float) -> list[Shape]:
    """From the side, in the pose that is worst for this joint; its own links copper, the rest grey."""
    f = result.facts
    spots = [(f[f"x{n}"], f[f"z{n}"]) for n in range(int(f["links"]) + 1)]
    low, high = min(z for _, z in spots), max(z for _, z in spots)
    left, right = min(x for x, _ in spots), max(x for x, _ in spots)
    room = kit.px(40)
    px = min((width * 0.62) / max(right - left, 0.02), (height - 2 * room) / max(high - low, 0.02))
    scale = Scale(px, room + kit.px(50) - left * px, height / 2 + (high + low) / 2 * px)
    shapes: list[Shape] = []
    place = int(f["place"])
    for n in range(int(f["links"])):
        start = spots[int(f[f"on{n}"]) + 1]
        ink, thick = ("copper", 6.0) if n == place else ("unknown", 4.0)
        shapes.append(Line(*scale.at(*start), *scale.at(*spots[n + 1]), ink, thick))
    for n in range(int(f["links"])):
        start = scale.at(*spots[int(f[f"on{n}"]) + 1])
        ink = "copper" if n == place else "mute"
        shapes.append(Ring(*start, kit.px(8 if n == place else 5), ink, 1.0, (), ink))
    shapes += _forces(result, kit, scale, spots, place)
    return [*shapes, *scale_bar(kit, scale.px, height)]


def _forces(result: LoadResult, kit: Kit, scale: Scale, spots: list[tuple[float, float]], place: int) -> list[Shape]:
    load, f = result.load, result.facts
    assert isinstance(load, JointLoad)
    x, y = scale.at(*spots[place + 1])
    shapes: list[Shape] = []
    if f["end_kg"] > 0:
        shapes += arrow(x, y, x, y + kit.px(30), "slate")
        shapes.append(kit.figures(x + 8, y + kit.px(26), show(f["end_kg"] * 9.80665, "N"), "small", "slate", bold=True))
    jx, jy = scale.at(*spots[int(f[f"on{place}"]) + 1])
    unit = "N" if load.turns == "slide" else "N·m"
    if load.turns == "pitch":
        turned = Scale(scale.px, jx, jy)
        shapes.append(arc(turned, kit.px(20) / scale.px, -60, 60, "copper", 1.6))
    shapes.append(kit.figures(jx - 14, jy - 12, show(f["most"], unit), "small", "copper", bold=True, anchor="end"))
    return shapes


def reach(load: JointLoad, concept: Concept) -> float:
    """How far its chain reaches out from the body when it is straight."""
    try:
        loads = hanging_together(load, concept)
    except ValueError:
        return 0.0
    far: dict[str, float] = {}
    for x in loads:
        far[x.id] = far.get(x.on, 0.0) + x.link_m + (x.travel_m if x.turns == "slide" else 0.0)
    return max(far.values())


def shaped_by(load: JointLoad, concept: Concept) -> frozenset[str]:
    """Every part that the chain is made of: links, motors, counterweights."""
    try:
        loads = hanging_together(load, concept)
    except ValueError:
        return frozenset()
    named = {getattr(x, f) for x in loads for f, ref in references(JointLoad).items() if ref.room == "items"}
    return frozenset(named - {"", load.actuator})


def emptied(load: JointLoad) -> JointLoad:
    """The same with nothing to hold and nothing to push: no part of its chain makes it ask for less."""
    return load.but(link="", link_mass_kg=0.0, payload_kg=0.0, counter="", on="", spring_n=0.0, spring_n_m=0.0,
                    acceleration_rad_s2=0.0, acceleration_m_s2=0.0, speed_rad_s=None, speed_m_s=None)  # fmt: skip


_OF_A_SLIDE = frozenset({"travel_m", "spring_n", "pinion_m", "speed_m_s", "acceleration_m_s2"})
_OF_A_TURN = frozenset({"from_deg", "to_deg", "spring_n_m", "speed_rad_s", "acceleration_rad_s2"})


def unused(load: JointLoad, part: object) -> frozenset[str]:
    """What says nothing of a slide, or of what turns; the mass of a link that is a part."""
    found = _OF_A_TURN if load.turns == "slide" else _OF_A_SLIDE
    found |= {"link_mass_kg"} if load.link else set()
    return found | ({"counter_m"} if not load.counter else set())


def asked(load: JointLoad) -> str:
    words = {"pitch": "up and down", "yaw": "about the upright", "roll": "about the link", "slide": "along the link"}
    return f"{show(load.link_m, 'm')}, {words[load.turns]}"


KIND = LoadKind(
    JointLoad,
    "joint of an arm",
    carried,
    drawn,
    asked=asked,
    dragged=lambda r: {"payload_kg": 2.0, "link_m": 0.8, **({} if r.load.turns == "slide" else {"spring_n_m": 10.0})},  # type: ignore[union-attr]
    torques=torques,
    sets_current=True,
    reach_m=reach,
    unused=unused,
    shaped_by=shaped_by,
    emptied=emptied,
    shown="from the side, to scale, in its worst pose",
)
