"""The JSON Schema of the project file, made from the models."""

import json

from wired_union.project.model import Project


def schema_text() -> str:
    """JSON Schema (draft 2020-12) as text, ending in a newline."""
    schema = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **Project.model_json_schema(),
        "title": "Wired Union project, format 1",
    }
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"
