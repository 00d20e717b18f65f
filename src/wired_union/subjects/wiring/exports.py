"""What leaves the Wiring screen: tables, lists, and header files with the names of pins."""

import csv
import io
import keyword
import re
from collections.abc import Iterable, Iterator, Sequence

from wired_union.catalogue.sheet import harmless
from wired_union.kernel.subject import Assessment
from wired_union.project.change import plain
from wired_union.project.model import Concept, Item
from wired_union.subjects.wiring.assess import WIRES
from wired_union.subjects.wiring.leads import PLUGS_NONE, CableResult
from wired_union.subjects.wiring.pins import PINS, PinsResult, Wired

C_KEYWORDS = """auto break case char const continue default do double else enum extern float for goto if inline int long
register restrict return short signed sizeof static struct switch typedef union unsigned void volatile while"""
C_WORDS = frozenset(C_KEYWORDS.split())


def _csv(rows: Iterable[Sequence[str]]) -> str:
    out = io.StringIO()
    csv.writer(out, lineterminator="\n").writerows([harmless(cell) for cell in row] for row in rows)
    return out.getvalue()


def pin_rows(assessment: Assessment) -> Iterator[list[str]]:
    """The pin table: every pin of every controller, what is on it and what it is used as."""
    pins = assessment.of(PINS)
    yield ["controller", "pin", "signal", "used as", "way", "kept", "at start"]
    on: dict[int, list[Wired]] = {}
    for wired in pins.wired:
        on.setdefault(wired.tooth.number, []).append(wired)
    for tooth in pins.teeth:
        for wired in on.get(tooth.number, []):
            used = " ".join(filter(None, (*wired.does[:2], wired.wish.line.role)))
            kept = "kept" if wired.kept else "laid" if wired.stored else "found"
            yield [tooth.item.name, tooth.pin.name, wired.wish.name, used, wired.wish.line.flows, kept,
                   tooth.pin.at_start]  # fmt: skip


def pin_table(assessment: Assessment) -> str:
    return _csv(pin_rows(assessment))


def cut_list(assessment: Assessment) -> str:
    """Every wire to cut: cable, from, to, gauge, length, how many."""
    names = {i.id: i.name for i in assessment.project.concept.items}
    rows = [["cable", "from", "to", "gauge AWG", "length m", "wires", "cables", "all m", "who", "from what", "test"]]
    for c in assessment.of(WIRES).cables:
        own, laid = c.laid.cable, c.laid
        if laid.is_plugged:
            continue
        to = ", ".join(names.get(r.item, "") for r in own.reaches)
        wires = laid.wires or 0
        whole = f"{laid.length_m * wires * laid.count:.3f}" if laid.length_m is not None and wires else ""
        rows.append(
            [
                own.name,
                names.get(own.start, ""),
                to,
                str(own.awg if own.awg is not None else ""),
                f"{laid.length_m:.3f}" if laid.length_m is not None else "",
                str(wires or ""),
                str(laid.count),
                whole,
                own.made_by,
                own.made_from,
                own.tested_how,
            ]
        )
    return _csv(rows)


def connector_list(assessment: Assessment) -> str:
    """Plugs by kind and contacts: how many, and which cables want them."""
    found: dict[tuple[str, str, str], list[CableResult]] = {}
    for c in assessment.of(WIRES).cables:
        own = c.laid.cable
        if own.connector.strip().lower() not in PLUGS_NONE and not c.laid.is_plugged:
            bears = f"{own.contact_a:g}" if own.contact_a is not None else ""
            found.setdefault((own.connector, str(own.ways or ""), bears), []).append(c)
    rows = [["connector", "contacts", "a contact bears A", "plugs", "cables"]]
    for (kind, ways, bears), cables in found.items():
        plugs = sum(c.laid.count * (1 + max(len(c.laid.cable.reaches), 1)) for c in cables)
        rows.append([kind, ways, bears, str(plugs), ", ".join(c.laid.cable.name for c in cables)])
    return _csv(rows)


def label_rows(assessment: Assessment) -> Iterator[tuple[str, str, str]]:
    """A label for each end of each cable: name, end, what it goes to."""
    names = {i.id: i.name for i in assessment.project.concept.items}
    for c in assessment.of(WIRES).cables:
        own = c.laid.cable
        if c.laid.is_plugged:
            continue
        for copy in range(1, min(c.laid.count, 50) + 1):
            number = f" {copy}" if c.laid.count > 1 else ""
            far = ", ".join(names.get(r.item, "") for r in own.reaches)
            yield f"{own.name}{number}", f"at {names.get(own.start, '?')}", f"to {far}"
            for r in own.reaches:
                yield f"{own.name}{number}", f"at {names.get(r.item, '?')}", f"to {names.get(own.start, '?')}"


# header files


def identifier(text: str, taken: set[str], *, upper: bool = True) -> str:
    """A name that C and Python take, its own among those taken."""
    ascii_text = text.replace("²", "2").encode("ascii", "ignore").decode()
    base = re.sub(r"[^A-Za-z0-9]+", "_", ascii_text).strip("_") or "PIN"
    base = base.upper() if upper else base.lower()
    base = f"_{base}" if base[0].isdigit() else base
    if keyword.iskeyword(base) or base in C_WORDS:
        base += "_"
    name, n = base, 2
    while name in taken:
        name, n = f"{base}_{n}", n + 1
    taken.add(name)
    return name


def pin_names(pins: PinsResult, board: Item) -> list[tuple[str, str, str]]:
    """Name, pin and signals of each pin of a controller that is taken: a bus has one name for all on it."""
    taken: set[str] = set()
    found: list[tuple[str, str, str]] = []
    on: dict[int, list[Wired]] = {}
    for wired in pins.on(board.id):
        on.setdefault(wired.tooth.number, []).append(wired)
    for wires in on.values():
        first = wires[0]
        text = " ".join(filter(None, (first.does[0], first.does[1], first.wish.line.role))) if first.wish.shares else (
            first.wish.name)  # fmt: skip
        found.append((identifier(text, taken), first.tooth.pin.name, ", ".join(w.wish.name for w in wires)))
    return found


def addresses(pins: PinsResult, board: Item) -> list[tuple[str, int]]:
    """Name and address of every part on a controller's I²C buses."""
    taken: set[str] = set()
    found: dict[tuple[str, str, int], tuple[str, int]] = {}
    for wired in pins.on(board.id):
        if wired.wish.address is not None and wired.wish.line.does == "I2C" and wired.wish.device not in found:
            name = identifier(f"{wired.wish.name.rpartition(':')[0]} address", taken)
            found[wired.wish.device] = (name, wired.wish.address)
    return list(found.values())


def c_header(assessment: Assessment, board: Item) -> str:
    """A header with the number of each pin among the controller's, and its name as text; and I²C addresses."""
    pins = assessment.of(PINS)
    numbers = {t.pin.name: n for n, t in enumerate(t for t in pins.teeth if t.item.id == board.id)}
    guard = identifier(f"{board.name} pins h", set())
    lines = [f"/* Pins of {_comment(board.name)}, written by Wired Union. Numbers count the pin table from 0. */",
             f"#ifndef {guard}", f"#define {guard}", ""]  # fmt: skip
    for name, pin, said in pin_names(pins, board):
        lines.append(f"#define {name} {numbers[pin]} /* {_comment(pin)}: {_comment(said)} */")
        lines.append(f'#define {name}_NAME "{_quoted(pin)}"')
    lines += [f"#define {name} 0x{address:02X}" for name, address in addresses(pins, board)]
    return "\n".join([*lines, "", f"#endif /* {guard} */", ""])


def python_header(assessment: Assessment, board: Item) -> str:
    """A module with the same names."""
    pins = assessment.of(PINS)
    numbers = {t.pin.name: n for n, t in enumerate(t for t in pins.teeth if t.item.id == board.id)}
    lines = [f'"""Pins of {_doc(board.name)}, written by Wired Union. Numbers count the pin table from 0."""', ""]
    for name, pin, said in pin_names(pins, board):
        lines.append(f"{name} = {numbers[pin]}  # {_line(pin)}: {_line(said)}")
        lines.append(f"{name}_NAME = {pin!a}")
    lines += [f"{name} = 0x{address:02X}" for name, address in addresses(pins, board)]
    return "\n".join([*lines, ""])


def _comment(text: str) -> str:
    return _line(text).replace("*/", "* /").replace("/*", "/ *")


def _line(text: str) -> str:
    """On one line, without a backslash at its end that would swallow the next."""
    return " ".join(plain(text).split()).replace("\\", "/").replace("??", "? ?")


def _doc(text: str) -> str:
    return _line(text).replace('"', "'")


def _quoted(text: str) -> str:
    """Inside quotes of C: plain ASCII, the rest as the bytes of UTF-8."""
    return "".join(
        chr(b) if 32 <= b < 127 and chr(b) not in '"\\?' else f"\\{b:03o}" for b in text.encode("utf-8", "replace")
    )


# the operator's card


def controls_card(assessment: Assessment) -> str:
    """A card to print: each way to steer side by side. As HTML of its own."""
    from html import escape

    concept: Concept = assessment.project.concept
    states = {s.id: s.name for s in concept.states}
    schemes = list(dict.fromkeys(c.scheme or "" for c in concept.controls))
    columns = []
    for scheme in schemes:
        rows = "".join(
            f"<tr><td><b>{escape(c.input or c.name)}</b></td><td>{escape(c.does or c.name)}</td>"
            f"<td>{escape(states.get(c.state, 'always'))}</td></tr>"
            for c in concept.controls if (c.scheme or "") == scheme
        )  # fmt: skip
        columns.append(f"<section><h2>{escape(scheme or 'Controls')}</h2><table>{rows}</table></section>")
    style = ("body{font:16px sans-serif;display:flex;flex-wrap:wrap;gap:2em;margin:2em}h1{width:100%;margin:0}"
             "td{padding:.3em .8em .3em 0;border-bottom:1px solid #999;vertical-align:top}")  # fmt: skip
    return (f"<!doctype html><meta charset=utf-8><title>{escape(assessment.project.name)}: controls</title>"
            f"<style>{style}</style><h1>{escape(assessment.project.name)}</h1>{''.join(columns)}")  # fmt: skip
