"""From nothing: the Brief lists what is still to be known, and each press of what fills it makes the list shorter."""

import edits
from wired_union.catalogue.parts import part
from wired_union.project.fresh import new_project
from wired_union.ui.findings import FindingCard

from .hands import click


def cards(view):
    return list(view.findChildren(FindingCard))


def test_the_list_of_gaps_empties(open_window, qtbot):
    window = open_window(demo="")
    project = edits.add_item(new_project("Probe"), "feed", part("pack-4s-6-ah-lifepo4")).after
    project = edits.add_item(project, "sense", part("imu-6-axis")).after
    window.hold(project, None, saved=False, sentence="a pack and a sensor")
    window.go("brief")
    view = window.views["brief"]
    before = [f for f in window.store.assessment.findings if f.is_gap]
    assert [f.what for f in before] == ["IMU 6-axis: what feeds it."]
    card = cards(view)[0]
    qtbot.waitUntil(
        lambda: any(b.isVisibleTo(card) and ", fed from" in b.text().replace("\n", " ") for b in card.remedies)
    )
    click(card.remedies[0])
    assert not [f for f in window.store.assessment.findings if f.is_gap]
    qtbot.waitUntil(lambda: cards(view) == [])
    assert window.store.assessment.measure("runtime").verdict == "holds"
    window.undo()
    qtbot.waitUntil(lambda: len(cards(view)) == 1)
