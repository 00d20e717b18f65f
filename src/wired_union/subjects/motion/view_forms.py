"""Forms of the Motion panel: every figure of a load, the room there is, what can swing."""

from functools import partial
from typing import Any

from wired_union import units
from wired_union.project.meanings import meanings
from wired_union.project.model import AnyLoad, Mount
from wired_union.project.motion_model import JointLoad
from wired_union.project.value import choices
from wired_union.subjects.motion import edits
from wired_union.subjects.motion.kinds.every import kind_of
from wired_union.ui.fields import Choice, EntryField, Form, number_reader
from wired_union.ui.item_form import read_points
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.units import show

_SIZES = ("gate_width_m", "gate_height_m", "length_m", "reach_m")
_SIZE_WORDS = {"length_m": "longest part", "reach_m": "furthest reach"}
_ANY_PART = {"link": "the link is", "counter": "balanced by", "flap": "the flap is"}
_DOES_IT = {
    "actuator": ("motor", "stepper", "thrust", "flywheel", "canopy"),
    "wheel": ("wheel",),
    "store": ("spring", "tank"),
}
"""Which part of a load names an item, and what that item must have to do it."""


def load_form(theme: Theme, store: Store, load: AnyLoad) -> Form:
    """Every figure of a load, from its own declaration."""
    form = Form(theme)
    parts = {i.id: i.part for i in store.project.concept.items}
    unused = kind_of(load).unused(load, parts.get)
    for name, meaning in meanings(type(load)).items():
        if name == "id" or name in unused:
            continue
        value, words = getattr(load, name), choices(type(load), name)
        text = "called" if name == "name" else units.plain_words(name)
        if name in _DOES_IT:
            form.add({"actuator": "moved by"}.get(name, text), _item_choice(store, load, name), meaning)
        elif name in _ANY_PART:
            form.add(_ANY_PART[name], _item_choice(store, load, name), meaning)
        elif name == "on":
            form.add("sits on", _joint_choice(store, load), meaning)
        elif name == "mode":
            form.add("moves in", _mode_choice(store, load), meaning)
        elif name == "curve":
            form.add("measured curve", _curve_field(store, load), meaning)
        elif isinstance(value, bool):
            choice = Choice([("yes", "yes"), ("", "no")], text)
            choice.show_value("yes" if value else "")
            choice.picked.connect(lambda v, n=name: store.attempt(edits.set_load, load.id, **{n: bool(v)}))
            form.add(text, choice, meaning)
        elif words:
            choice = Choice([(w, w) for w in words], text)
            choice.show_value(str(value))
            choice.picked.connect(lambda v, n=name: store.attempt(edits.set_load, load.id, **{n: v}))
            form.add(text, choice, meaning)
        else:
            form.add(text, _field(store, load, name, text, value), meaning)
    return form


def _field(store: Store, load: AnyLoad, name: str, text: str, value: Any) -> EntryField:
    unit = units.unit_of(name)
    whole = isinstance(value, int)
    reader = str.strip if name == "name" else number_reader(unit, whole=whole, empty=True)
    field = EntryField(reader, f"{load.name}: {text}")
    shown = "" if value is None else value if isinstance(value, str) else show(float(value), unit)
    field.show_text(shown, {"motors": "all of them", "gear_efficiency": "not said"}.get(name, "not asked"))
    field.committed.connect(partial(_set, store, field, load.id, name, whole))
    return field


def _curve_field(store: Store, load: AnyLoad) -> EntryField:
    example = "20 mm: 15 N, 50 mm: 40 N"
    field = EntryField(lambda text: read_points(text, "m", "N", example), f"{load.name}: measured curve")
    points = getattr(load, "curve", ())
    field.show_text(", ".join(f"{show(x, 'm')}: {show(f, 'N')}" for x, f in points), example)
    field.committed.connect(partial(_set, store, field, load.id, "curve", False))
    return field


def _set(store: Store, field: EntryField, load_id: str, name: str, whole: bool, value: Any) -> None:
    given = int(value) if whole and value is not None else value
    store.attempt_or(field.complain, edits.set_load, load_id, **{name: given})


def _item_choice(store: Store, load: AnyLoad, name: str) -> Choice:
    """Parts that could do it: any that moves, the wheels, the springs and tanks."""
    does = _DOES_IT.get(name)
    items = [
        i for i in store.project.concept.items if does is None or any(getattr(i.part, f) is not None for f in does)
    ]
    choice = Choice([("", "nothing yet"), *((i.id, i.name) for i in items)], f"{load.name}: {name}")
    choice.show_value(getattr(load, name))
    choice.picked.connect(lambda v: store.attempt(edits.set_load, load.id, **{name: v}))
    return choice


def _joint_choice(store: Store, load: AnyLoad) -> Choice:
    """The other joints, but for those that sit on this one."""
    others = [x for x in store.project.concept.loads if isinstance(x, JointLoad) and x.id != load.id]
    choice = Choice([("", "the body"), *((x.id, x.name) for x in others)], f"{load.name}: sits on")
    choice.show_value(getattr(load, "on", ""))
    choice.picked.connect(lambda v: store.attempt(edits.set_load, load.id, on=v))
    return choice


def _mode_choice(store: Store, load: AnyLoad) -> Choice:
    modes = [(m.id, m.name) for m in store.project.concept.modes]
    choice = Choice([("", "every mode that its part works in"), *modes], f"{load.name}: moves in")
    choice.show_value(load.mode)
    choice.picked.connect(lambda v: store.attempt(edits.set_load, load.id, mode=v))
    return choice


def room_form(theme: Theme, store: Store) -> Form:
    """The gate to pass, the longest part, the furthest reach."""
    space, form = store.project.brief.space, Form(theme)
    for name in _SIZES:
        value, text = getattr(space, name), _SIZE_WORDS.get(name, units.plain_words(name))
        field = _maybe_field(text, value, "no limit")
        field.committed.connect(lambda v, f=field, n=name: store.attempt_or(f.complain, edits.set_space, n, v))
        form.add(text, field, meanings(type(space))[name])
    return form


def _maybe_field(text: str, value: float | None, none: str, unit: str = "m") -> EntryField:
    field = EntryField(number_reader(unit, empty=True), text)
    field.show_text("" if value is None else show(value, unit), none)
    return field


def mount_form(theme: Theme, store: Store, mount: Mount) -> Form:
    """Its frequency, or the stiffness and mass it follows from."""
    form = Form(theme)
    for name in ("frequency_hz", "stiffness_n_per_m", "mass_kg"):
        words = units.plain_words(name)
        field = _maybe_field(f"{mount.name}: {words}", getattr(mount, name), "not given", units.unit_of(name))
        field.committed.connect(
            lambda v, f=field, n=name: store.attempt_or(f.complain, edits.set_mount, mount.id, **{n: v})
        )
        form.add(words, field, meanings(Mount)[name])
    return form
