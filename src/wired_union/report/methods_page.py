"""docs/methods.md, made from the methods' declarations."""

from wired_union import units
from wired_union.physics.method import Method
from wired_union.physics.methods import all_methods

_HEAD = """# Methods

Made from the declarations in `src/wired_union/physics` by `script/docs`; do not edit. `wired-union work NAME` shows the
same, `wired-union work NAME key=value …` works one. The unit of a value is the ending of its name.

No book, paper or standard was at hand: where one is named, edition and section are from memory and it says so. What was
checked are values, against what is named beside each; `tests/reference` and `tests/physics` hold the checks.
"""


def methods_page() -> str:
    """The page as Markdown, ending in a newline."""
    return _HEAD + "".join(_section(m) for m in all_methods())


def _section(method: Method) -> str:
    rows = [f"| `{i.name}` | {i.unit} | {i.meaning}{_usual(i.required, i.default)} |" for i in method.inputs]
    out = [f"| → `{n}` | {units.unit_of(n)} | {meaning} |" for n, meaning in method.outputs]
    limits = f"\nLimits: {method.limits}.\n" if method.limits else ""
    table = "\n".join(["| name | unit | meaning |", "|---|---|---|", *rows, *out])
    return f"\n## {method.name}\n\n{method.summary}\n\n{table}\n\nSource: {method.cited}.\n{limits}"


def _usual(required: bool, default: object) -> str:
    if required:
        return ""
    return f" (usually {default})" if default is not None else " (may be left out)"
