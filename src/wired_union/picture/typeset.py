"""Pages set by typst, offline and with our own fonts."""

import json
import tempfile
from pathlib import Path
from typing import Any, Literal

from wired_union.shipped import FONTS

PICTURES = frozenset({"svg", "wire"})
"""Keys of the data that hold a picture as SVG text."""


def typeset(
    template: Path, data: dict[str, Any], kind: Literal["pdf", "png"] = "pdf", dots_per_inch: float = 96.0
) -> list[bytes]:
    """The pages of a template, which finds the data in `data.json` and every picture in a file beside it."""
    import typst

    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        (folder / "data.json").write_text(json.dumps(_pictures_to_files(data, folder)), encoding="utf-8")
        (folder / "page.typ").write_text(template.read_text(encoding="utf-8"), encoding="utf-8")
        made = typst.compile(
            str(folder / "page.typ"), format=kind, ppi=dots_per_inch, font_paths=[str(FONTS)],
            ignore_system_fonts=True,
        )  # fmt: skip
    return made if isinstance(made, list) else [made]


def _pictures_to_files(value: Any, folder: Path, key: str = "") -> Any:
    """The data with every picture put into a file of its own, and the file's name in its place."""
    if isinstance(value, dict):
        return {k: _pictures_to_files(v, folder, k) for k, v in value.items()}
    if isinstance(value, list):
        return [_pictures_to_files(v, folder) for v in value]
    if key in PICTURES and value:
        path = folder / f"picture-{len(list(folder.glob('*.svg')))}.svg"
        path.write_text(value, encoding="utf-8")
        return path.name
    return value
