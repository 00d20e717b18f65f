"""Trials by hand: runs by keys to “shown”, a sheet pasted, a run struck out, a measured trial, undone to the start."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QMenu, QMessageBox

from instruments.stand_ins import a_device
from window.hands import answer, click, named, press, typed
from wired_union.subjects.trials.assess import TRIALS
from wired_union.subjects.trials.pick import TrialPick


@pytest.fixture
def trials(window):
    window.go("trials")
    QTest.qWait(20)
    return window.views["trials"]


def result(window, trial):
    return next(r for r in window.store.assessment.of(TRIALS) if r.trial.id == trial)


def chosen(view, name, value):
    choice = getattr(view, "details", view).fields[name]
    choice.setCurrentIndex(choice.findData(value))
    choice.activated.emit(choice.currentIndex())


def test_a_trial_is_run_by_keys_until_it_is_shown(window, trials, monkeypatch):
    before = window.store.project
    menus = []
    monkeypatch.setattr(QMenu, "popup", lambda self, *_: menus.append(self))
    named(trials, "+ a trial").click()
    assert any(a.text().startswith("Ahead of the tide") for a in menus[-1].actions())
    answer(monkeypatch, "Starts in the cold")
    next(a for a in menus[-1].actions() if a.text().startswith("Of nothing")).trigger()
    assert window.store.project.trials[-1].id == "starts-in-the-cold"
    typed(trials, "Starts in the cold: wanted rate", "90 %")
    trials.setFocus()
    typed(trials, "Starts in the cold: version of the next run", "version 3")
    for _ in range(28):
        QTest.keyClick(window, Qt.Key.Key_G)
    assert result(window, "starts-in-the-cold").verdict == "tight"
    assert "1 more run, all good" in {r.label for f in window.store.assessment.findings if f.of == "starts-in-the-cold"
                                      for r in f.remedies}  # fmt: skip
    click(trials.details.fields["good"])
    shown = result(window, "starts-in-the-cold")
    assert shown.verdict == "holds"
    assert {(r.version, r.on) for r in shown.trial.runs} == {("version 3", "2026-11-24")}
    QTest.keyClick(window, Qt.Key.Key_B)
    assert result(window, "starts-in-the-cold").verdict == "tight"
    answer(monkeypatch, "the pack was not plugged in")
    click(trials.details.fields["run 30"])
    assert result(window, "starts-in-the-cold").verdict == "holds"
    assert result(window, "starts-in-the-cold").trial.runs[-1].struck == "the pack was not plugged in"
    click(trials.details.fields["run 30"])
    assert result(window, "starts-in-the-cold").verdict == "tight"
    while window.store.project != before:
        window.undo()


def test_keys_are_letters_where_a_field_is_typed_into(window, trials):
    runs = len(window.store.project.trials[0].runs)
    field = trials.details.fields["next condition"].line
    field.setFocus()
    QTest.keyClicks(field, "big bog")
    assert field.text() == "big bog"
    assert len(window.store.project.trials[0].runs) == runs


def test_runs_are_pasted_and_a_wrong_line_is_said(window, trials, monkeypatch, tmp_path):
    told = []
    monkeypatch.setattr(QMessageBox, "warning", lambda *a: told.append(a[2]))
    before = window.store.project
    QApplication.clipboard().setText("good\nbad\nperhaps\n")
    named(trials, "paste runs").click()
    assert told == ["Line 3: “perhaps” is neither good nor bad. Nothing was taken."]
    assert window.store.project is before
    QApplication.clipboard().setText("good\tversion 4\tsilt\nbad\tversion 4\tsilt\n")
    named(trials, "paste runs").click()
    assert [(r.good, r.condition) for r in window.store.project.trials[0].runs[-2:]] == [
        (True, "silt"),
        (False, "silt"),
    ]
    assert result(window, "good-cores").now.version == "version 4"
    sheet = tmp_path / "runs.csv"
    sheet.write_text("result,version\ngood,version 4\n", encoding="utf-8")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(sheet), ""))
    named(trials, "from a file").click()
    assert len(result(window, "good-cores").now.runs) == 3
    sheet.write_bytes(b"\xff\xfe\x00")
    named(trials, "from a file").click()
    assert told[-1].startswith("Line 1: ")
    window.undo()
    window.undo()
    assert window.store.project == before


def test_what_is_measured_is_typed_and_boxes_and_sweep_are_shown_where_they_say_something(window, trials):
    before = window.store.project
    press(trials.scores, "score core-length")
    assert trials.boxes_card.isVisible()
    assert not trials.sweep_card.isVisible()
    typed(trials, "Core length: condition of the next run", "peat")
    typed(trials, "Core length: measured", "163 mm")
    run = window.store.project.trials[1].runs[-1]
    assert (run.value, run.condition, run.good) == (0.163, "peat", None)
    line = typed(trials, "Core length: measured", "long")
    assert "is not a number" in line.parent().error.text()
    press(trials.scores, "score bit-angle")
    assert trials.sweep_card.isVisible()
    assert not trials.boxes_card.isVisible()
    assert "Best bit angle in degrees 33" in trials._sweep_said.text()
    window.store.pick(TrialPick("stops-at-a-bump"))
    chosen(trials, "limit", "")
    assert result(window, "stops-at-a-bump").wish is None
    chosen(trials, "limit", "chain:bump-to-stop")
    chosen(trials, "concept", "b")
    window.undo()
    window.undo()
    window.undo()
    window.undo()
    assert window.store.project == before


def test_a_course_is_planned_by_hand_its_best_order_found_and_taken(window, trials, monkeypatch, qtbot):
    before = window.store.project
    for name in ("Wall", "Far end"):
        answer(monkeypatch, name)
        named(trials, "+ a place").click()
    typed(trials, "Far end: along", "20 m")
    answer(monkeypatch, "Far")
    named(trials, "+ a trip").click()
    answer(monkeypatch, "Ring the bell")
    named(trials, "+ a task").click()
    measure = window.store.assessment.measure("course")
    assert measure.verdict == "unknown"
    assert "Ring the bell: points" in measure.missing
    line = typed(trials, "Ring the bell: succeeds", "120 %")
    assert "at most 1" in line.parent().error.text()
    for field, text in (("points", "40"), ("takes", "20 s"), ("which varies by", "4 s"), ("succeeds", "0.9")):
        typed(trials, f"Ring the bell: {field}", text)
    chosen(trials.course, "task place", "far-end")
    points = window.store.assessment.measure("course").value
    assert points > 100
    named(trials, "find the best order").click()
    qtbot.waitUntil(lambda: "take" in trials.course.fields, timeout=20_000)
    assert "proven" in trials.course.best_said.text()
    click(trials.course.fields["take"])
    assert window.store.assessment.measure("course").value > points
    assert "take" not in trials.course.fields  # nothing is better now, until that is looked for again
    window.undo()
    assert window.store.assessment.measure("course").value == pytest.approx(points)
    trials.course.canvas.setFocus()
    QTest.keyClick(trials.course.canvas, Qt.Key.Key_Return)
    assert window.store.picked(TrialPick).task
    named(trials, "later").click()
    named(trials, "earlier").click()
    while window.store.project != before:
        window.undo()


def test_a_foot_switch_enters_runs_and_an_unplugged_one_is_said(window, trials, monkeypatch, qtbot):
    window.store.pick(TrialPick("good-cores"))
    before, runs = window.store.project, len(result(window, "good-cores").trial.runs)
    lines = [b"\n", b"bad\r\n", b"g\n", b"maybe\n", b"good\n"]
    with a_device(lines, 0.05, stays=False) as address:
        answer(monkeypatch, address)
        named(trials, "foot switch").click()
        window.store.pick(TrialPick("shell-or-stone"))  # who looks at something else meanwhile changes nothing
        qtbot.waitUntil(lambda: len(result(window, "good-cores").trial.runs) == runs + 4, timeout=20_000)
        qtbot.waitUntil(lambda: not trials.details.entry.switch.worker.running, timeout=20_000)
    made = result(window, "good-cores").trial.runs[runs:]
    assert [r.good for r in made] == [True, False, True, True]
    assert made[0].version == "version 3, bit 32 mm"
    assert "has gone" in trials.details.entry.switch._words
    window.store.pick(TrialPick("good-cores"))
    answer(monkeypatch, "/dev/nowhere")
    named(trials, "foot switch").click()
    qtbot.waitUntil(lambda: "does not open" in trials.details.entry.switch._words, timeout=20_000)
    for _ in range(4):
        window.undo()
    assert window.store.project == before


def test_links_what_is_seen_and_settings_at_two_levels_are_run_by_hand(window, trials, monkeypatch, qtbot):
    before, menus = window.store.project, []
    monkeypatch.setattr(QMenu, "popup", lambda self, *_: menus.append(self))

    def begin(kind, name):
        named(trials, "+ a trial").click()
        answer(monkeypatch, name)
        next(a for a in menus[-1].actions() if a.text().startswith(kind)).trigger()

    begin("A link", "Radio in the pipe")
    for distance, packets in (("20 m", "100 of 100"), ("100 m", "90/100"), ("200", "20 of 100")):
        typed(trials, "Radio in the pipe: setting of the next run", distance)
        line = typed(trials, "Radio in the pipe: arrived", "many")
        assert "how many of how many" in line.parent().error.text()
        typed(trials, "Radio in the pipe: signal to noise of the next run", "12 dB") if distance == "20 m" else None
        typed(trials, "Radio in the pipe: arrived", packets)
    runs = window.store.project.trials[-1].runs
    assert [(r.setting, r.received, r.value) for r in runs] == [(20, 100, 12), (100, 90, None), (200, 20, None)]
    assert "arrive up to" in trials._look_said.text()
    assert trials.look_card.isVisibleTo(trials)

    begin("What it sees", "Weed or mud")
    for was, saw in (("weed", "weed"), ("weed", "mud"), ("mud", "mud")):
        typed(trials, "Weed or mud: was of the next run", was)
        typed(trials, "Weed or mud: it saw", saw)
    assert [(r.was, r.seen) for r in window.store.project.trials[-1].runs] == [
        ("weed", "weed"),
        ("weed", "mud"),
        ("mud", "mud"),
    ]
    assert trials._look_said.text() == "weed is most often taken for mud: 1 of 2."

    begin("Accuracy", "Depth")
    answer(monkeypatch, "Bit: 28 mm, 32 mm")
    named(trials, "+ a setting at two levels").click()
    for level, value in (("", "100"), ("high", "120"), ("", "101"), ("high", "122")):
        chosen(trials, "level 1", level)
        typed(trials, "Depth: measured", value)
    assert [r.levels for r in window.store.project.trials[-1].runs] == [(False,), (True,), (False,), (True,)]
    assert "Bit +20.5" in trials._look_said.text().replace("\u2009", " ")
    typed(trials, "Depth: note of the next run", "loud")
    typed(trials, "Depth: measured", "99")
    typed(trials, "Depth: measured", "98")
    assert [r.note for r in window.store.project.trials[-1].runs[-2:]] == ["loud", ""]

    begin("Service", "Swap the pack")
    assert window.store.project.trials[-1].strangers
    press(trials.scores, "score good-cores")
    assert window.store.picked(TrialPick).id == "good-cores"
    click(trials.details.fields["apart"])
    qtbot.waitUntil(lambda: "of each" in trials.details._told_apart.text(), timeout=30_000)
    while window.store.project != before:
        window.undo()


def test_a_throw_is_aimed_by_hand(window, trials, monkeypatch):
    before = window.store.project
    answer(monkeypatch, "Ball to the buoy")
    named(trials, "+ a throw").click()
    for field, text in (("speed", "11 m/s"), ("which varies by", "0.2"), ("angle", "38"), ("that by", "1"), ("lands from", "9 m"),
                        ("lands to", "11 m")):  # fmt: skip
        typed(trials, f"Ball to the buoy: {field}", text)
    line = typed(trials, "Ball to the buoy: lands to", "8 m")
    assert "ends nearer" in line.parent().error.text()
    before_aim = window.store.assessment.measure("throw:ball-to-the-buoy").value
    assert before_aim < 0.5
    QTest.qWait(400)  # what a remedy does is worked out once it is drawn
    named(trials, "→ at").click()
    assert window.store.assessment.measure("throw:ball-to-the-buoy").value > 0.9
    while window.store.project != before:
        window.undo()


def test_a_run_carries_its_picture_and_one_that_has_gone_is_said(window, trials, monkeypatch, tmp_path):
    window.store.pick(TrialPick("good-cores"))
    QTest.qWait(1)
    before = window.store.project
    picture = QImage(400, 300, QImage.Format.Format_RGB32)
    picture.fill(0x336699)
    picture.save(str(tmp_path / "core.png"))
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(tmp_path / "core.png"), ""))
    named(trials, "a picture of it").click()
    QTest.qWait(1)
    click(trials.details.fields["good"])
    runs = result(window, "good-cores").trial.runs
    assert runs[-1].picture == str(tmp_path / "core.png")
    shown = trials.details.fields[f"picture {len(runs)}"].pixmap()
    assert (shown.width(), shown.height()) == (trials.theme.px(220), pytest.approx(trials.theme.px(165), abs=1))
    (tmp_path / "core.png").unlink()
    click(trials.details.fields["good"])
    runs = result(window, "good-cores").trial.runs
    assert runs[-1].picture == ""  # a picture is of one run alone
    assert "is not found" in trials.details.fields[f"picture {len(runs) - 1}"].text()
    for _ in range(2):
        window.undo()
    assert window.store.project == before
