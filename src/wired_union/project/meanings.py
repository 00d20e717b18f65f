"""What each field of a kind of value means: the text under it in its class, which forms, sheets and the schema say.

Read from the source when it is first asked for: as marks on the types these texts would cost every start their time.
"""

import ast
import inspect
import sys
from functools import cache

from wired_union.project.value import Value, field_names


@cache
def meanings(kind: type[Value]) -> dict[str, str]:
    """What each field of a kind of value means, "" where it needs no words."""
    told: dict[str, str] = {}
    for base in reversed(kind.__mro__):
        if issubclass(base, Value) and base is not Value:
            told |= _in_module(base.__module__).get(base.__qualname__, {})
    return {name: told.get(name, "") for name in field_names(kind)}


@cache
def _in_module(module: str) -> dict[str, dict[str, str]]:
    """By the name of each class of a module, the text under each of its fields."""
    tree = ast.parse(inspect.getsource(sys.modules[module]))
    return {c.name: _under_fields(c) for c in tree.body if isinstance(c, ast.ClassDef)}


def _under_fields(made: ast.ClassDef) -> dict[str, str]:
    found: dict[str, str] = {}
    for field, under in zip(made.body, made.body[1:], strict=False):
        match field, under:
            case ast.AnnAssign(target=ast.Name(id=name)), ast.Expr(value=ast.Constant(value=str(text))):
                found[name] = " ".join(text.split())
    return found
