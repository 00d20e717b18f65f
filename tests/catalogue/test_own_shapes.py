"""Own parts of every shape that the catalogue has: nothing of them is known, and everything goes on."""

import pytest

import edits
from builders import a_load, a_pack, a_project
from wired_union.catalogue.own_shapes import OWN, SHAPES, own_part
from wired_union.catalogue.parts import FACETS, catalogue
from wired_union.kernel.results import Verdict
from wired_union.subjects import assess


def test_every_figure_that_the_catalogue_has_can_be_given_by_hand():
    given = {facet for _, facets in SHAPES.values() for facet in facets}
    assert given == set(FACETS)


def test_their_classes_are_the_catalogues():
    kinds = {p.kind for p in catalogue()}
    assert {kind for kind, _ in SHAPES.values()} - {OWN} <= kinds


@pytest.mark.parametrize("shape", SHAPES)
def test_a_project_with_one_goes_on_and_holds_nothing_for_it(shape):
    project = a_project(a_pack(), a_load(), feeds=(("pack", "load"),))
    project = edits.add_item(project, "all", own_part(shape, "our own thing")).after
    item = project.concept.items[-1]
    assert item.part.mass_kg is None
    found = assess(project)
    assert all(f.remedies is not None for f in found.findings)
    assert found.measure("mass").verdict is not Verdict.HOLDS
    if SHAPES[shape][1].keys() & {"load", "pack"}:  # what draws or gives is asked for what it lacks
        assert any(item.id in f.items or item.name in f.what for f in found.findings)
