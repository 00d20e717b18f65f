"""A project as text: JSON, indented, one value a line, unknown figures left out, foreign keys written back."""

import re
from typing import Any

import msgspec

from wired_union.project.value import BEYOND, Value

_EMPTY = f'"{BEYOND}": []'.encode()


def text_of(value: Value) -> str:
    """The value as JSON text, ending in a newline; the same value always gives the same text."""
    data = msgspec.json.encode(value)
    if f'"{BEYOND}":[['.encode() in data:
        whole = msgspec.json.encode(_spread(msgspec.json.decode(data)))
        return msgspec.json.format(whole, indent=2).decode("utf-8") + "\n"
    return _without_nothing(msgspec.json.format(data, indent=2)).decode("utf-8") + "\n"


def _without_nothing(text: bytes) -> bytes:
    """Lines of figures that are not known, and of no foreign keys, taken out. Real line ends are never in a text."""
    out: list[bytes] = []
    for line in text.split(b"\n"):
        bare = line.strip()
        nothing = bare.endswith((b": null", b": null,")) or bare in _EMPTIES
        if nothing:
            if not bare.endswith(b",") and out and out[-1].endswith(b","):
                out[-1] = out[-1][:-1]  # it was the last of its group
            continue
        if bare[:1] in (b"}",) and out and out[-1].endswith(b"{"):
            out[-1] += line.lstrip()  # a group with nothing in it
            continue
        out.append(line)
    return b"\n".join(out)


_EMPTIES = {_EMPTY, _EMPTY + b","}


def _spread(data: Any) -> Any:
    """Foreign keys back where they were read, behind the known ones."""
    if isinstance(data, list):
        return [_spread(x) for x in data]
    if not isinstance(data, dict):
        return data
    beyond = data.pop(BEYOND, [])
    known = {k: _spread(v) for k, v in data.items() if v is not None}
    return known | {key: msgspec.json.decode(text) for key, text in beyond if key not in known}


def compact(value: Value) -> str:
    """The value in one line, for a table's cell."""
    return re.sub(r'"\?":\[\],?', "", msgspec.json.encode(value).decode("utf-8"))
