"""Older formats to the present one: a chain of pure functions on plain JSON data, each one version further.

When the format changes in a way that an older file does not have, raise `VERSION` in model.py, write the function here
under the version it starts from, and keep files of that version in tests/kept/VERSION.
"""

from collections.abc import Callable
from typing import Any

Data = dict[str, Any]

MIGRATIONS: dict[int, Callable[[Data], Data]] = {}
"""From version: what makes its data one version newer."""
