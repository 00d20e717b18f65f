"""What would still fit on the pins that are left."""

import re
from collections.abc import Iterable, Iterator, Sequence

from wired_union.project.errors import ProjectError
from wired_union.project.model import Concept
from wired_union.project.ports import BUS_LINES
from wired_union.project.wiring_model import SHARED, Ability, Line
from wired_union.subjects.wiring.pins import PinsResult, assess_pins
from wired_union.subjects.wiring.wishes import Key, Wish

MOST = 40
ASKS: dict[str, tuple[tuple[str, Ability, str, float | None], ...]] = {
    "plain pin": (("line", "plain", "", None),),
    "interrupt": (("line", "interrupt", "", None),),
    "analogue input": (("level", "analogue", "", None),),
    "PWM": (("pulse", "PWM", "", None),),
    "servo": (("pulse", "PWM", "", 50.0),),
    "UART": tuple((n, d, r, None) for n, d, r, _ in BUS_LINES["UART"]),
    "SPI part": tuple((n, d, r, None) for n, d, r, _ in BUS_LINES["SPI"]),
    "I²C part": tuple((n, d, r, None) for n, d, r, _ in BUS_LINES["I2C"]),
    "CAN": tuple((n, d, r, None) for n, d, r, _ in BUS_LINES["CAN"]),
    "USB socket": (("socket", "USB", "", None),),
    "camera": (("ribbon", "camera port", "", None),),
}  # fmt: skip
WORDS = {
    "plain": "plain pin", "pin": "plain pin", "pins": "plain pin", "button": "interrupt", "interrupts": "interrupt",
    "analog": "analogue input", "analogue": "analogue input", "adc": "analogue input", "servos": "servo",
    "pwms": "PWM", "pwm": "PWM", "uart": "UART", "uarts": "UART", "serial": "UART", "spi": "SPI part",
    "i2c": "I²C part", "i²c": "I²C part", "can": "CAN", "usb": "USB socket", "camera": "camera", "cameras": "camera",
    "interrupt": "interrupt", "servo": "servo",
}  # fmt: skip
NUMBERS = {"a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "eight": 8, "third": 1,
           "another": 1, "more": 1, "second": 1, "fourth": 1}  # fmt: skip


def more_wishes(asked: Sequence[tuple[str, int]]) -> list[Wish]:
    """Signals of so many more of each."""
    found: list[Wish] = []
    for what, count in asked:
        for copy in range(1, count + 1):
            for name, does, role, hertz in ASKS[what]:
                line = Line(name=name, does=does, role=role, frequency_hz=hertz)
                found.append(Wish(Key(own=f"?{what}", copy=copy, line=name), f"{what} {copy}", line,
                                  ("asked", what, copy)))  # fmt: skip
    return found


def asked_for(text: str) -> list[tuple[str, int]]:
    """What a team types: "two interrupts, one UART, a third servo". Raises ProjectError for a word it does not know."""
    found: list[tuple[str, int]] = []
    for piece in filter(None, (p.strip() for p in re.split(r",|;|\band\b|\+", text.lower()))):
        count, what = 1, ""
        for word in piece.split():
            if word.isdigit():
                count = int(word)
            elif word in NUMBERS:
                count = NUMBERS[word]
            elif word in WORDS and not what:
                what = WORDS[word]
        if not what:
            raise ProjectError(f"“{piece}” is not understood. Ask such as: 2 interrupts, 1 UART, a servo.")
        if not 1 <= count <= MOST:
            raise ProjectError(f"Ask for 1 to {MOST} of each.")
        found.append((what, count))
    if not found:
        raise ProjectError("Ask such as: 2 interrupts, 1 UART, a servo.")
    return found


def would_fit(
    concept: Concept, asked: Sequence[tuple[str, int]], now: PinsResult | None = None, *, explain: bool = True
) -> PinsResult:
    """The pins with so many signals more, begun from where the others are now."""
    begin = now.threads if now is not None else ()
    return assess_pins(concept, more_wishes(asked), begin, explain=explain)


def still_fits(concept: Concept, now: PinsResult) -> Iterator[tuple[tuple[str, int], ...]]:
    """How many more of each kind fit, each asked by itself; told after each kind."""
    found: list[tuple[str, int]] = []
    for what in ASKS:
        found.append((what, how_many(concept, what, now)))
        yield tuple(found)


def how_many(concept: Concept, what: str, now: PinsResult) -> int:
    """How many more of one kind fit, by halving: what fits with more fits with fewer."""
    first = ASKS[what][0][1]
    able = sum(any(d[0] == first for d in t.pin.does) for t in now.teeth)
    low, high = 0, (MOST if first in SHARED else min(able, MOST)) + 1
    while high - low > 1:
        middle = (low + high) // 2
        if would_fit(concept, ((what, middle),), now, explain=False).solved:
            low = middle
        else:
            high = middle
    return low


def fits_words(found: Iterable[tuple[str, int]]) -> str:
    """ "2 interrupts, 1 UART and 4 plain pins" """
    said = [f"{n} {_plural(what, n)}" for what, n in found if n]
    none = [what for what, n in found if not n]
    if not said:
        return "Nothing more fits."
    listed = f"{', '.join(said[:-1])} or {said[-1]}" if len(said) > 1 else said[0]
    able = f"Each by itself, {listed} would still fit."
    return f"{able} No {', '.join(none)}." if none else able


def _plural(what: str, n: int) -> str:
    return what if n == 1 or what.endswith("s") or what in {"CAN", "PWM"} else f"{what}s"
