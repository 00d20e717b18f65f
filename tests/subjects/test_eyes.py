"""Cameras in whole projects: their pictures' age in chains, the pixel at the target, remedies that keep what they say."""

import pytest

from builders import a_chain, a_project
from wired_union.kernel.results import Verdict
from wired_union.project.timing_model import Eye, PictureStage
from wired_union.subjects import assess
from wired_union.subjects.timing.assess import TIMING
from wired_union.subjects.timing.eyes import EYES, eye_words
from wired_union.subjects.timing.remedies import cheaper_pictures


def seeing(**figures):
    """A camera of 100 × 100 pixels, a million operations a second, 10 pictures a second at most."""
    eye = Eye(id="eye", name="Eye", pixels_wide=100, pixels_high=100, rate_hz=10.0,
              **{"operations_hz": 1e6, "exposure_s": 0.01, "transfer_s": 0.02, **figures})  # fmt: skip
    project = a_project()
    chain = a_chain(PictureStage(name="looks", eye="eye"))
    return project.but(concepts=(project.concept.but(eyes=(eye,), chains=(chain,)),))


def of(project):
    (found,) = assess(project).of(EYES)
    return found


def test_a_picture_takes_its_pixels_times_the_work_of_each_and_the_next_waits_for_the_camera():
    # worked by hand: 10 000 pixels · 30 operations / 1e6 = 0.3 s; with 0.03 s before it, done at 0.33 s, next at 0.4 s
    found = of(seeing())
    assert found.pictures.each_s == pytest.approx(0.3)
    assert found.pictures.per_s == pytest.approx(2.5)
    assert found.pictures.oldest_s == pytest.approx(0.73)
    assert found.verdict is Verdict.TIGHT


def test_what_was_measured_counts_instead_and_the_words_say_so():
    found = of(seeing(frame_s=0.05))
    assert found.pictures.each_s == pytest.approx(0.05)
    assert found.verdict is Verdict.HOLDS
    assert "measured" in eye_words(found)
    assert "estimated" in eye_words(of(seeing()))


def test_nobody_says_how_far_then_nothing_is_said_of_a_pixel():
    assert of(seeing()).pixel is None
    # a quarter turn sees 2 m at 1 m (2·tan 45°), over 100 pixels 20 mm each
    assert of(seeing(distance_m=1.0, wide_deg=90.0)).pixel.pixel_m == pytest.approx(0.02)


def test_no_region_is_less_than_a_pixel():
    found = of(seeing(region=5e-324, frame_s=0.05))
    assert found.pictures.each_s == pytest.approx(0.05)


@pytest.mark.parametrize("figures", [{}, {"frame_s": 0.3}, {"looks_for": "edges and shapes"}])
def test_each_remedy_saves_the_age_that_it_says(figures):
    project = seeing(**figures)
    before = of(project).pictures.oldest_s
    found = cheaper_pictures(project, "eye")
    assert len(found) >= 3
    for saved, remedy in found:
        after = of(remedy.change.after).pictures.oldest_s
        assert before - after == pytest.approx(saved)
        assert saved > 0


def test_a_chain_waits_for_the_oldest_picture():
    (chain,) = assess(seeing()).of(TIMING).chains
    assert chain.latency.most_s == pytest.approx(0.73)
    assert chain.latency.least_s == pytest.approx(0.33)
