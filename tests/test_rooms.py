"""The ladder of rooms, and that the core runs where Qt is not installed."""

import ast
import subprocess
import sys
from pathlib import Path

import pytest

SOURCE = Path(__file__).parent.parent / "src" / "wired_union"
CORE = ("units.py", "project", "physics", "catalogue", "assess", "choose", "picture", "report")


def imports(path: Path) -> set[str]:
    """Every module a file names in an import, also inside functions."""
    found = set()
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.Import):
            found.update(a.name for a in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
    return found


def files(room: str) -> list[Path]:
    place = SOURCE / room
    return [place] if place.is_file() else sorted(place.rglob("*.py"))


@pytest.mark.parametrize("room", CORE)
def test_only_the_app_knows_qt(room):
    assert [f for f in files(room) if any(m.startswith("PyQt6") for m in imports(f))] == []


def test_project_and_physics_know_nothing_of_each_other():
    assert [f for f in files("project") if any("wired_union.physics" in m for m in imports(f))] == []
    assert [f for f in files("physics") if any("wired_union.project" in m for m in imports(f))] == []


def test_the_core_works_without_qt_and_without_slow_libraries():
    """A project is checked with PyQt6 absent, and without loading scipy, openpyxl or networkx."""
    script = (
        "import sys\n"
        "sys.modules['PyQt6'] = None\n"
        "from wired_union.catalogue.demo import demo\n"
        "from wired_union.assess.assessment import assess\n"
        "assert assess(demo()).findings\n"
        "assert not {'scipy', 'openpyxl', 'networkx', 'jinja2', 'typer'} & set(sys.modules)\n"
        "print('works')\n"
    )
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=False)
    assert done.stdout == "works\n", done.stderr


def test_no_module_holds_a_store_or_project_of_its_own():
    """No singletons: nothing at module level is a Store, a window or a QObject."""
    for path in SOURCE.rglob("*.py"):
        for node in ast.parse(path.read_text(encoding="utf-8")).body:
            if isinstance(node, ast.Assign) and isinstance(node.value, ast.Call):
                name = getattr(node.value.func, "id", "")
                assert name not in {"Store", "MainWindow", "QApplication", "QObject", "Theme"}, path
