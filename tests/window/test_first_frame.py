"""What is first drawn stays where it is, and texts that are painted are whole at every width."""

import pytest
from PyQt6.QtCore import QRect
from PyQt6.QtGui import QFontMetrics
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QWidget

from wired_union.app.main_window import MainWindow
from wired_union.picture.palette import SIZES
from wired_union.ui.findings import FindingCard
from wired_union.ui.prose import WRAPPED, Paragraph, Prose, muted
from wired_union.ui.theme import Theme

LONG = "A brushed motor starts at its stall current. This driver does not limit it, so the channel must carry it."


def places_of(window):
    """Where everything that shows is, by its own coordinates in the window."""
    return {
        id(w): QRect(w.mapTo(window, w.rect().topLeft()), w.size())
        for w in window.findChildren(QWidget) if w.isVisible()
    }  # fmt: skip


def test_nothing_jumps_after_the_first_frame(qapp, places):
    window = MainWindow(places, lambda: "2026-11-24")
    window.resize(1600, 1000)
    window.open_demo()
    window.show()
    window.grab()  # lays out and paints, as the first frame does
    first = places_of(window)
    lanes = window.views["parts"].lanes.values()
    heads = window.header.switch.buttons.values()
    assert not window.views["parts"].verticalScrollBar().isVisible()  # all lanes have room at this size
    watched = [*lanes, *(c for lane in lanes for c in lane.cards), *heads]
    assert len(watched) > 30
    assert all(b.width() >= b.minimumSizeHint().width() for b in heads)
    QTest.qWait(30)
    after = places_of(window)
    try:
        assert [first[id(w)] for w in watched] == [after[id(w)] for w in watched]
    finally:
        window.close()


def test_a_card_says_its_finding_and_fits_at_every_width(window):
    cards = window.views["parts"].panel.findChildren(FindingCard)
    findings = [f for f in window.store.assessment.findings if f.verdict != "holds" and f.items]
    assert len(cards) == 6
    for card, finding in zip(cards, findings, strict=False):
        said = card.prose.accessibleName().split("\n")
        assert said[0] == f"{finding.title} {finding.verdict.value}"
        assert said[1:] == [finding.what, *([finding.why] if finding.why else [])]
        assert card.prose.height() >= card.prose.heightForWidth(card.prose.width())


@pytest.mark.parametrize("scale", [1.0, 1.5])
@pytest.mark.parametrize("wide", [120, 240, 480])
def test_a_text_has_the_height_that_qt_needs_for_it(qapp, scale, wide):
    """Against QFontMetrics, which wraps the same text by itself."""
    theme = Theme(scale=scale)
    prose = Prose(theme, [Paragraph(LONG), muted(LONG)])
    high = 0
    for role in ("base", "small"):
        metrics = QFontMetrics(theme.font(theme.px(SIZES[role])))
        high += metrics.boundingRect(QRect(0, 0, wide, 10_000), WRAPPED, LONG).height()
    assert prose.heightForWidth(wide) == pytest.approx(high + 3 * scale, abs=2.5)
    assert prose.heightForWidth(wide) > prose.heightForWidth(wide * 2)


def test_what_stands_beside_takes_room_from_the_text(qapp):
    theme = Theme()
    alone = Prose(theme, [Paragraph(LONG, bold=True)])
    beside = Prose(theme, [Paragraph(LONG, bold=True, beside="breaks the limit", beside_ink="breaks_text")])
    assert beside.heightForWidth(240) > alone.heightForWidth(240)
    assert beside.accessibleName() == f"{LONG} breaks the limit"
