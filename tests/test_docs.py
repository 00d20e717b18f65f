"""Documents that are made from the program are fresh, and the README links what there is."""

import importlib.util
import json
import re
import sys
from pathlib import Path

from wired_union.physics.methods import all_methods
from wired_union.project.schema import schema_text
from wired_union.report.methods_page import methods_page

ROOT = Path(__file__).parent.parent


def test_methods_page_is_fresh():
    assert (ROOT / "docs" / "methods.md").read_text(encoding="utf-8") == methods_page(), "run script/docs"


def test_schema_is_fresh():
    assert (ROOT / "docs" / "project.schema.json").read_text(encoding="utf-8") == schema_text(), "run script/docs"


def test_demo_files_keep_the_schema():
    import jsonschema

    schema = json.loads(schema_text())
    for path in (ROOT / "src" / "wired_union" / "assets" / "demo").glob("*.json"):
        jsonschema.validate(json.loads(path.read_text(encoding="utf-8")), schema)


def test_readme_names_the_two_commands_and_links_every_picture():
    text = (ROOT / "README.md").read_text(encoding="utf-8")
    first_screen = "\n".join(text.splitlines()[:25])
    assert "script/demo" in first_screen
    assert "script/test" in first_screen
    for picture in (ROOT / "docs" / "screenshots").glob("*.png"):
        assert f"docs/screenshots/{picture.name}" in text
    for target in re.findall(r"\]\((?!http)([^)#]+)\)", text):
        assert (ROOT / target).exists(), target


def test_every_method_says_what_it_takes_gives_and_where_it_is_from():
    for method in all_methods():
        assert method.source, method.name
        assert method.summary.endswith("."), method.name
        for wanted in method.inputs:
            assert wanted.meaning, f"{method.name}: {wanted.name} is not explained in Args"
        for name, meaning in method.outputs:
            assert meaning, f"{method.name}: {name} is not explained in Returns"


def test_scripts_start_in_their_own_folder_and_can_be_run():
    for script in (ROOT / "script").iterdir():
        assert script.stat().st_mode & 0o111, script
        assert 'cd "$(dirname "$0")/.."' in script.read_text(encoding="utf-8")


def test_every_fault_of_the_table_is_one_that_can_be_made():
    """A fault whose text is gone from the program would stay "caught" for ever."""
    spec = importlib.util.spec_from_file_location("mutants", ROOT / "benchmarks" / "mutants.py")
    mutants = importlib.util.module_from_spec(spec)
    sys.modules["mutants"] = mutants
    spec.loader.exec_module(mutants)
    for fault in mutants.FAULTS:
        text = (ROOT / "src" / "wired_union" / fault.file).read_text(encoding="utf-8")
        assert text.count(fault.old) == 1, fault
