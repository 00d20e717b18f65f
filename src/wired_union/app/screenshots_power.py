"""One picture of power in depth: a start, temperatures and the odds of the rover, the charging of the bat counter."""

from collections.abc import Callable, Iterator

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QImage, QPainter, QPixmap

from wired_union.app.main_window import MainWindow
from wired_union.catalogue.demo import demo
from wired_union.catalogue.parts import of_kind
from wired_union.kernel.concepts import as_at_work
from wired_union.project import edits
from wired_union.project.model import Project
from wired_union.subjects.power.node import HEAT, ODDS
from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.power.spread.odds import COUNT
from wired_union.subjects.power.spread.told import Told, told_of_missions, told_of_parts, told_of_warmth
from wired_union.subjects.power.spread.told_picture import told_picture
from wired_union.subjects.power.spread.warm import COUNT as WARM_COUNT
from wired_union.subjects.power.view import PowerView
from wired_union.ui.painter import paint

TIRED = (("pack.series", 3), ("pack.cell_resistance_ohm", 0.2))
"""A pack that four motors pull down far enough."""
GAP, NARROW, TOLD, INSET = 10, 1180, 3, 14


def sunny_roost() -> Project:
    """The bat counter with its panel in the frost of December, one that is too small."""
    project = demo("bat-counter")
    sunny = next(c for c in project.concepts if c.sun_panels)
    project = as_at_work(project, sunny.id)
    return edits.swap_part(project, sunny.sun_panels[0].item, of_kind("solar panel")[1]).after


def tired_rover() -> Project:
    """The rover on a pack that is too weak for its start."""
    project = demo("mudlark")
    for path, value in TIRED:
        project = edits.set_part_value(project, "battery", path, value).after
    return project


def _cards(window: MainWindow, until: Callable[[Callable[[], bool]], None]) -> Iterator[QPixmap]:
    for project, pick in (
        (tired_rover(), PowerPick("drive", span="first")), (sunny_roost(), PowerPick(span="sun")),
        (demo("mudlark"), PowerPick("drive", span="warmth")), (demo("mudlark"), PowerPick("drive", span="spread")),
    ):  # fmt: skip
        window.hold(project, None)
        assert window.store is not None
        assert window.views is not None
        window.store.pick(pick)
        window.go("power")
        view = window.views["power"]
        assert isinstance(view, PowerView)
        if pick.span == "spread":
            until(lambda v=view: v.span.spread.some is not None and len(v.span.spread.some.runtime_s) == COUNT)  # type: ignore[misc]
        canvas, widget = view.span.canvases[pick.span], view.span.widget
        until(lambda c=canvas, w=widget: c.height() > 100 and w.height() > c.height() + 40)  # type: ignore[misc]
        yield _with_table(view.span.widget.grab(), window, _told(view, pick.span, until))


def _told(view: PowerView, span: str, until: Callable[[Callable[[], bool]], None]) -> list[Told]:
    """What is told apart of temperatures and of missions, as far as there is room."""
    assert view.store is not None
    now = view.store.assessment
    brief, drawing = now.project.brief, view.span.warmth.apart
    if span == "spread":
        assert view.span.spread.some is not None
        return list(told_of_missions(view.span.spread.some, now.of(ODDS), brief))
    if span != "warmth":
        return []
    until(lambda: drawing.some is not None and len(drawing.some.hottest_c) == WARM_COUNT)
    return [*told_of_warmth(drawing.some, now.of(HEAT), brief), *told_of_parts(drawing.some)][:TOLD]


def _with_table(card: QPixmap, window: MainWindow, rows: list[Told]) -> QPixmap:
    """A card with rows under it."""
    if not rows:
        return card
    edge = window.theme.px(INSET)
    table = told_picture(rows, window.theme.kit, card.width() - 2 * edge)
    made = QPixmap(card.width(), card.height() + round(table.height) + edge)
    made.fill(window.theme.colour("card"))
    painter = QPainter(made)
    painter.drawPixmap(0, 0, card)
    painter.translate(edge, card.height())
    paint(painter, table, window.theme)
    painter.end()
    return made


def power_in_depth(
    window: MainWindow, size: tuple[int, int], until: Callable[[Callable[[], bool]], None]
) -> QImage:  # fmt: skip
    """Four cards, two beside two; `until` lets events run until something holds."""
    before = window.size()
    window.resize(NARROW, before.height())  # so that each card is drawn about as large as it is shown
    wide, made = size[0] // 2 - 2 * GAP, []
    for card in _cards(window, until):
        made.append(card.scaledToWidth(wide, Qt.TransformationMode.SmoothTransformation))
    window.resize(before)
    high = [max(c.height() for c in made[:2]), max(c.height() for c in made[2:])]
    gap = (size[1] - sum(high)) // 3
    image = QImage(*size, QImage.Format.Format_RGB32)
    image.fill(window.theme.colour("line"))
    painter = QPainter(image)
    for n, card in enumerate(made):
        painter.drawPixmap(QPoint(n % 2 * (wide + 2 * GAP) + GAP, gap + n // 2 * (high[0] + gap)), card)
    painter.end()
    return image
