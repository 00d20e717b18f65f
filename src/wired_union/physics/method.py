"""Declaring a formula once: the decorator, what it keeps, and reading texts into its inputs.

F1, the calculators, the command line and docs/methods.md all come from the declaration. The unit of an input or
output is the ending of its name; its meaning is its line in the docstring's Args or Returns block.
"""

import inspect
import re
from collections.abc import Callable, Mapping
from typing import Any, ParamSpec, TypeVar, get_type_hints

from msgspec import Struct
from msgspec.structs import asdict

from wired_union import units
from wired_union.errors import PlainError

P = ParamSpec("P")
R = TypeVar("R")


class MethodError(PlainError):
    """An input that is missing, unknown or impossible; the message is one line that says what would be right."""


class Input(Struct, frozen=True):
    """One argument of a method: its name, unit, meaning, kind ("number", "list", "flag", "stages") and default."""

    name: str
    unit: str
    meaning: str
    kind: str
    default: Any = inspect.Parameter.empty

    @property
    def required(self) -> bool:
        return self.default is inspect.Parameter.empty


class Method(Struct, frozen=True):
    """A declared formula: name, one-line summary, inputs, outputs, source, limits of use, and the function.

    `source` names the formula and the works it rests on, `checked` what its values were checked against from outside;
    `from_memory` is true where a work is named, since none was at hand.
    """

    name: str
    summary: str
    inputs: tuple[Input, ...]
    outputs: tuple[tuple[str, str], ...]
    source: str
    checked: str
    from_memory: bool
    limits: str
    function: Callable[..., Any]

    @property
    def cited(self) -> str:
        """The source, how well it is known, and what its values were checked against."""
        return f"{self.source}{' (cited from memory)' if self.from_memory else ''}; checked against {self.checked}"

    def work(self, texts: Mapping[str, str]) -> tuple[dict[str, Any], dict[str, Any]]:
        """Inputs as numbers, and outputs by name, from texts such as {"current_a": "650 mA"}.

        Raises MethodError: an input is missing, not one of the method's, unreadable or physically impossible.
        """
        names = [i.name for i in self.inputs]
        for given in texts:
            if given not in names:
                raise MethodError(f"{self.name} has no input “{given}”. Its inputs are {', '.join(names)}.")
        values: dict[str, Any] = {}
        for wanted in self.inputs:
            if wanted.name in texts:
                values[wanted.name] = _read(wanted, texts[wanted.name])
            elif wanted.required:
                raise MethodError(f"{self.name} needs {wanted.name}: {wanted.meaning}. Give it as {_sample(wanted)}.")
        try:
            return values, asdict(self.function(**values))
        except Impossible as error:
            raise MethodError(f"{self.name}: {error}") from error
        except (ValueError, ZeroDivisionError, OverflowError) as error:
            raise MethodError(f"{self.name}: these figures together are beyond what it can work out.") from error


def shown(name: str, value: Any) -> str:
    """An output of a method as text with its unit; "none" where no figure does it."""
    if value is None:
        return "none"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, list | tuple):
        return ", ".join(units.show_named(name, v) for v in value)
    return units.show_named(name, value)


class Impossible(ValueError):
    """Figures that cannot be; the text is a plain sentence."""


def method(
    name: str, source: str = "", works: tuple[str, ...] = (), checked: str = "", limits: str = ""
) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Declare a formula. The function returns a Struct whose field names end in their units.

    Args:
        name: what scripts call it by
        source: the formula or the law it follows from
        works: books, papers and standards it is taken from, of `sources`
        checked: what its values were checked against, outside this program
        limits: where it stops being true
    """

    def declare(function: Callable[P, R]) -> Callable[P, R]:
        function.declared = (name, source, works, checked, limits)  # type: ignore[attr-defined]
        return function

    return declare


def describe(function: Callable[..., Any]) -> Method:
    """The Method that a decorated function declares, read from its signature and docstring."""
    name, source, works, checked, limits = function.declared  # type: ignore[attr-defined]
    sources = "; ".join(filter(None, (source, *works)))
    document = inspect.getdoc(function) or ""
    hints = get_type_hints(function)
    meanings = _meanings(document)
    inputs = tuple(
        Input(n, units.unit_of(n), meanings.get(n, ""), _kind(hints[n]), p.default)
        for n, p in inspect.signature(function).parameters.items()
    )
    outputs = tuple((n, meanings.get(n, "")) for n in hints["return"].__struct_fields__)
    return Method(name, document.split("\n", 1)[0], inputs, outputs, sources, checked, bool(works), limits, function)


def _meanings(document: str) -> dict[str, str]:
    return {m[1]: m[2].strip().rstrip(".") for m in re.finditer(r"^\s{2,}(\w+): (.+)$", document, re.M)}


def _kind(hint: Any) -> str:
    text = str(hint)
    if "tuple[" in text:
        return "stages"
    if hint is str:
        return "word"
    if "Sequence" in text:
        return "list"
    if hint is bool:
        return "flag"
    return "whole" if hint is int else "number"


def _sample(wanted: Input) -> str:
    if wanted.kind == "stages":
        return f'{wanted.name}="4ms:6ms,sampled:20ms:2ms"'
    if wanted.kind in {"flag", "word"}:
        return f"{wanted.name}={'yes' if wanted.kind == 'flag' else 'word'}"
    one = f"1{wanted.unit}"
    return f"{wanted.name}={one},{one}" if wanted.kind == "list" else f"{wanted.name}={one}"


_YES, _NO = {"yes", "true", "1", "on"}, {"no", "false", "0", "off"}


def _read(wanted: Input, text: str) -> Any:
    if wanted.kind == "word":
        return text.strip().lower()
    try:
        if wanted.kind == "stages":
            return _read_stages(text)
        if wanted.kind == "flag":
            if text.lower() not in _YES | _NO:
                raise MethodError(f"{wanted.name} is yes or no, not “{text}”.")
            return text.lower() in _YES
        if wanted.kind == "list":
            return [units.parse(part, wanted.unit) for part in text.split(",")]
        number = units.parse(text, wanted.unit)
    except units.UnitError as error:
        raise MethodError(f"{wanted.name}: {error}") from error
    if wanted.kind == "whole":
        if number != int(number):
            raise MethodError(f"{wanted.name} is a whole number, not “{text}”.")
        return int(number)
    return number


_NUMBER = r"\d+(?:[.,]\d+)?(?:/\d+)?\s*[a-zµ\u03bc]*"
_STAGE = rf"(?P<sampled>sampled[\s:]*)?\(?\s*(?P<first>{_NUMBER})\s*[:,–]\s*(?P<second>{_NUMBER})\s*\)?\s*"
_BETWEEN = r"\s*[,;]\s*"


def _read_stages(text: str) -> list[tuple[bool, float, float]]:
    """Stages written as 4ms:6ms or (4ms, 6ms), sampled ones with the word in front; what is left over is refused."""
    found, rest = [], text.strip()
    while rest:
        part = re.match(_STAGE, rest)
        between = re.match(_BETWEEN, rest[part.end() :]) if part else None
        if part is None or (between is None and part.end() < len(rest)):
            raise MethodError(
                f"stages: “{rest}” is no stage. Write each as least:most, or sampled:period:response,"
                " with commas between."
            )
        found.append((bool(part["sampled"]), units.parse(part["first"], "s"), units.parse(part["second"], "s")))
        rest = rest[part.end() + (between.end() if between else 0) :]
    if not found:
        raise MethodError("stages: write each as least:most, or sampled:period:response, with commas between.")
    return found


def require(holds: bool, text: str) -> None:
    """Refuse an impossible input. Raises Impossible, a ValueError, with `text`."""
    if not holds:
        raise Impossible(text)
