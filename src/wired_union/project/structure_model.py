"""What bends: beams that hold parts, as frozen values."""

from typing import Annotated, Literal

from wired_union.project.value import Amount, Name, Positive, Ref, Value

Support = Literal["cantilever", "simple", "fixed"]
Profile = Literal["bar", "rod", "box tube", "round tube"]
Material = Literal[
    "aluminium", "steel", "stainless steel", "plywood", "acrylic", "polycarbonate", "carbon tube",
    "printed PLA along layers", "printed PLA across layers", "printed PETG along layers",
]  # fmt: skip


class Carries(Value, frozen=True, kw_only=True):
    """A part that hangs on a beam, all its copies."""

    item: Annotated[Name, Ref("items", copied=True)]


class Beam(Value, frozen=True, kw_only=True):
    """An axle, an arm, a mast, a bracket: what bends under what it carries, at its end or in its middle."""

    id: Name
    name: Name
    item: Annotated[str, Ref("items", "clear")] = ""
    """the part that it is; its mass and money follow the material"""
    support: Support = "cantilever"
    """held at one end, resting on both, or clamped at both"""
    length_m: Positive = 0.2
    """free length"""
    profile: Profile = "bar"
    """shape of its section"""
    width_m: Positive = 0.02
    """width of the section, across the load; diameter of a rod or round tube"""
    height_m: Positive = 0.02
    """height of the section, along the load; not of a rod or round tube"""
    wall_m: Positive = 0.002
    """thickness of the wall of a tube"""
    material: Material = "aluminium"
    """what it is made of, as a typical grade"""
    carries: tuple[Carries, ...] = ()
    """parts that hang on it"""
    load_kg: Amount = 0.0
    """mass on it besides those parts"""
    shock: Positive = 2.0
    """how many times its weight what it carries pulls on bumps"""
    most_sag_m: Positive | None = None
    """how far it may sag, at rest"""
