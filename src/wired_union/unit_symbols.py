"""What people write behind a number: symbols and words of units, each with the SI unit it stands for and its factor.

Sources: NIST SP 811 (2008), appendix B, for inch, pound, ounce, psi, mile, yard and knot, exact where that is exact.
"""

import math
from collections.abc import Callable
from functools import lru_cache

INCH_M, POUND_KG, GRAVITY_M_S2 = 0.0254, 0.45359237, 9.80665
FOOT_M, OUNCE_KG = 0.3048, POUND_KG / 16
POUND_N, OUNCE_N = POUND_KG * GRAVITY_M_S2, OUNCE_KG * GRAVITY_M_S2

_PREFIX = {"p": 1e-12, "n": 1e-9, "u": 1e-6, "µ": 1e-6, "m": 1e-3, "": 1.0, "k": 1e3, "M": 1e6, "G": 1e9}
_PREFIXED = {
    **{u: u for u in ("V", "A", "W", "Wh", "Ah", "Ω", "Hz", "N", "J", "F", "Pa", "s", "m", "N·m", "B", "Bd", "K")},
    "ohm": "Ω", "Ohm": "Ω", "ohms": "Ω", "Ohms": "Ω", "Nm": "N·m", "g": "g",
}  # fmt: skip

_BARE = {"N", "mN", "g", "gf"}
"""Forces that are not read with a length right behind them: "gm" is said for grams."""
_TORQUES = {
    force + dot + length: ("N·m", newton * metre)
    for force, newton in (
        ("kgf", GRAVITY_M_S2), ("kg", GRAVITY_M_S2), ("gf", GRAVITY_M_S2 / 1000), ("g", GRAVITY_M_S2 / 1000),
        ("ozf", OUNCE_N), ("oz", OUNCE_N), ("lbf", POUND_N), ("lb", POUND_N), ("N", 1.0), ("mN", 1e-3),
    )
    for length, metre in (("cm", 0.01), ("mm", 1e-3), ("m", 1.0), ("in", INCH_M), ("ft", FOOT_M))
    for dot in (("·", "-", " ", ".") if force in _BARE else ("·", "-", " ", ".", ""))
}  # fmt: skip
"""A mass times a length is read as the torque of its weight: "12 kg·cm" of a servo."""
_IMPERIAL_TORQUES = {
    length + dot + force: ("N·m", newton * metre)
    for force, newton in (("oz", OUNCE_N), ("ozf", OUNCE_N), ("lb", POUND_N), ("lbs", POUND_N), ("lbf", POUND_N))
    for length, metre in (("in", INCH_M), ("ft", FOOT_M))
    for dot in ("·", "-", " ", ".")
}
_RATES = {
    f"{force}/{length}": ("N/m", newton / metre)
    for force, newton in (
        ("N", 1.0),
        ("kN", 1e3),
        ("mN", 1e-3),
        ("kgf", GRAVITY_M_S2),
        ("lbf", POUND_N),
        ("lb", POUND_N),
    )
    for length, metre in (("m", 1.0), ("cm", 0.01), ("mm", 1e-3), ("in", INCH_M))
}
_SQUARES = {
    f"{length}{power}": (f"m{sign}", metre**exponent)
    for exponent, sign in ((2, "²"), (3, "³"), (4, "⁴"))
    for power in (sign, f"^{exponent}", str(exponent))
    for length, metre in (("m", 1.0), ("cm", 0.01), ("mm", 1e-3), ("in", INCH_M), ("ft", FOOT_M))
}
_SPEEDS = {
    f"{length}/{per}": ("m/s", metre / second)
    for length, metre in (("m", 1.0), ("cm", 0.01), ("mm", 1e-3), ("km", 1e3), ("in", INCH_M), ("ft", FOOT_M))
    for per, second in (("s", 1.0), ("sec", 1.0), ("min", 60.0), ("h", 3600.0))
}
_DENSITIES = {
    "kg/m³": 1.0, "kg/m3": 1.0, "g/cm³": 1e3, "g/cm3": 1e3, "g/ml": 1e3, "g/cc": 1e3, "kg/l": 1e3, "kg/L": 1e3,
    "g/l": 1.0, "kg/dm³": 1e3,
}  # fmt: skip

SYMBOLS: dict[str, tuple[str, float]] = {
    **_TORQUES, **_IMPERIAL_TORQUES, **_RATES, **_SQUARES, **_SPEEDS,
    **{symbol: ("kg/m³", factor) for symbol, factor in _DENSITIES.items()},
    "in": ("m", INCH_M), "inch": ("m", INCH_M), "inches": ("m", INCH_M), '"': ("m", INCH_M), "″": ("m", INCH_M),
    "ft": ("m", FOOT_M), "foot": ("m", FOOT_M), "feet": ("m", FOOT_M), "'": ("m", FOOT_M), "′": ("m", FOOT_M),
    "yd": ("m", 36 * INCH_M), "yard": ("m", 36 * INCH_M), "yards": ("m", 36 * INCH_M), "mi": ("m", 1609.344),
    "mile": ("m", 1609.344), "miles": ("m", 1609.344), "cm": ("m", 0.01), "thou": ("m", INCH_M / 1000),
    "metre": ("m", 1.0), "metres": ("m", 1.0), "meter": ("m", 1.0), "meters": ("m", 1.0),
    "sec": ("s", 1.0), "secs": ("s", 1.0), "second": ("s", 1.0), "seconds": ("s", 1.0), "msec": ("s", 1e-3),
    "min": ("s", 60.0), "mins": ("s", 60.0), "minute": ("s", 60.0), "minutes": ("s", 60.0), "h": ("s", 3600.0),
    "hr": ("s", 3600.0), "hrs": ("s", 3600.0), "hour": ("s", 3600.0), "hours": ("s", 3600.0), "d": ("s", 86400.0),
    "day": ("s", 86400.0), "days": ("s", 86400.0), "week": ("s", 604800.0), "weeks": ("s", 604800.0),
    "kg": ("kg", 1.0), "kgs": ("kg", 1.0), "kilo": ("kg", 1.0), "kilos": ("kg", 1.0), "t": ("kg", 1000.0),
    "gm": ("kg", 1e-3), "gms": ("kg", 1e-3), "gram": ("kg", 1e-3), "grams": ("kg", 1e-3),
    "oz": ("kg", OUNCE_KG), "lb": ("kg", POUND_KG),
    "lbs": ("kg", POUND_KG), "pound": ("kg", POUND_KG), "pounds": ("kg", POUND_KG),
    "lbf": ("N", POUND_N), "ozf": ("N", OUNCE_N), "kgf": ("N", GRAVITY_M_S2), "kp": ("N", GRAVITY_M_S2),
    "gf": ("N", GRAVITY_M_S2 / 1000), "newton": ("N", 1.0), "newtons": ("N", 1.0),
    "psi": ("Pa", POUND_N / INCH_M**2), "bar": ("Pa", 1e5), "mbar": ("Pa", 100.0), "hPa": ("Pa", 100.0),
    "atm": ("Pa", 101_325.0), "°": ("°", 1.0), "deg": ("°", 1.0), "degree": ("°", 1.0), "degrees": ("°", 1.0),
    "rad": ("°", 180.0 / math.pi), "radian": ("°", 180.0 / math.pi), "radians": ("°", 180.0 / math.pi),
    "turn": ("°", 360.0), "turns": ("°", 360.0), "rev": ("°", 360.0), "revs": ("°", 360.0),
    "rad/s": ("rad/s", 1.0), "rpm": ("rad/s", math.pi / 30.0), "rev/min": ("rad/s", math.pi / 30.0),
    "1/min": ("rad/s", math.pi / 30.0), "rps": ("rad/s", 2 * math.pi), "rev/s": ("rad/s", 2 * math.pi),
    "deg/s": ("rad/s", math.pi / 180.0), "°/s": ("rad/s", math.pi / 180.0), "rad/s²": ("rad/s²", 1.0),
    "rad/s2": ("rad/s²", 1.0), "mph": ("m/s", 0.44704), "kph": ("m/s", 1 / 3.6), "kn": ("m/s", 1852 / 3600),
    "kt": ("m/s", 1852 / 3600), "knot": ("m/s", 1852 / 3600), "knots": ("m/s", 1852 / 3600),
    "m/s²": ("m/s²", 1.0), "m/s2": ("m/s²", 1.0), "m/s^2": ("m/s²", 1.0), "gee": ("m/s²", GRAVITY_M_S2),
    "%": ("", 0.01), "percent": ("", 0.01), "°C": ("°C", 1.0), "C": ("°C", 1.0), "degC": ("°C", 1.0),
    "volt": ("V", 1.0), "volts": ("V", 1.0), "amp": ("A", 1.0), "amps": ("A", 1.0), "watt": ("W", 1.0),
    "watts": ("W", 1.0), "K/W": ("K/W", 1.0), "°C/W": ("K/W", 1.0), "C/W": ("K/W", 1.0), "Ω/m": ("Ω/m", 1.0),
    "ohm/m": ("Ω/m", 1.0), "mΩ/m": ("Ω/m", 1e-3), "mohm/m": ("Ω/m", 1e-3), "Ω/km": ("Ω/m", 1e-3),
    "mH": ("H", 1e-3), "µH": ("H", 1e-6), "uH": ("H", 1e-6), "nH": ("H", 1e-9),
    "W/m·K": ("W/m·K", 1.0), "W/mK": ("W/m·K", 1.0), "W/(m·K)": ("W/m·K", 1.0), "W/(mK)": ("W/m·K", 1.0),
    "W/m²": ("W/m²", 1.0), "W/m2": ("W/m²", 1.0), "W/m²K": ("W/m²K", 1.0), "W/K": ("W/K", 1.0), "J/K": ("J/K", 1.0),
    "K/min": ("K/min", 1.0), "°C/min": ("K/min", 1.0), "C/min": ("K/min", 1.0),
    "kg·m²": ("kg·m²", 1.0), "kg·m2": ("kg·m²", 1.0), "g·cm²": ("kg·m²", 1e-7), "g·cm2": ("kg·m²", 1e-7),
    "kg·cm²": ("kg·m²", 1e-4), "kg·mm²": ("kg·m²", 1e-6), "kg·m^2": ("kg·m²", 1.0), "g·cm^2": ("kg·m²", 1e-7),
    "dB": ("dB", 1.0), "dBm": ("dBm", 1.0), "bytes": ("B", 1.0), "byte": ("B", 1.0), "baud": ("Bd", 1.0),
    "Nmm": ("N·m", 1e-3), "Ncm": ("N·m", 0.01), "mNm": ("N·m", 1e-3), "cc": ("m³", 1e-6), "dm³": ("m³", 1e-3),
    "l": ("m³", 1e-3), "L": ("m³", 1e-3), "litre": ("m³", 1e-3), "litres": ("m³", 1e-3), "ml": ("m³", 1e-6),
    "mL": ("m³", 1e-6), "l/min": ("m³/s", 1 / 60_000), "L/min": ("m³/s", 1 / 60_000), "lpm": ("m³/s", 1 / 60_000),
    "ml/min": ("m³/s", 1 / 60e6),
    "l/s": ("m³/s", 1e-3), "m³/s": ("m³/s", 1.0), "m3/s": ("m³/s", 1.0), "r/min": ("rad/s", math.pi / 30.0),
    "ma": ("A", 1e-3), "mv": ("V", 1e-3), "mah": ("Ah", 1e-3), "ah": ("Ah", 1.0), "wh": ("Wh", 1.0),
    "khz": ("Hz", 1e3), "usec": ("s", 1e-6), "µsec": ("s", 1e-6), "R": ("Ω", 1.0), "mR": ("Ω", 1e-3),
}  # fmt: skip
"""Symbol to unit and factor; these win over a prefix reading, so that "min" is never milli-inches."""

BENT: dict[str, tuple[str, Callable[[float], float]]] = {
    **dict.fromkeys(("°F", "degF", "F"), ("°C", lambda shown: (shown - 32) / 1.8)),
    **{
        f"{second}/60{dot}{degree}": ("rad/s", lambda seconds: math.pi / 3 / seconds)
        for second in ("s", "sec") for dot in ("", " ") for degree in ("°", "deg", "degrees")
    },
}  # fmt: skip
"""What no factor turns into a unit: degrees Fahrenheit (NIST SP 811), and the time that a servo takes for 60°."""

_ANY_CASE = {symbol.casefold(): found for symbol, found in SYMBOLS.items()}
_SAME = str.maketrans(
    {"*": "·", "×": "·", "⋅": "·", "•": "·", "μ": "µ", "Ω": "Ω", "º": "°", "˚": "°", "’": "'", "”": '"'}
)
CURRENCIES = ("£", "€", "$", "¥", "₹", "₩", "₺", "zł", "kr", "CHF", "GBP", "EUR", "USD", "SEK", "NOK", "DKK", "PLN",
              "CZK", "INR", "CAD", "AUD", "NZD", "JPY", "Kč", "Ft", "lei")  # fmt: skip
"""What an amount of money may carry before or behind it; which one the project counts in is the project's choice."""


def tidy(text: str) -> str:
    """A symbol with one sign for each meaning."""
    return " ".join(text.translate(_SAME).replace(" ·", "·").replace("· ", "·").split())


@lru_cache(maxsize=512)
def symbol(text: str) -> tuple[str, float] | None:
    """The unit and factor that a symbol or word stands for; None for one that is not known.

    As it is written where that is known, else in any case: "MW" is not "mW", but "RPM" is "rpm".
    """
    tail = tidy(text)
    if tail in SYMBOLS:
        return SYMBOLS[tail]
    for base in sorted(_PREFIXED, key=len, reverse=True):
        if tail.endswith(base) and tail[: -len(base)] in _PREFIX:
            factor = _PREFIX[tail[: -len(base)]]
            return ("kg", factor / 1000) if base == "g" else (_PREFIXED[base], factor)
    return _ANY_CASE.get(tail.casefold())
