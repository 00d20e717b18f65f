"""One picture of each main view, from the demo data, 1280×800."""

import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from wired_union.app.main_window import MainWindow
from wired_union.app.run import make_app, make_window
from wired_union.app.screenshots_power import power_in_depth
from wired_union.catalogue.demo import WRITTEN_ON, demo
from wired_union.kernel.merge_pick import MergePick
from wired_union.kernel.subject import Selection
from wired_union.project.edits import set_knowledge, set_part_value
from wired_union.subjects.bench.pick import BenchPick
from wired_union.subjects.bench.view import BenchView
from wired_union.subjects.candidates.pick import CandidatesPick, TryMark
from wired_union.subjects.candidates.view import CandidatesView
from wired_union.subjects.combination.pick import Mix
from wired_union.subjects.combination.view import CombinationView
from wired_union.subjects.fit.edits import add_sight
from wired_union.subjects.fit.pick import FitPick
from wired_union.subjects.handover.pick import HandPick
from wired_union.subjects.interlocks.pick import InterlockPick
from wired_union.subjects.ledger.pick import MoneyPick
from wired_union.subjects.mass.pick import MassPick
from wired_union.subjects.motion.pick import MotionPick
from wired_union.subjects.parts.view import PartsView
from wired_union.subjects.plan.pick import PlanPick
from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.timing.pick import SharedPick
from wired_union.subjects.timing.view import TimingView
from wired_union.subjects.trials.pick import TrialPick
from wired_union.subjects.wiring.pick import WiringPick
from wired_union.subjects.wiring.wishes import Key
from wired_union.ui.findings import PreviewButton
from wired_union.ui.places import Places
from wired_union.ui.view import View

SIZE = (1280, 800)
BUMPER = Key(item="bumper", copy=1, line="contact")


def draw_all(folder: Path) -> Iterator[Path]:
    """Draw every picture into a folder, which is made when missing; gives each path as it is written."""
    folder.mkdir(parents=True, exist_ok=True)
    app = make_app(["wired-union"])
    with tempfile.TemporaryDirectory() as name:
        window = make_window(Places.within(Path(name)), WRITTEN_ON)
        window.set_theme("light")
        window.resize(*SIZE)
        window.show()
        app.processEvents()
        for file, arrange in _SCENES:
            arrange(window)
            _settle(window)
            path = folder / file
            window.grab().scaled(*SIZE).save(str(path))
            yield path
        window.set_theme("light")
        path = folder / "power-depth.png"
        power_in_depth(window, SIZE, _until).save(str(path))
        yield path
        window.store = None
        window.close()


def _view(window: MainWindow, stage: str) -> View:
    assert window.views is not None
    return window.views[stage]


def _settle(window: MainWindow) -> None:
    """Let the window finish what it works out between other things."""
    app = make_app([])
    deadline = time.monotonic() + 10
    for _ in range(20):
        app.processEvents()
    while time.monotonic() < deadline:
        app.processEvents()
        view = window.views.made.get(window.stage) if window.views is not None else None
        if not isinstance(view, PartsView | CandidatesView) or view.tries_ready:
            break
    for _ in range(20):
        app.processEvents()


def _parts_with_rings(window: MainWindow) -> None:
    window.go_to_item("battery")
    _settle(window)
    parts = _view(window, "parts")
    assert isinstance(parts, PartsView)
    card = parts.try_list.cards[0]
    parts.panel.ensureWidgetVisible(card, 0, 300)
    card.setFocus()
    card.pointed.emit(True)


def _go(stage: str, *picks: object) -> Callable[[MainWindow], None]:
    def arrange(window: MainWindow) -> None:
        assert window.store is not None
        window.store.show_preview(None)
        window.store.pick(*picks)
        window.go(stage)
        panel = _view(window, stage).panel.verticalScrollBar()
        if panel is not None:
            panel.setValue(0)

    return arrange


def _candidates(window: MainWindow) -> None:
    _go("candidates", CandidatesPick("battery"))(window)
    view = _view(window, "candidates")
    assert isinstance(view, CandidatesView)
    _settle(window)
    eight = next(i for i, p in enumerate(view.fitting_tries) if "8 Ah" in p.title)
    view.fitting.chosen.emit(TryMark(eight))


def _found_mix(window: MainWindow) -> None:
    """The best of eight places, proven, with the ten next and its rings."""
    places = ("battery", "gearmotor", "driver", "wheel", "gnss", "controller", "buck", "camera")
    _go("combination", Mix(places, favour="weights"))(window)
    view = _view(window, "combination")
    assert isinstance(view, CombinationView)
    view.start()
    _until(lambda: not view.worker.running)
    view.mixes.pointed.emit(0)
    bar = view.verticalScrollBar()
    if bar is not None:
        bar.setValue(bar.maximum())


MARGIN = 10


def _mass(window: MainWindow) -> None:
    """On the bank of the brief, in the pose that tips first, with what bends under it."""
    from wired_union.subjects.mass.view import MassView

    _go("mass", Selection(), MassPick())(window)
    view = _view(window, "mass")
    assert isinstance(view, MassView)
    view.places.stand_on("bank")
    view.places.take_pose("tube-full-hard-stop")
    _settle(window)
    bar = view.verticalScrollBar()
    if bar is not None:
        bar.setValue(view.places.y() - MARGIN)


def _lanes(window: MainWindow) -> None:
    """A task picked: the chains that pass through it, its lane and the buses beside it."""
    _timing_at(window, SharedPick("tasks", "control"), lambda view: view.shared.y() - window.theme.px(150))


def _timing_at(window: MainWindow, pick: SharedPick, place: Callable[[TimingView], int]) -> None:
    _go("timing", pick)(window)
    view = _view(window, "timing")
    assert isinstance(view, TimingView)
    _settle(window)
    bar = view.verticalScrollBar()
    if bar is not None:
        bar.setValue(int(place(view)))


def _seeing(window: MainWindow) -> None:
    """The demo with an eye on its mast that sweeps, and an ear beside it."""
    project = demo()
    eye: dict[str, Any] = {"item": "mast", "pitch_deg": -20.0, "wide_deg": 50.0, "pixels_wide": 320, "least_m": 0.1,
                           "most_m": 4.0}  # fmt: skip
    project = add_sight(project, name="Eye on the mast", **eye).after
    project = add_sight(project, name="Bumper sonar", item="bumper", yaw_deg=-90.0, wide_deg=30.0, high_deg=30.0,
                        least_m=0.02, most_m=3.0, to_m=0.8).after  # fmt: skip
    window.hold(project, None)
    _go("fit", FitPick("sights", "eye-on-the-mast"))(window)


def _loom(window: MainWindow) -> None:
    """The demo as it ships again, a boot pin picked."""
    window.open_demo("mudlark")
    _go("wiring", WiringPick("threads", "controller", BUMPER, "D8"))(window)


def _until(holds: Callable[[], bool]) -> None:
    """Let events run until something holds, a minute at the most."""
    app = make_app([])
    deadline = time.monotonic() + 60
    while time.monotonic() < deadline and not holds():
        app.processEvents()


def _demo_brief(window: MainWindow) -> None:
    window.open_demo("mudlark")
    _go("brief")(window)


def _logged(window: MainWindow) -> None:
    """A motor on the bench, its current logged with the simulated meter for a moment."""
    _go("bench", BenchPick("gearmotor"))(window)
    view = _view(window, "bench")
    assert isinstance(view, BenchView)
    woken = view.woken
    assert woken is not None
    view.instruments.seconds, view.instruments.period_s = 1.0, 0.005
    view.instruments.start_log(woken)
    view.instruments.worker.wait(20.0)


def _merging(window: MainWindow) -> None:
    """Another member's file, put together with the demo: both guessed, one of them weighed since."""
    window.open_demo("mudlark")
    assert window.store is not None
    versions = window.store.project.versions[:4]
    base = window.files.kept.project(versions[-1]).but(versions=versions)
    theirs = set_part_value(base, "core-tube", "mass_kg", 0.59).after
    theirs = set_knowledge(theirs, "core-tube", "measured").after
    theirs = set_part_value(theirs, "mast", "mass_kg", 0.3).after
    name = "both started from A2, 2026-11-19"
    _go("notebook", MergePick("mudlark-sol.union.json", theirs, base, name))(window)
    buttons = [b for b in _view(window, "notebook").panel.findChildren(PreviewButton) if b.text()[:6] == "theirs"]
    buttons[0].setFocus()
    buttons[0].pointed.emit(True)


def _case(window: MainWindow) -> None:
    """What is handed over, in the dark theme."""
    assert window.store is not None
    window.store.pick(MergePick())
    window.set_theme("dark")
    _go("handover", HandPick("wiring"))(window)


_SCENES: tuple[tuple[str, Callable[[MainWindow], None]], ...] = (
    ("brief.png", _demo_brief),
    ("parts-rings.png", _parts_with_rings),
    ("concepts.png", _go("concepts", Selection(concept="b"))),
    ("candidates.png", _candidates),
    ("best-mix.png", _found_mix),
    ("motion.png", _go("motion", MotionPick("drive"))),
    ("power.png", _go("power", PowerPick("drive"))),
    ("mass.png", _mass),
    ("timing.png", _lanes),
    ("fit.png", _seeing),
    ("wiring.png", _loom),
    ("interlocks.png", _go("interlocks", InterlockPick("hazards", "corer-down"))),
    ("bench.png", _logged),
    ("trials.png", _go("trials", TrialPick("good-cores"))),
    ("plan.png", _go("plan", PlanPick(task="core-tube-made"))),
    ("money.png", _go("ledger", MoneyPick(line="deck"))),
    ("notebook.png", _merging),
    ("handover.png", _case),
)
