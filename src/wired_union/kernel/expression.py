"""Expressions that a team writes: read, checked for units, worked out; what is not known stays unknown.

Python's own parser reads them, and nothing but numbers, names, + − × ÷ ^ and a few functions is let through: nothing is
run. Units are checked by pint. A number may carry its unit: "350 mm".
"""

import ast
import math
import re
from collections.abc import Callable, Sequence
from functools import cache, lru_cache
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from wired_union import units
from wired_union.errors import PlainError
from wired_union.unit_symbols import CURRENCIES, symbol

LONGEST = 300
MOST_POWER = 8.0
HAIR = 1e-9
"""Of a number: closer than that to a whole one is whole, so that 0.27 m / 0.045 m has six pieces."""

_PINT = {
    "m": "meter", "m²": "meter**2", "m³": "meter**3", "m⁴": "meter**4", "kg": "kilogram", "s": "second", "h": "hour",
    "days": "day", "m/s": "meter/second", "m/s²": "meter/second**2", "N": "newton", "W": "watt", "Wh": "watt_hour",
    "J": "joule", "N·m": "newton*meter", "Pa": "pascal", "V": "volt", "A": "ampere", "Ah": "ampere*hour", "Ω": "ohm",
    "Hz": "hertz", "F": "farad", "K": "kelvin", "K/W": "kelvin/watt", "Ω/m": "ohm/meter", "N/m": "newton/meter",
    "kg/m³": "kilogram/meter**3", "kg/m": "kilogram/meter", "kg·m²": "kilogram*meter**2", "m³/s": "meter**3/second",
    "N·m·s": "newton*meter*second", "°": "degree", "rad/s": "1/second", "rad/s²": "1/second**2", "share": "1", "": "1",
    "£": "money", "B": "data", "Bd": "data/second", "°C": "celsius_here", "dB": "level", "dBm": "level",
}  # fmt: skip
"""Every unit of the program as pint writes it. A temperature in °C and a level stand for themselves."""
_OWN = ("money = [money]", "data = [data]", "celsius_here = [celsius_here]", "level = [level]")
_PREFERRED = (
    "",
    "m",
    "m²",
    "m³",
    "kg",
    "s",
    "m/s",
    "m/s²",
    "N",
    "W",
    "Wh",
    "Pa",
    "V",
    "A",
    "Ah",
    "Ω",
    "F",
    "K",
    "N/m",
    "kg/m³",
    "kg·m²",
    "m³/s",
    "kg/m",
    "K/W",
    "Ω/m",
    "Hz",
    "m⁴",
    "N·m·s",
    "£",
    "B",
    "Bd",
    "°C",
    "dB",
)
"""Units by which a result is named, the first that fits."""


class FormulaError(PlainError):
    """An expression that cannot be read, or whose units do not go together; one line that says what would be right."""


class Symbol(Struct, frozen=True):
    """What a name stands for: its value in its unit, and what is missing where it is not known."""

    value: float | None
    unit: str
    missing: tuple[str, ...] = ()


class Worked(Struct, frozen=True):
    """What an expression gives, in a unit of the program; and the expression with its numbers in place of its names."""

    value: float | None
    unit: str
    missing: tuple[str, ...]
    numbers: str


class _Amount(Struct, frozen=True):
    """A value in base units with its dimensions; None where it is not known, with what is missing."""

    value: float | None
    dims: Any
    missing: tuple[str, ...] = ()


Resolve = Callable[[str], Symbol]
"""Finds what a name such as "arm" or "motor.mass_kg" stands for. Raises FormulaError for one that nothing has."""


@cache
def _registry() -> Any:
    import pint  # slow to load, and most projects have no formula

    registry: Any = pint.UnitRegistry(cache_folder=None)
    for line in _OWN:
        registry.define(line)
    return registry


@lru_cache(maxsize=512)
def _unit(unit: str) -> tuple[float, Any]:
    """Factor to base units, and dimensions; a word that is no unit counts things: a plain number."""
    written = "money" if unit in CURRENCIES else _PINT.get(unit, "1")
    base = _registry().Quantity(1.0, written).to_base_units()
    return float(base.magnitude), base.dimensionality


@cache
def _named() -> dict[Any, str]:
    found: dict[Any, str] = {}
    for unit in _PREFERRED:
        found.setdefault(_unit(unit)[1], unit)
    return found


def unit_of_dims(dims: Any) -> str:
    """The unit by which dimensions are called; pint's words where the program has none."""
    named = _named().get(dims)
    return named if named is not None else "·".join(f"{k.strip('[]')}^{v:g}" for k, v in dims.items())


# reading

_CURRENCY = "|".join(map(re.escape, sorted(CURRENCIES, key=len, reverse=True))) + r"(?=\s*\d)"
_NUMBER = r"(?<![\w.])(\d+(?:\.\d+)?(?:[eE][-+]?\d+)?)\s*([A-Za-zµμΩ°%″′\"'][A-Za-z0-9µμΩ°%·²³⁴/^]*)?"
_NAME = r"[A-Za-z_]\w*(?:\.[A-Za-z_]\w*)*"
_BETWEEN = r"\s*(?<=[\w)\u202f.%°])\s*([-+*/])\s*(?![\d.]*e)"
_SHOWN = {"*": "×", "/": "÷", "-": "−"}
_SIGNS = str.maketrans({"×": "*", "·": "*", "÷": "/", "−": "-", "–": "-", ":": "/"})


class _Read(Struct, frozen=True):
    tree: ast.expr
    literals: dict[str, tuple[float, str]]
    """Numbers with a unit, by the name that stands for them in the tree."""
    plain: str
    """The text as Python reads it, with literals by name."""


def names_in(text: str) -> tuple[str, ...]:
    """Names that an expression rests on, in order, each once. Raises FormulaError where it cannot be read."""
    read = _read(text)
    found: dict[str, None] = {}
    for node in ast.walk(read.tree):
        if isinstance(node, ast.Name | ast.Attribute) and (name := _dotted(node)) is not None:
            found[name] = None
    called = {_dotted(n.func) for n in ast.walk(read.tree) if isinstance(n, ast.Call)}
    heads = {n.rsplit(".", 1)[0] for n in found if "." in n}
    return tuple(n for n in found if n not in called and n not in read.literals and n not in heads and n != "pi")


@lru_cache(maxsize=256)
def _read(text: str) -> _Read:
    if not text.strip():
        raise FormulaError("Write an expression, such as floor((arm - spring) / piece).")
    if len(text) > LONGEST:
        raise FormulaError(f"Keep it under {LONGEST} characters; a part of it can be a formula of its own.")
    literals: dict[str, tuple[float, str]] = {}

    def amount(match: re.Match[str]) -> str:
        number, tail = match.group(1), match.group(2) or ""
        for cut in range(len(tail), 0, -1):
            if (found := symbol(tail[:cut])) is not None and not tail[cut : cut + 1].isalnum():
                name = f"_{len(literals)}_"
                literals[name] = float(number) * found[1], found[0]
                return name + tail[cut:]
        return match.group(0)

    plain = re.sub(_NUMBER, amount, _money(text, literals)).translate(_SIGNS)
    plain = plain.replace("²", "**2").replace("³", "**3").replace("^", "**")
    try:
        return _Read(ast.parse(plain.strip(), mode="eval").body, literals, plain)
    except (SyntaxError, ValueError, RecursionError, MemoryError) as error:
        raise FormulaError(
            f"“{text.strip()}” cannot be read as an expression: check its brackets and signs."
        ) from error


def _money(text: str, literals: dict[str, tuple[float, str]]) -> str:
    """The text with "£12.50" as an amount of money."""

    def amount(match: re.Match[str]) -> str:
        name = f"_{len(literals)}_"
        literals[name] = float(match.group(1)), units.MONEY
        return name

    marked = re.sub(_CURRENCY, "\0", text)
    return re.sub(r"\0\s*(\d+(?:\.\d+)?)", amount, marked)


def _dotted(node: ast.expr) -> str | None:
    if isinstance(node, ast.Name):
        return node.id
    if isinstance(node, ast.Attribute) and (head := _dotted(node.value)) is not None:
        return f"{head}.{node.attr}"
    return None


# working out


def worked(text: str, resolve: Resolve, unit: str = "", money: str = units.MONEY) -> Worked:
    """What an expression gives. Raises FormulaError where it cannot be read or its units do not go together.

    Args:
        text: the expression
        resolve: what its names stand for
        unit: symbol of the unit it is wanted in, or what it counts; "" for the unit that comes out
        money: the currency that amounts are counted in
    """
    read = _read(text)
    try:
        found = _Walk(read, resolve).of(read.tree)
    except RecursionError as error:
        raise FormulaError("It is nested too deeply; a part of it can be a formula of its own.") from error
    shown, factor = _shown_in(found.dims, unit)
    shown = money if shown == units.MONEY else shown
    value = found.value / factor if found.value is not None else None
    if value is not None and value != value:
        value, found = None, replace(found, missing=("what cannot be worked out from these numbers",))
    return Worked(value, shown, tuple(dict.fromkeys(found.missing)), _with_numbers(read, resolve))


def _shown_in(dims: Any, unit: str) -> tuple[str, float]:
    """The unit of the program that a result is shown in, and its factor."""
    wanted = (unit, 1.0) if unit in CURRENCIES else symbol(unit) if unit else None
    if wanted is not None:
        factor, own = _unit(wanted[0])
        if own != dims:
            raise FormulaError(f"It gives {_words(dims)}, not {unit}.")
        return wanted[0], factor
    if unit and _unit("")[1] != dims:
        raise FormulaError(f"It gives {_words(dims)}; “{unit}” counts things and has no unit.")
    named = unit or unit_of_dims(dims)
    return named, _unit(named)[0]


def _words(dims: Any) -> str:
    return unit_of_dims(dims) or "a plain number"


def _with_numbers(read: _Read, resolve: Resolve) -> str:
    """The expression with the number of every name in its place."""

    def number(match: re.Match[str]) -> str:
        name = match.group(0)
        if name in read.literals:
            return units.show(*read.literals[name])
        if name in _FUNCTIONS or name == "pi":
            return name
        found = resolve(name)
        shown = units.show(found.value, found.unit)
        raised = read.plain[match.end() :].lstrip().startswith("**")
        return f"({shown})" if raised and found.unit else shown

    plain = re.sub(_NAME, number, read.plain).replace("**", "^")
    return re.sub(_BETWEEN, lambda m: f" {_SHOWN.get(m.group(1), m.group(1))} ", plain).strip()


class _Walk:
    """Works out a tree; every kind of node that is not named here is refused."""

    def __init__(self, read: _Read, resolve: Resolve) -> None:
        self._literals, self._resolve = read.literals, resolve

    def of(self, node: ast.expr) -> _Amount:
        if isinstance(node, ast.Constant):
            return self._number(node)
        if isinstance(node, ast.Name | ast.Attribute):
            return self._name(node)
        if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub | ast.UAdd):
            inner = self.of(node.operand)
            return inner if isinstance(node.op, ast.UAdd) else _apply(lambda x: -x, inner.dims, inner)
        if isinstance(node, ast.BinOp):
            return self._joined(node)
        if isinstance(node, ast.Call):
            return self._called(node)
        raise FormulaError("Only numbers, names, + − × ÷ ^, brackets and functions can stand in an expression.")

    def _number(self, node: ast.Constant) -> _Amount:
        if isinstance(node.value, bool) or not isinstance(node.value, int | float):
            raise FormulaError("Only numbers can stand in an expression, no texts.")
        if abs(node.value) > 1e30:
            raise FormulaError("A number in it is too large.")
        return _Amount(float(node.value), _unit("")[1])

    def _name(self, node: ast.Name | ast.Attribute) -> _Amount:
        name = _dotted(node)
        if name is None:
            raise FormulaError("A figure of a part is written as motor.mass_kg.")
        if name == "pi":
            return _Amount(math.pi, _unit("")[1])
        found = Symbol(*self._literals[name]) if name in self._literals else self._resolve(name)
        factor, dims = _unit(found.unit)
        return _Amount(None if found.value is None else found.value * factor, dims, found.missing)

    def _joined(self, node: ast.BinOp) -> _Amount:
        left, right = self.of(node.left), self.of(node.right)
        if isinstance(node.op, ast.Pow):
            return _power(left, right)
        if isinstance(node.op, ast.Mult):
            return _apply(lambda a, b: a * b, left.dims * right.dims, left, right)
        if isinstance(node.op, ast.Div):
            return _apply(lambda a, b: a / b, left.dims / right.dims, left, right)
        if isinstance(node.op, ast.Add | ast.Sub):
            _alike((left, right), "added" if isinstance(node.op, ast.Add) else "taken from each other")
            sign = 1.0 if isinstance(node.op, ast.Add) else -1.0
            return _apply(lambda a, b: a + sign * b, left.dims, left, right)
        raise FormulaError("Only + − × ÷ and ^ can stand between two things.")

    def _called(self, node: ast.Call) -> _Amount:
        name = _dotted(node.func)
        if name not in _FUNCTIONS or node.keywords:
            raise FormulaError(f"There is no function “{name}”. There are {', '.join(_FUNCTIONS)}.")
        given = [self.of(a) for a in node.args]
        if not given:
            raise FormulaError(f"{name} needs something in its brackets.")
        return _FUNCTIONS[name](given)


def _apply(work: Callable[..., float], dims: Any, *given: _Amount) -> _Amount:
    """A function of amounts: not known where one of them is not, or where it has no answer."""
    missing = tuple(m for g in given for m in g.missing)
    values = [g.value for g in given if g.value is not None]
    if len(values) < len(given):
        return _Amount(None, dims, missing or ("a number in it",))
    try:
        found = work(*values)
    except ZeroDivisionError:
        return _Amount(None, dims, (*missing, "something to divide by other than zero"))
    except (ValueError, OverflowError):
        return _Amount(None, dims, (*missing, "what cannot be worked out from these numbers"))
    return _Amount(found, dims, missing)


def _alike(given: Sequence[_Amount], what: str) -> None:
    for other in given[1:]:
        if other.dims != given[0].dims:
            raise FormulaError(f"{_words(given[0].dims)} and {_words(other.dims)} cannot be {what}.")


def _power(base: _Amount, exponent: _Amount) -> _Amount:
    if exponent.dims != _unit("")[1]:
        raise FormulaError(f"What stands after ^ is a plain number, not in {_words(exponent.dims)}.")
    plain = base.dims == _unit("")[1]
    if exponent.value is None:
        if not plain:
            raise FormulaError("The power of something with a unit must be known.")
        return _apply(pow, base.dims, base, exponent)
    if abs(exponent.value) > MOST_POWER:
        raise FormulaError(f"Powers go up to {MOST_POWER:g}.")
    return _apply(_real_power, base.dims if plain else base.dims**exponent.value, base, exponent)


def _real_power(base: float, exponent: float) -> float:
    found = base**exponent
    if isinstance(found, complex):
        raise ValueError("no real root")
    return float(found)


def _whole(work: Callable[[float], float], name: str) -> Callable[[Sequence[_Amount]], _Amount]:
    """A function that makes a plain number whole, whatever a float leaves of it."""

    def made(given: Sequence[_Amount]) -> _Amount:
        _one(given, name)
        if given[0].dims != _unit("")[1]:
            unit = _words(given[0].dims)
            raise FormulaError(f"{name} needs a plain number, not {unit}: divide first, as in {name}(x / (1 {unit})).")

        def rounded(value: float) -> float:
            near = round(value) if math.isfinite(value) else value
            return float(near) if abs(near - value) <= HAIR * max(abs(value), 1.0) else float(work(value))

        return _apply(rounded, given[0].dims, given[0])

    return made


def _one(given: Sequence[_Amount], name: str) -> None:
    if len(given) != 1:
        raise FormulaError(f"{name} takes one thing in its brackets.")


def _of_angle(work: Callable[[float], float], name: str) -> Callable[[Sequence[_Amount]], _Amount]:
    def made(given: Sequence[_Amount]) -> _Amount:
        _one(given, name)
        if given[0].dims != _unit("")[1]:
            raise FormulaError(f"{name} needs an angle, such as 30°, not {_words(given[0].dims)}.")
        return _apply(work, given[0].dims, given[0])

    return made


def _of_alike(work: Callable[..., float], name: str) -> Callable[[Sequence[_Amount]], _Amount]:
    def made(given: Sequence[_Amount]) -> _Amount:
        _alike(given, "compared")
        return _apply(lambda *values: work(values), given[0].dims, *given)

    return made


def _root(given: Sequence[_Amount]) -> _Amount:
    _one(given, "sqrt")
    return _apply(math.sqrt, given[0].dims ** 0.5, given[0])


def _size(given: Sequence[_Amount]) -> _Amount:
    _one(given, "abs")
    return _apply(abs, given[0].dims, given[0])


_FUNCTIONS: dict[str, Callable[[Sequence[_Amount]], _Amount]] = {
    "floor": _whole(math.floor, "floor"), "ceil": _whole(math.ceil, "ceil"), "round": _whole(round, "round"),
    "min": _of_alike(min, "min"), "max": _of_alike(max, "max"), "abs": _size, "sqrt": _root,
    "sin": _of_angle(math.sin, "sin"), "cos": _of_angle(math.cos, "cos"), "tan": _of_angle(math.tan, "tan"),
}  # fmt: skip
FUNCTIONS = tuple(_FUNCTIONS)
