"""What must bear, fit together, stay aligned or be dropped: frozen values, each a kind of thing to look at."""

from typing import Annotated, ClassVar, Literal, get_args

from msgspec import Meta

from wired_union.project.structure_model import Carries, Material
from wired_union.project.value import Amount, Count, Name, Positive, Ref, Value

BoltGrade = Literal["4.6", "5.6", "8.8", "10.9", "A2-50", "A2-70", "nylon"]
ScrewThread = Literal["M2", "M2.5", "M3", "M4", "M5", "M6", "M8", "M10", "M12"]
Factor = Annotated[float, Meta(ge=1, le=100)]


class Borne(Value, frozen=True, kw_only=True):
    """What every one of them has."""

    id: Name
    name: Name
    kind: ClassVar[str] = ""


class PlateTest(Borne, frozen=True, kw_only=True, tag_field="kind", tag="plate"):
    """A plate that bends under what lies on it: a deck, a lid, a shelf."""

    kind: ClassVar[str] = "plate"
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part that it is; its mass follows the material"""
    length_m: Positive = 0.3
    width_m: Positive = 0.2
    thick_m: Positive = 0.004
    """thickness"""
    material: Material = "plywood"
    """what it is made of, as a typical grade"""
    edges: Literal["simple", "clamped"] = "simple"
    """whether all its edges rest on something, or are held fast"""
    carries: tuple[Carries, ...] = ()
    """parts that lie on it, spread evenly"""
    load_kg: Amount = 0.0
    """mass on it besides those parts"""
    shock: Positive = 2.0
    """how many times its weight that pulls on bumps"""
    factor: Factor = 2.0
    """how many times it should bear that"""
    most_sag_m: Positive | None = None
    """how far it may sag, at rest"""


class BoltsTest(Borne, frozen=True, kw_only=True, tag_field="kind", tag="bolts"):
    """Like bolts on a circle that hold a force beside their middle, and a pull along them."""

    kind: ClassVar[str] = "bolts"
    bolts: Count = 4
    """how many"""
    circle_m: Positive = 0.04
    """diameter of the circle that they are on"""
    thread: ScrewThread = "M3"
    grade: BoltGrade = "8.8"
    """class on the head; A2 is stainless"""
    force_n: Amount = 50.0
    """force across them"""
    arm_m: Amount = 0.05
    """how far beside their middle it acts"""
    pull_n: Amount = 0.0
    """force along them, all together"""
    factor: Factor = 2.0
    """how many times they should bear that"""


class TetherTest(Borne, frozen=True, kw_only=True, tag_field="kind", tag="tether"):
    """A sling or tether that catches what falls."""

    kind: ClassVar[str] = "tether"
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part that falls, all its copies; everything when empty"""
    drop_m: Amount = 0.3
    """how far it falls before the tether is taut"""
    stretch: Annotated[float, Meta(ge=0.001, le=2)] = 0.1
    """share of its length by which it stretches at its strength: 0.02 for steel wire, 0.1 to 0.2 for nylon"""
    length_m: Positive = 0.5
    strength_n: Positive = 1000.0
    """force at which it breaks"""
    factor: Factor = 5.0
    """how many times it should bear that: 5 and more for slings, common practice"""


class Deviation(Value, frozen=True, kw_only=True):
    """One size in a row of sizes, and how far it may be off."""

    id: Name
    name: Name
    off_m: Amount
    """plus or minus"""


class TolerancesTest(Borne, frozen=True, kw_only=True, tag_field="kind", tag="tolerances"):
    """Sizes in a row that leave a gap, or take it."""

    kind: ClassVar[str] = "tolerances"
    gap_m: Positive = 0.0005
    """gap that the drawing leaves"""
    sizes: tuple[Deviation, ...] = ()
    """what adds up"""
    by: Literal["worst case", "root of squares"] = "worst case"
    """whether all may be off the same way, or each by itself"""


class GrowthTest(Borne, frozen=True, kw_only=True, tag_field="kind", tag="growth"):
    """Something that grows in the heat beside something else, and what that does to an alignment."""

    kind: ClassVar[str] = "growth"
    length_m: Positive = 0.3
    material: Material = "aluminium"
    """what grows"""
    against: Material | Literal["nothing"] = "nothing"
    """what it is fixed to, which grows too"""
    made_c: Annotated[float, Meta(ge=-50, le=100)] = 20.0
    """temperature at which it was put together"""
    across_m: Positive | None = None
    """distance over which one end's growth turns something; none where it only shifts it"""
    most_m: Positive | None = None
    """how far it may shift"""
    most_deg: Positive | None = None
    """how far it may turn something"""


class DropTest(Borne, frozen=True, kw_only=True, tag_field="kind", tag="drop"):
    """The whole machine, or a part, dropped on its feet, its bumper or its foam."""

    kind: ClassVar[str] = "drop"
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part that drops, one copy; everything when empty"""
    drop_m: Positive = 0.1
    stiffness_n_per_m: Positive = 20_000.0
    """of what gives: feet, foam, tyres"""
    room_m: Positive | None = None
    """how far that can give before it is solid"""
    most_g: Positive = 50.0
    """how many times its weight the most delicate part bears"""


Making = Literal["printed", "printed and drilled", "cut by laser", "drilled", "milled or turned", "bought"]


class PairTest(Borne, frozen=True, kw_only=True, tag_field="kind", tag="pair"):
    """A hole and what goes into it: pressed, snug, sliding or loose."""

    kind: ClassVar[str] = "pair"
    hole_m: Positive = 0.0083
    """diameter of the hole, as drawn"""
    hole_made: Making = "printed"
    """how the hole is made"""
    shaft_m: Positive = 0.008
    """diameter of what goes in, as drawn"""
    shaft_made: Making = "bought"
    """how that is made"""
    wanted: Literal["press", "snug", "sliding", "loose"] = "sliding"
    """how it should go in"""


class LiftTest(Borne, frozen=True, kw_only=True, tag_field="kind", tag="lift"):
    """Lifting the whole machine by hand."""

    kind: ClassVar[str] = "lift"
    persons: Annotated[int, Meta(ge=1, le=4)] = 1
    """who lift together"""
    each_kg: Positive = 23.0
    """what each may lift at the most, close to the body: 23 kg by the lifting equation, less by many local rules"""


AnyTest = PlateTest | BoltsTest | TetherTest | TolerancesTest | GrowthTest | PairTest | DropTest | LiftTest
TEST_KINDS: dict[str, type[AnyTest]] = {k.kind: k for k in get_args(AnyTest)}
