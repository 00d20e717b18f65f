"""A form of every figure of a value, from its own declaration: numbers with units, choices, parts, yes and no."""

from collections.abc import Callable, Container, Mapping
from typing import Any

from wired_union import units
from wired_union.project.meanings import meanings
from wired_union.project.references import in_room
from wired_union.project.value import Value, choices, holds_whole, references
from wired_union.ui.fields import Choice, EntryField, Form, number_reader
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

Commit = Callable[[Callable[[str], None], str, Any], object]
"""Takes where to complain, a field's name and its value."""


class ValueForm(Form):
    """Fields of one value; `commit` sets one of them.

    `words` says what a field is called where its name does not do; `skip` names those that are said elsewhere;
    `empties` what stands in one that is empty; `measured_in` the unit of one whose name does not tell it.
    """

    def __init__(
        self, theme: Theme, store: Store, value: Value, called: str, commit: Commit, *,
        words: Mapping[str, str] | None = None, skip: Container[str] = (), empties: Mapping[str, str] | None = None,
        measured_in: Mapping[str, str] | None = None,
    ) -> None:  # fmt: skip
        super().__init__(theme)
        self._store, self._value, self._called, self._commit = store, value, called, commit
        self._empties, self._units = empties or {}, measured_in or {}
        self.fields: dict[str, EntryField | Choice] = {}
        for name, meaning in meanings(type(value)).items():
            if name == "id" or name in skip:
                continue
            text = (words or {}).get(name, "called" if name == "name" else units.plain_words(name))
            self.fields[name] = self._field(name, text)
            self.add(text, self.fields[name], meaning)

    def _field(self, name: str, text: str) -> EntryField | Choice:
        value, kind = getattr(self._value, name), type(self._value)
        ref = references(kind).get(name)
        if ref is not None:
            named = [(x.id, x.name) for x in in_room(self._store.project, ref.room)]
            return self._choice(name, text, [("", "nothing yet"), *named] if ref.gone == "clear" else named, value)
        if isinstance(value, bool):
            return self._choice(name, text, [("yes", "yes"), ("", "no")], "yes" if value else "", read=bool)
        if words := choices(kind, name):
            return self._choice(name, text, [(w, w) for w in words], value)
        return self._entry(name, text, value)

    def _shown(self, name: str, value: Any, unit: str) -> str:
        """A figure with its unit; money to the penny."""
        if name not in self._units:
            return units.show_named(name, value)
        money = unit in units.CURRENCIES or unit == self._store.project.brief.currency
        return units.show_pence(value, unit) if money else units.show(value, unit)

    def _choice(
        self, name: str, text: str, options: list[tuple[str, str]], now: str, read: Callable[[str], Any] = str
    ) -> Choice:  # fmt: skip
        choice = Choice(options, f"{self._called}: {text}")
        choice.show_value(now)
        choice.picked.connect(lambda v: self._commit(lambda _: None, name, read(v)))
        return choice

    def _entry(self, name: str, text: str, value: Any) -> EntryField:
        whole = holds_whole(type(self._value), name)
        unit = self._units.get(name) or units.unit_of(name)
        reader = str.strip if isinstance(value, str) else number_reader(unit, whole=whole, empty=True)
        field = EntryField(reader, f"{self._called}: {text}")
        if isinstance(value, str):
            shown = value
        elif value is None:
            shown = ""
        else:
            shown = self._shown(name, value, unit)
        field.show_text(shown, self._empties.get(name, "not said"))
        field.committed.connect(lambda v: self._commit(field.complain, name, int(v) if whole and v is not None else v))
        return field
