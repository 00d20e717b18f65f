"""The JSON Schema of the project file, made from the models."""

import json
from typing import Any

import msgspec

from wired_union.project.model import Project
from wired_union.project.value import BEYOND


def _schema() -> dict[str, Any]:
    """The models' schema as files are read: keys that this program does not know are allowed and kept."""
    schema: dict[str, Any] = msgspec.json.schema(Project)
    for kind in schema["$defs"].values():
        if kind.pop("additionalProperties", True) is False:
            kind["properties"].pop(BEYOND, None)
    return schema


def schema_text() -> str:
    """JSON Schema (draft 2020-12) as text, ending in a newline."""
    schema = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **_schema(),
        "title": "Wired Union project, format 1",
    }
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"
