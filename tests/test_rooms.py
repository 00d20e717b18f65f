"""The ladder of rooms, no circle of files, and that the core runs where Qt is not installed."""

import ast
import subprocess
import sys
from pathlib import Path

import grimp
import networkx as nx
import pytest

from wired_union.subjects import NAMES

SOURCE = Path(__file__).parent.parent / "src" / "wired_union"
CORE = (
    "units.py",
    "errors.py",
    "shipped.py",
    "project",
    "physics",
    "instruments",
    "catalogue",
    "kernel",
    "choose",
    "picture",
    "report",
)


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
def test_only_ui_app_and_views_know_qt(room):
    assert [f for f in files(room) if any(m.startswith("PyQt6") for m in imports(f))] == []


@pytest.mark.parametrize("name", NAMES)
def test_in_a_subject_only_the_view_knows_qt(name):
    """Neither by itself nor through what it imports: ui is for views."""
    for file in files(f"subjects/{name}"):
        if not file.name.startswith("view"):
            assert [m for m in imports(file) if m.startswith(("PyQt6", "wired_union.ui", "wired_union.app"))] == [], (
                file
            )


def test_project_and_physics_know_nothing_of_each_other():
    assert [f for f in files("project") if any("wired_union.physics" in m for m in imports(f))] == []
    assert [f for f in files("physics") if any("wired_union.project" in m for m in imports(f))] == []


def test_no_circle_of_files():
    graph = grimp.build_graph("wired_union", cache_dir=None)
    arrows = nx.DiGraph((m, i) for m in graph.modules for i in graph.find_modules_directly_imported_by(m))
    circles = [sorted(c) for c in nx.strongly_connected_components(arrows) if len(c) > 1]
    assert circles == []


def test_the_core_works_without_qt_and_without_slow_libraries():
    """A project is checked with PyQt6 absent, and without loading scipy, openpyxl or networkx."""
    script = (
        "import sys\n"
        "sys.modules['PyQt6'] = None\n"
        "from wired_union.catalogue.demo import demo\n"
        "from wired_union.subjects import assess\n"
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
