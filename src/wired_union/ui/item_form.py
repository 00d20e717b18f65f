"""Every value of one item, edited in place."""

from collections.abc import Callable
from typing import Any

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wired_union import units
from wired_union.catalogue.parts import CURVES, FACETS
from wired_union.physics.battery import CHEMISTRIES
from wired_union.project import edits
from wired_union.project.cables import laid_feed
from wired_union.project.meanings import meanings
from wired_union.project.model import KNOWLEDGE, ORIGINS, STATES, Item, Part
from wired_union.ui.fields import Choice, EntryField, Form, empty, number_reader
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

_PLAIN = (
    "mass_kg",
    "price",
    "length_m",
    "width_m",
    "height_m",
    "temperature_min_c",
    "temperature_max_c",
    "delivery_days",
    "note",
)
_TITLES = {
    "load": "What it draws", "motor": "Motor", "stepper": "Stepper", "pack": "Cells", "supply": "Supply",
    "regulator": "Regulator", "driver": "Driver", "rail": "Rail", "link": "Signals", "shifter": "Level shifter",
    "sense": "What it tells", "thrust": "Push and pull", "wheel": "Wheel", "spring": "Spring", "tank": "Tank",
    "flywheel": "Reaction wheel", "canopy": "Canopy", "panel": "Solar panel",
}  # fmt: skip
_TEXTS = {"note", "bus", "quantity", "unit"}
_CHOICES: dict[str, list[tuple[str, str]]] = {
    "draw": [("current", "its current"), ("power", "its power"), ("resistance", "its resistance")],
    "topology": [
        ("linear", "linear"),
        ("switching", "switching, down"),
        ("boost", "boost, up"),
        ("buck-boost", "buck-boost"),
    ],
    "limiting": [("hiccup", "switches off"), ("constant", "holds its current"), ("foldback", "folds back")],
    "law": [("straight", "straight"), ("gas", "gas"), ("rubber", "rubber")],
    "fused": [("no", "no"), ("whole", "as a whole"), ("each way", "each way")],
    "made_for": [(w, w) for w in ("any load", "brushed motors", "steppers")],
    "plug": [("unsaid", "not said"), ("keyed", "one way only"), ("either way", "either way")],
    "passes": [(w, w) for w in ("either way", "to the low side", "to the high side")],
    "chemistry": [(key, cell.name) for key, cell in CHEMISTRIES.items()],
}
_LABELS = {"draw": "keeps, as volts move", "topology": "kind", "law": "force rises", "limiting": "above its most",
           "plug": "goes in", "cell_slow_ohm": "cell, more in seconds", "cell_minutes_ohm": "cell, more in minutes",
           "clamp_v": "coil clamped at", "warms_s": "warms within", "peak_s": "a peak lasts",
           "worn": "worn, share lost", "empty_times": "resistance when empty, times", "pulse_s": "a pulse lasts",
           "folds_to_a": "folds back to", "start_v": "starts from",
           "curve_input_v": "curve measured at", "second_curve_input_v": "second measured at"}  # fmt: skip
_WHOLE = {"series", "parallel", "channels", "pins"}


class ItemForm(QWidget):
    """Fields for an item: count, knowledge, origin, feed and wire, its use in each mode, and its part's values."""

    def __init__(self, store: Store, theme: Theme) -> None:
        super().__init__()
        self._store, self._theme = store, theme
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(0, 0, 0, 0)
        self.fields: dict[str, EntryField] = {}
        self.choices: dict[str, Choice] = {}
        self._shape: tuple[Any, ...] = ()
        self._item_id = ""

    def show_item(self, item: Item) -> None:
        """Show an item; fields are kept, with their focus, while the same ones serve."""
        modes = self._store.project.concept.modes
        sources = self._sources(item)
        shifters = tuple(self._shifters())
        shape = (item.id, tuple(_paths(item.part)), tuple((m.id, m.name) for m in modes), tuple(sources), shifters)
        if shape != self._shape:
            self._shape, self._item_id = shape, item.id
            self._build(item, sources)
        self._fill(item)

    def _sources(self, item: Item) -> list[tuple[str, str]]:
        concept = self._store.project.concept
        return [("", "nothing"), *((i.id, i.name) for i in concept.items
                                   if i.id != item.id and edits.feeds_others(i.part))]  # fmt: skip

    def _shifters(self) -> list[tuple[str, str]]:
        return [(i.id, i.name) for i in self._store.project.concept.items if i.part.shifter is not None]

    def _build(self, item: Item, sources: list[tuple[str, str]]) -> None:
        empty(self._box)
        self.fields, self.choices = {}, {}
        form = Form(self._theme)
        self._entry(form, "name", "Called", str.strip, edits.rename_item)
        self._entry(form, "count", "How many", number_reader("", whole=True), edits.set_count)
        self._choice(form, "knowledge", "Known by", [(k, k) for k in KNOWLEDGE], edits.set_knowledge)
        self._choice(form, "origin", "From", [(o, o) for o in ORIGINS], edits.set_origin)
        self._choice(form, "feed", "Fed from", sources, lambda p, i, s: edits.feed_from(p, i, s or None))
        if any(f.load == item.id for f in self._store.project.concept.feeds):
            self._wire_fields(form)
        if item.part.link is not None and (shifters := self._shifters()):
            straight = ("", "straight to the controller")
            self._choice(form, "shifted_by", "Signals through", [straight, *shifters], edits.shift_levels)
        if item.part.load is not None:
            self._mode_fields(form)
        for path, meaning, heading in _paths(item.part):
            if heading:
                form.add_heading(heading)
            self._part_field(form, path, meaning)
        self._box.addWidget(form)

    def _entry(self, form: Form, name: str, text: str, read: Callable[[str], Any], edit: Callable[..., Any]) -> None:
        field = EntryField(read, text)
        field.committed.connect(lambda value: self._attempt(field, edit, self._item_id, value))
        self.fields[name] = field
        form.add(text, field)

    def _choice(
        self, form: Form, name: str, text: str, options: list[tuple[str, str]], edit: Callable[..., Any]
    ) -> None:
        choice = Choice(options, text)
        choice.picked.connect(lambda value: self._store.attempt(edit, self._item_id, value))
        self.choices[name] = choice
        form.add(text, choice)

    def _wire_fields(self, form: Form) -> None:
        def set_length(value: float | None) -> None:
            self._attempt(self.fields["wire_length_m"], edits.set_wire, self._item_id, value, self._feed("wire_awg"))

        def set_gauge(value: float | None) -> None:
            gauge = None if value is None else int(value)
            self._attempt(self.fields["wire_awg"], edits.set_wire, self._item_id, self._feed("wire_length_m"), gauge)

        for name, text, unit, done in (
            ("wire_length_m", "Wire, one way", "m", set_length),
            ("wire_awg", "Wire gauge (AWG)", "", set_gauge),
        ):
            field = EntryField(number_reader(unit, empty=True, whole=name == "wire_awg"), text)
            field.committed.connect(done)
            self.fields[name] = field
            form.add(text, field)

    def _mode_fields(self, form: Form) -> None:
        form.add_heading("In each mode")
        for mode in self._store.project.concept.modes:
            choice = Choice([(s, s) for s in STATES], f"State in {mode.name}")
            choice.picked.connect(lambda state, m=mode.id: self._set_use(m, state=state))
            self.choices[f"state:{mode.id}"] = choice
            form.add(mode.name, choice)
            field = EntryField(number_reader(""), f"Share of the time in {mode.name}")
            field.committed.connect(lambda duty, m=mode.id: self._set_use(m, duty=duty))
            self.fields[f"duty:{mode.id}"] = field
            form.add("… share of the time", field)

    def _set_use(self, mode_id: str, state: str | None = None, duty: float | None = None) -> None:
        now_state, now_duty = self._use(mode_id)
        field = self.fields[f"duty:{mode_id}"]
        self._attempt(
            field, edits.set_use, mode_id, self._item_id, state or now_state, now_duty if duty is None else duty
        )

    def _use(self, mode_id: str) -> tuple[str, float]:
        mode = next(m for m in self._store.project.concept.modes if m.id == mode_id)
        use = next((u for u in mode.uses if u.item == self._item_id), None)
        return (use.state, use.duty) if use else (mode.otherwise, 1.0)

    def _part_field(self, form: Form, path: str, meaning: str) -> None:
        name = path.rsplit(".", 1)[-1]
        text = _LABELS.get(name, units.plain_words(path))
        if name in _CHOICES:
            self._choice(form, path, text, _CHOICES[name], lambda p, i, v: edits.set_part_value(p, i, path, v))
            return
        read: Callable[[str], Any] = (
            read_curve
            if name in CURVES
            else _text_reader
            if name in _TEXTS
            else number_reader(
                units.unit_of(path, self._store.project.brief.currency), whole=name in _WHOLE, empty=True
            )
        )
        field = EntryField(read, text)
        field.committed.connect(lambda value: self._attempt(field, edits.set_part_value, self._item_id, path, value))
        self.fields[path] = field
        form.add(text, field, meaning)

    def _attempt(self, field: EntryField, edit: Callable[..., Any], *arguments: Any) -> None:
        """Try an edit; a refusal is said under the field and nothing changes."""
        self._store.attempt_or(field.complain, edit, *arguments)

    def _feed(self, name: str) -> Any:
        feed = next((f for f in self._store.project.concept.feeds if f.load == self._item_id), None)
        return getattr(laid_feed(self._store.project.concept, feed), name) if feed else None

    def _fill(self, item: Item) -> None:
        texts = {"name": item.name, "count": str(item.count)}
        money = self._store.project.brief.currency
        texts["wire_length_m"] = _shown("wire_length_m", self._feed("wire_length_m"), money)
        texts["wire_awg"] = _shown("wire_awg", self._feed("wire_awg"), money)
        for mode in self._store.project.concept.modes:
            state, duty = self._use(mode.id)
            texts[f"duty:{mode.id}"] = units.show(duty, fraction=True)
            if f"state:{mode.id}" in self.choices:
                self.choices[f"state:{mode.id}"].show_value(state)
        for path, _, _ in _paths(item.part):
            if path in self.choices:
                self.choices[path].show_value(str(_value(item.part, path)))
            texts[path] = _shown(path, _value(item.part, path), money)
        for name, field in self.fields.items():
            field.show_text(texts[name], "not known" if "." in name or name in _PLAIN else "")
        feed = next((f.source for f in self._store.project.concept.feeds if f.load == item.id), "")
        for name, value in (("knowledge", item.knowledge), ("origin", item.origin), ("feed", feed)):
            self.choices[name].show_value(value)
        if "shifted_by" in self.choices:
            self.choices["shifted_by"].show_value(item.shifted_by)


def _text_reader(text: str) -> str | None:
    return text.strip() or None


def read_points(text: str, along: str, up: str, example: str) -> tuple[tuple[float, float], ...]:
    """Points such as "10 mm: 5 N, 50 mm: 20 N", rising. Raises ValueError that shows how to write them."""
    points = []
    for point in filter(str.strip, text.split(",")):
        first, colon, second = point.partition(":")
        if not colon:
            raise ValueError(f"“{point.strip()}” is no point. Write them like {example}.")
        points.append((units.parse(first, along), units.parse(second, up)))
    if [x for x, _ in points] != sorted({x for x, _ in points}):
        raise ValueError("Give the points in rising order, each once.")
    return tuple(points)


def read_curve(text: str) -> tuple[tuple[float, float], ...]:
    """Points of current and efficiency, such as "10 mA: 70 %, 1 A: 92 %"."""
    return read_points(text, "A", "", "10 mA: 70 %, 1 A: 92 %")


def _paths(part: Part) -> list[tuple[str, str, str]]:
    """Editable values of a part: (path, meaning, heading before it or "")."""
    found = [(n, meanings(Part)[n], "The part" if n == "mass_kg" else "") for n in _PLAIN]
    for facet, model in FACETS.items():
        if getattr(part, facet) is None:
            continue
        for i, (name, meaning) in enumerate(meanings(model).items()):
            found.append((f"{facet}.{name}", meaning, "" if i else _TITLES[facet]))
    return found


def _value(part: Part, path: str) -> Any:
    facet, _, name = path.rpartition(".")
    return getattr(getattr(part, facet) if facet else part, name)


def _shown(path: str, value: Any, money: str) -> str:
    if value is None:
        return ""
    if isinstance(value, tuple):
        return ", ".join(f"{units.show(i, 'A')}: {units.show(e, fraction=True)}" for i, e in value)
    return value if isinstance(value, str) else units.show_named(path, value, money)
