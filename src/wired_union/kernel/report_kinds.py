"""The kinds of report that there are, by what scripts call them."""

from collections.abc import Mapping

KINDS: Mapping[str, str] = {
    "whole": "the whole story", "judge": "two pages for a judge", "builder": "to build it by",
    "successor": "for whoever comes next",
}  # fmt: skip
EVERYTHING = "everything"
"""All of it, and everything else that is handed over, in one archive."""
