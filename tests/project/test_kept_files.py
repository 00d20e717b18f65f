"""Files of every version that was ever written open, mean what they meant, and are written as today's."""

import json
from pathlib import Path

import pytest

from wired_union.project import careful_reading, migrations
from wired_union.project.errors import NewerFormat
from wired_union.project.file import from_text, load, to_text
from wired_union.project.model import VERSION
from wired_union.subjects import assess

KEPT = Path(__file__).parent.parent / "kept"
FILES = sorted(KEPT.glob("*/*.union.json"))

# Worked out by the program that wrote them, before its values and its solver were made anew (commit 3575762);
# lowest voltage and peak current since peaks of what is at work count at the worst instant, motors start at
# V/R, and a bridge drops volts; slightly less since copper is as warm as the hottest air.
SAID = {
    "mudlark": {
        "runtime": 15712.538412, "lowest-voltage": 12.333419481, "peak-current": 11.107537997, "mass": 8.01615,
        "chain:bump-to-stop": 0.18797, "speed:drive": 0.333195372, "money": 522.0,
    },
    "bat-counter": {
        "runtime": 3019798.120, "peak-current": 0.124824222, "mass": 0.4275, "chain:bat-to-count": 0.0365, "money": 87.0,
    },
}  # fmt: skip


def test_files_of_every_version_are_kept():
    assert {int(p.parent.name) for p in FILES} == set(range(1, VERSION + 1))
    assert all(json.loads(p.read_text(encoding="utf-8"))["version"] == int(p.parent.name) for p in FILES)


@pytest.mark.parametrize("path", FILES, ids=lambda p: f"{p.parent.name}-{p.stem}")
def test_a_kept_file_opens_and_means_what_it_meant(path):
    project = load(path)
    assert project.version == VERSION
    assessment = assess(project)
    for measure, value in SAID[path.name.removesuffix(".union.json")].items():
        assert assessment.measure(measure).value == pytest.approx(value, rel=1e-6), measure
    again = from_text(to_text(project), path)
    assert again == project
    assert assess(again).measures == assessment.measures


def test_an_older_file_is_carried_through_every_step(monkeypatch, tmp_path):
    """A format of tomorrow: 1 → 2 renames a key that the reader would refuse, 0 → 1 sets the version it starts from."""
    text = json.loads(FILES[0].read_text(encoding="utf-8"))
    text["version"] = 0
    text["called"] = text.pop("name")
    seen = []

    def from_0(data):
        seen.append(data["version"])
        return {**{k: v for k, v in data.items() if k != "called"}, "name": data["called"], "version": 1}

    monkeypatch.setattr(careful_reading, "MIGRATIONS", {**migrations.MIGRATIONS, 0: from_0})
    project = from_text(json.dumps(text), tmp_path / "old.union.json")
    assert seen == [0]
    assert project.name == text["called"]
    assert project.version == VERSION


@pytest.mark.parametrize("version", [VERSION + 1, 99, VERSION + 0.5])
def test_a_later_version_is_newer_never_broken(tmp_path, version):
    text = json.loads(FILES[0].read_text(encoding="utf-8"))
    text["version"] = version
    text["concepts"][0]["tides"] = [{"kind": "spring"}]
    with pytest.raises(NewerFormat, match="newer Wired Union"):
        from_text(json.dumps(text), tmp_path / "later.union.json")
