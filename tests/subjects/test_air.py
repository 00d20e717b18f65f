"""Radio links in whole projects: budgets by hand, gaps, remedies that help, chains through the air."""

import math

import pytest

from builders import a_chain, a_limit, a_project
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import outcome, ripple
from wired_union.physics.radio import lora_airtime
from wired_union.project.air_model import RadioLink
from wired_union.project.timing_model import AirStage
from wired_union.subjects import assess
from wired_union.subjects.timing.air import AIR
from wired_union.subjects.timing.edits_shared import remove_link, set_link

KNOWN = {"distance_m": 1000.0, "own_height_m": 1.0, "far_height_m": 2.0, "return_loss_db": 10.0}


def linked(*limits, **figures):
    link = RadioLink(id="it", name="It", **{**KNOWN, "spreading_factor": 9, **figures})
    project = a_project(limits=limits)
    stages = (AirStage(name="packet", link="it"),)
    concept = project.concept.but(radio_links=(link,), chains=(a_chain(*stages),))
    return project.but(concepts=(concept,))


def of(project):
    (found,) = assess(project).of(AIR)
    return found


def helps(project, check):
    """What is offered for a finding, with whether it helps."""
    assessed = assess(project)
    finding = next(f for f in assessed.findings if f.check == check)
    return {r.label.replace("\u202f", " "): outcome(assessed, ripple(assessed, r.change), finding).helps
            for r in finding.remedies}  # fmt: skip


def test_a_link_over_flat_ground_by_hand():
    """14 dBm, 0.458 dB of mismatch, 40·log 1000 − 20·log 2 = 114.0 dB; SF9 reads down to −129.5 dBm."""
    found = of(linked())
    assert found.loss_db == pytest.approx(120 - 20 * math.log10(2))
    received = 14 - 0.458 - found.loss_db
    assert found.budget.received_dbm == pytest.approx(received, abs=1e-3)
    assert found.sensitivity_dbm == pytest.approx(-174 + 10 * math.log10(125e3) + 6 - 12.5)
    assert found.spare_db == pytest.approx(received - found.sensitivity_dbm, abs=1e-3)
    assert found.ends_m == pytest.approx(1000 * 10 ** (found.spare_db / 40), rel=1e-3)  # 40 dB for ten times as far
    assert found.verdict is Verdict.HOLDS
    assert of(linked(walls_db=25.0)).spare_db == pytest.approx(found.spare_db - 25)
    assert of(linked(edge_m=0.0)).spare_db == pytest.approx(found.spare_db - 6.0, abs=0.1)


@pytest.mark.parametrize(("figures", "verdict"), [({"distance_m": 8000.0}, Verdict.BREAKS),
                                                  ({"distance_m": 4000.0}, Verdict.TIGHT)])  # fmt: skip
def test_what_is_too_far_or_nearly_so_is_said_and_remedies_help(figures, verdict):
    project = linked(**figures, return_loss_db=3.0)
    assert of(project).verdict is verdict
    does = helps(project, "link")
    assert does
    assert all(does.values()), does
    assert any("spreading factor 10" in label for label in does)
    assert any("matched" in label for label in does)


@pytest.mark.parametrize("lost", [*KNOWN])
def test_what_nobody_says_leaves_it_unknown(lost):
    found = of(linked(**{lost: None}))
    assert (found.verdict, found.spare_db, len(found.missing)) == (Verdict.UNKNOWN, None, 1)
    assert of(linked(modulation="plain")).missing == ("It: the weakest signal that it reads",)


def test_the_share_of_the_hour_and_who_is_talked_over():
    """SF12 with 51 bytes every minute: 2.466 s of 60; thirty alike lose 1 − e^(−2·29·0.0411)."""
    project = linked(spreading_factor=12, payload_bytes=51, nodes=30)
    found = of(project)
    assert found.airtime_s == pytest.approx(2.4658, abs=1e-4)
    assert assess(project).measure("air").value == pytest.approx(2.4658 / 60, abs=1e-5)
    assert found.arrives == pytest.approx(math.exp(-2 * 29 * found.hour_share))
    assert all(helps(project, "air-time").values())
    assert helps(project, "talked-over")["all begin in common slots"]
    never = linked(spreading_factor=12, payload_bytes=51, every_s=2.0)
    assert any(f.title == "It never gets round" and f.verdict is Verdict.BREAKS for f in assess(never).findings)
    shorter = set_link(project, value_id="it", payload_bytes=12).after
    assert assess(shorter).measure("air").value < assess(project).measure("air").value


def test_limits_on_air_and_margin_are_findings():
    project = linked(a_limit("air", 0.001), a_limit("link-margin:it", 40.0, "at least"))
    checks = {f.check: f.verdict for f in assess(project).findings}
    assert checks["air"] is Verdict.BREAKS
    assert checks["link-margin"] is Verdict.BREAKS


def test_a_packet_is_a_stage_with_all_its_hops():
    project = linked(hops=3, every_s=30.0)
    once = lora_airtime(9, 125e3, 20).airtime_s
    chain = assess(project).measure("chain:bump")
    assert (chain.low, chain.value) == (pytest.approx(3 * once), pytest.approx(30.0 + 3 * once))
    gone = remove_link(project, value_id="it").after
    assert assess(gone).measure("chain:bump").missing == ("packet: which radio link it is",)
