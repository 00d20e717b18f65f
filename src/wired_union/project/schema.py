"""The JSON Schema of the project file, made from the models."""

import json
from typing import Any

import msgspec

from wired_union.project.meanings import meanings
from wired_union.project.model import Project
from wired_union.project.references import every_kind
from wired_union.project.value import BEYOND


def _schema() -> dict[str, Any]:
    """The models' schema as files are read: keys that this program does not know are allowed and kept."""
    schema: dict[str, Any] = msgspec.json.schema(Project)
    kinds = {kind.__name__: kind for kind in every_kind(Project)}
    for name, told in schema["$defs"].items():
        if told.pop("additionalProperties", True) is False:
            told["properties"].pop(BEYOND, None)
        for field, meaning in meanings(kinds[name]).items():
            if meaning:
                told["properties"][field] = {"description": meaning, **told["properties"][field]}
    return schema


def schema_text() -> str:
    """JSON Schema (draft 2020-12) as text, ending in a newline."""
    schema = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **_schema(),
        "title": "Wired Union project, format 1",
    }
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"
