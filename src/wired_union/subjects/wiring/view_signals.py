"""The signals of a part in the panel: what each is, what lies before its pin, and whether copies share it."""

from functools import partial
from typing import Any

from wired_union.errors import PlainError
from wired_union.project.model import Item
from wired_union.project.ports import can_be_common, can_be_divided, own_lines_of
from wired_union.project.wiring_model import ABILITIES, Line
from wired_union.subjects.wiring import edits
from wired_union.ui.fields import Choice, EntryField, Form
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme
from wired_union.units import parse, show


class SignalFields:
    """Makes the fields, and puts them among those of the panel by their names."""

    def __init__(self, store: Store, theme: Theme, fields: dict[str, Any]) -> None:
        self.store, self.theme, self.fields = store, theme, fields

    def address(self, item: Item) -> EntryField:
        field = EntryField(_read_address, f"{item.name}: address")
        known = item.part.port.addresses if item.part.port is not None else ()
        hint = " ".join(hex(a) for a in known[:4]) or "not known"
        field.show_text(hex(item.address) if item.address is not None else "", hint)
        field.committed.connect(lambda v: self.store.attempt_or(field.complain, edits.set_address, item.id, v))
        self.fields["address"] = field
        return field

    def form(self, item: Item) -> Form:
        """The signals it needs, each with what kind it is; one more."""
        store, form = self.store, Form(self.theme)
        for n, line in enumerate(own_lines_of(item)):
            choice = Choice([("", "not wanted"), *((a, a) for a in ABILITIES)], f"{item.name}: {line.name}")
            choice.show_value(line.does)
            choice.picked.connect(partial(self._set_line, item.id, n))
            role = f" ({line.role})" if line.role else ""
            form.add(f"{line.name}{role}", choice, f"It {_flow_words(line.flows)}")
            self.fields[f"line {n}"] = choice
            if can_be_divided(line) or line.upper_ohm is not None or line.lower_ohm is not None:
                tip = "Upper over lower: 8.2k / 10k; empty for none"
                form.add("behind a divider", self._divider(item, n, line), tip)
            if item.count > 1 and can_be_common(line):
                form.add("its copies", self._common(item, n, line), "A select of parts in a chain, a reset")
        field = EntryField(str.strip, f"{item.name}: one signal more")
        field.show_text("", "a name")
        field.committed.connect(lambda v: v and store.attempt_or(field.complain, edits.add_line, item.id, v))
        form.add("one more", field)
        self.fields["new line"] = field
        return form

    def _common(self, item: Item, number: int, line: Line) -> Choice:
        choice = Choice(
            [("", "each on its own pin"), ("common", "may share one pin")], f"{item.name}: {line.name}, copies"
        )
        choice.show_value("common" if line.common else "")
        choice.picked.connect(lambda v: self.store.attempt(edits.set_line, item.id, number, common=bool(v)))
        self.fields[f"common {number}"] = choice
        return choice

    def _divider(self, item: Item, number: int, line: Line) -> EntryField:
        field = EntryField(_read_divider, f"{item.name}: divider of {line.name}")
        both = (line.upper_ohm, line.lower_ohm)
        field.show_text("" if both == (None, None) else " / ".join(show(r, "Ω") if r else "?" for r in both), "none")
        field.committed.connect(lambda r: self.store.attempt_or(
            field.complain, edits.set_line, item.id, number, upper_ohm=r[0], lower_ohm=r[1]))  # fmt: skip
        self.fields[f"divider {number}"] = field
        return field

    def _set_line(self, item_id: str, number: int, does: str) -> None:
        if does:
            self.store.attempt(edits.set_line, item_id, number, does=does)
        else:
            self.store.attempt(edits.remove_line, item_id, number)


def _read_divider(text: str) -> tuple[float | None, float | None]:
    """Upper and lower resistor of "8.2k / 10k"; nothing for none. Raises ValueError for anything else."""
    if not text.strip():
        return None, None
    pieces = text.split("/")
    if len(pieces) != 2:
        raise ValueError(f"“{text.strip()}” is no divider. Two resistors, upper over lower: 8.2k / 10k.")
    upper, lower = (parse(piece, "Ω") for piece in pieces)
    return upper, lower


def _read_address(text: str) -> int | None:
    """An address as people write it: 0x68, 68h, 104. Raises PlainError."""
    text = text.strip().lower()
    if not text:
        return None
    try:
        return int(text[:-1], 16) if text.endswith("h") else int(text, 0)
    except ValueError as error:
        raise PlainError("An address is such as 0x68 or 104.") from error


def _flow_words(flows: str) -> str:
    return "flows both ways" if flows == "both" else f"flows {flows}"
