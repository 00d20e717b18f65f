"""The command line, as a script calls it."""

import json
import subprocess
import sys

import pytest
from typer.testing import CliRunner

import edits
from builders import a_load, a_pack, a_project, a_rover
from wired_union.catalogue.demo import demo
from wired_union.cli.main import app
from wired_union.project.file import save, to_text
from wired_union.report.content import verdict_line
from wired_union.subjects import assess

RUN = CliRunner()


def call(*words: str):
    return RUN.invoke(app, list(words))


def test_check_of_the_demo_breaks_and_says_so():
    done = call("check", "demo")
    assert done.exit_code == 1
    assert "breaks   Runtime: 4.36\u202fh, at least 5\u202fh" in done.output


def test_check_json_has_measures_by_id_and_findings():
    data = json.loads(call("check", "demo", "--json").output)
    assert {"runtime", "peak-current", "mass", "money", "chain:bump-to-stop"} <= set(data["measures"])
    runtime = data["measures"]["runtime"]
    assert runtime["unit"] == "s"
    assert runtime["limit"] == 18000.0
    assert runtime["verdict"] == "breaks"
    assert runtime["use"] == pytest.approx(18000 / runtime["value"])
    assert set(runtime) >= {"value", "unit", "limit", "direction", "use", "verdict", "missing"}
    assert data["measures"]["pins"]["missing"] == []
    assert data["measures"]["pins"]["value"] == 28
    assert any(f["id"] == "runtime" and f["remedies"] for f in data["findings"])


def test_check_that_holds_is_zero_and_one_that_cannot_be_read_is_two(tmp_path):
    project = a_project(a_pack(), a_load(amperes=0.1), feeds=(("pack", "load"),))
    save(project, tmp_path / "a.union.json")
    assert call("check", str(tmp_path / "a.union.json")).exit_code == 0
    missing = call("check", str(tmp_path / "b.union.json"))
    assert missing.exit_code == 2
    assert "cannot be read" in missing.output
    (tmp_path / "c.union.json").write_text("{]", encoding="utf-8")
    broken = call("check", str(tmp_path / "c.union.json"))
    assert broken.exit_code == 2
    assert "line 1, column 2" in broken.output


def test_whatever_is_printed_as_breaking_is_in_the_headline_and_the_exit_status(tmp_path):
    """Too slow breaks no limit and no requirement of a part, yet it is not what was asked."""
    slow = edits.set_load(a_rover(), "drive", speed_m_s=0.9).after
    assessed = assess(slow)
    assert all(m.verdict != "breaks" for m in assessed.measures)
    assert [f.detail for f in assessed.breaks_besides] == ["speed"]
    assert verdict_line(assessed) == "1 limit: 1 holds. 1 more thing breaks."
    save(slow, tmp_path / "slow.union.json")
    result = call("check", str(tmp_path / "slow.union.json"))
    assert "breaks   Drive is too slow" in result.output
    assert result.exit_code == 1


def test_an_endless_runtime_is_still_json(tmp_path):
    save(a_project(a_pack(), a_load(amperes=0.0), feeds=(("pack", "load"),)), tmp_path / "a.union.json")
    data = json.loads(call("check", str(tmp_path / "a.union.json"), "--json").output)
    assert data["measures"]["runtime"]["value"] == "inf"


def test_report_and_parts_are_written(tmp_path):
    for words in (("report", "demo", "-o", str(tmp_path / "r.html")), ("parts", "demo", "-o", str(tmp_path / "p.csv"))):
        assert call(*words).exit_code == 0
    assert (tmp_path / "r.html").stat().st_size > 10_000
    refused = call("report", "demo", "-o", str(tmp_path / "r.odt"))
    assert refused.exit_code == 2
    assert "a report is .html or .pdf" in refused.output


def test_ripple_of_two_files(tmp_path, mudlark):
    save(mudlark, tmp_path / "a.union.json")
    save(edits.set_count(mudlark, "battery", 2).after, tmp_path / "b.union.json")
    done = call("ripple", str(tmp_path / "a.union.json"), str(tmp_path / "b.union.json"))
    assert done.exit_code == 0
    assert "Pack 4S 6 Ah LiFePO₄: 2 instead of 1" in done.output
    assert "breaks becomes holds" in done.output
    data = json.loads(call("ripple", str(tmp_path / "a.union.json"), str(tmp_path / "b.union.json"), "--json").output)
    assert data["measures"]["money"]["change"] == pytest.approx(58.0 + 2.4)  # with a lead for each pack
    assert "nothing changed" in call("ripple", "demo", "demo").output


def test_wiring_and_states_are_written_by_their_endings(tmp_path):
    """And what cannot be written is said in one line."""
    for name, what, starts in (("a.pdf", "drawing", b"%PDF"), ("b.svg", "labels", b"<svg"), ("c.csv", "", b"controller,"),
                               ("d.csv", "cut", b"cable,"), ("e.csv", "plugs", b"connector,"), ("f.h", "", b"/* Pins"),
                               ("g.py", "", b'"""Pins')):  # fmt: skip
        more = ["--what", what] if what else []
        assert call("wiring", "demo", "-o", str(tmp_path / name), *more).exit_code == 0
        assert (tmp_path / name).read_bytes().startswith(starts)
    for name, starts in (("h.h", b"/* States"), ("i.py", b'"""States'), ("j.html", b"<!doctype html>")):
        assert call("states", "demo", "-o", str(tmp_path / name)).exit_code == 0
        assert (tmp_path / name).read_bytes().startswith(starts)
    save(a_project(a_pack(), a_load()), tmp_path / "bare.union.json")
    bare = str(tmp_path / "bare.union.json")
    for wrong in (["wiring", "demo", "-o", "x.txt"], ["wiring", "demo", "-o", "x.csv", "--what", "kettle"],
                  ["wiring", bare, "-o", "x.h"], ["states", "demo", "-o", "x.txt"], ["states", bare, "-o", "x.h"],
                  ["wiring", "demo", "-o", str(tmp_path / "no" / "x.csv")]):  # fmt: skip
        done = call(*wrong)
        assert done.exit_code == 2, wrong
        assert done.output.count("\n") == 1


def test_schema_is_json():
    assert json.loads(call("schema").output)["title"] == "Wired Union project, format 1"


def test_masses_and_places_go_out_and_come_back(tmp_path):
    project, sheet = tmp_path / "m.union.json", tmp_path / "p.csv"
    project.write_text(to_text(demo()), encoding="utf-8")
    assert call("places", str(project), "-o", str(sheet)).exit_code == 0
    text = sheet.read_text(encoding="utf-8")
    sheet.write_text(text.replace("Feed,0.78,measured", "Feed,0.81,measured"), encoding="utf-8")
    out = tmp_path / "n.union.json"
    assert "of 1 row from p.csv" in call("take-places", str(project), str(sheet), "-o", str(out)).output
    assert "mass 810 g instead of 780 g" in call("ripple", str(project), str(out)).output.replace("\u202f", " ")
    again = call("take-places", str(out), str(sheet), "-o", str(out))
    assert again.exit_code == 2
    assert "differs from what is there" in again.stderr


def test_work_lists_describes_and_works():
    assert "lora-airtime" in call("work").output
    described = call("work", "lora-airtime").output
    assert "Semtech AN1200.13 (2013), section 4" in described
    assert "payload_bytes" in described
    done = call("work", "lora-airtime", "spreading_factor=9", "bandwidth_hz=125kHz", "payload_bytes=24", "--json")
    data = json.loads(done.output)
    assert data["method"] == "lora-airtime"
    assert data["inputs"] == {"spreading_factor": 9, "bandwidth_hz": 125000.0, "payload_bytes": 24}
    assert data["outputs"] == {"symbol_time_s": 0.004096, "airtime_s": 0.205824}
    assert data["source"] == "Semtech AN1200.13 (2013), section 4"
    plain = call("work", "wire-gauge", "awg=20").output.replace("\u202f", " ")
    assert "resistance_ohm_per_m = 33.3 mΩ/m" in plain
    assert "schedulable = yes" in call("work", "response-times", "execution_s=1", "period_s=4").output
    wall = ("weight_n=50N", "wheelbase_m=30cm", "centre_to_front_m=15cm", "wheel_radius_m=5cm", "step_m=5cm")
    assert "friction_front = none\nfriction_rear = none\nclimbs = no" in call("work", "two-axle-step", *wall).output


def test_work_lists_as_json_too():
    data = json.loads(call("work", "--json").output)
    assert {"method", "summary", "source", "from_memory", "checked_against", "inputs", "outputs", "limits"} == set(
        data[0]
    )
    one = json.loads(call("work", "uart-time", "--json").output)
    assert [i["name"] for i in one["inputs"]] == ["bytes", "baud", "bits_per_byte"]


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("work", "nope"), "no method is called “nope”"),
        (("work", "wire-gauge", "awg"), "“awg” is not key=value. Write it like current_a=650mA."),
        (("work", "wire-gauge", "awg=1", "awg=2"), "awg is given twice."),
        (("work", "wire-gauge", "awg=99"), "gauge is from −3 (4/0) to 40"),
        (("demo", "nothing"), "There is no demo “nothing”. There are: mudlark, bat-counter."),
    ],
)
def test_refusals_are_one_line_and_status_two(words, said):
    done = call(*words)
    assert done.exit_code == 2
    assert said in done.output
    assert len(done.output.strip().splitlines()) == 1


def test_commands_without_a_window_do_not_load_qt():
    script = (
        "import sys; sys.argv = ['wired-union', 'check', 'demo']\n"
        "from wired_union.__main__ import main\n"
        "try: main()\n"
        "except SystemExit: pass\n"
        "assert not [m for m in sys.modules if m.startswith('PyQt6')]\n"
    )
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr


def test_version():
    assert call("--version").output.startswith("wired-union 0.")


def test_concepts_candidates_and_the_best_without_a_window():
    told = call("concepts", "demo").output
    assert "C three wheels  retired: Tips at 15° with the corer out" in told
    assert "open     A: Does the corer jam on shells?" in told
    data = json.loads(call("concepts", "demo", "--json").output)
    assert data["a"]["knocked_out"]
    assert data["b"]["measures"]["runtime"]["verdict"] == "tight"
    assert "fits     GNSS receiver low power, on the shelf, 1 free" in call("candidates", "demo", "gnss").output
    wrong = call("candidates", "demo", "moon")
    assert wrong.exit_code == 2
    assert "Places: mud-thermometer, core-depth, gearmotor" in wrong.output
    data = json.loads(call("candidates", "demo", "mud-thermometer", "--json").output)
    assert data["fits"][0]["id"] == "temperature-probe-sealed"
    assert all(r["by"] for r in data["refused"])
    done = call("best", "demo", "battery,gearmotor", "--favour", "mass", "--json")
    data = json.loads(done.output)
    assert (done.exit_code, data["proven"], data["gap"]) == (0, True, 0.0)
    assert data["found"][0]["parts"]["gearmotor"] == "gearmotor-25-mm-12-v-120-1"
    assert "Proven best" in call("best", "demo", "battery", "--favour", "runtime=1,money=2").output
    assert call("best", "demo", "battery", "--favour", "beauty").exit_code == 2
    assert call("best", "demo", "battery", "--favour", "mass=much").exit_code == 2


def test_parts_are_checked_for_physical_sense(tmp_path):
    done = call("check-parts")
    assert done.exit_code == 0
    assert "parts make sense" in done.output
    sheet = tmp_path / "bad.csv"
    sheet.write_text("id,name,kind,mass_kg,price\nx,Anvil,structure,1,0\n")
    done = call("check-parts", str(sheet))
    assert done.exit_code == 1
    assert "row 2 (Anvil), price: must be above 0" in done.output
    assert call("check-parts", str(tmp_path / "none.csv")).exit_code == 2
