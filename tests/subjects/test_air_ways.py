"""More ways through the air in whole projects: passed on, stood in for, carried by others, heard, and what it costs."""

import math

import pytest

import edits
from builders import a_chain, a_project
from wired_union.kernel.results import Verdict
from wired_union.kernel.ripple import offered
from wired_union.project.air_model import Heard, RadioLink
from wired_union.project.errors import ProjectError
from wired_union.project.timing_model import AirStage
from wired_union.subjects import assess
from wired_union.subjects.power.gives import POWER
from wired_union.subjects.timing.air import AIR, airtime_s, snr_at
from wired_union.subjects.timing.assess import TIMING
from wired_union.subjects.timing.edits_shared import set_link
from wired_union.subjects.timing.files_air import heard_of, links_csv, packet_log_words, read_packet_log
from wired_union.subjects.timing.picture_air import clearance_words, energy_words, link_words

KNOWN = {"distance_m": 1000.0, "own_height_m": 1.0, "far_height_m": 2.0, "return_loss_db": 10.0,
         "spreading_factor": 9, "payload_bytes": 20}  # fmt: skip


def linked(*links):
    project = a_project()
    made = tuple(RadioLink(id=f"r{n}", name=f"Link {n}", **{**KNOWN, **figures}) for n, figures in enumerate(links))
    chain = a_chain(AirStage(name="packet", link="r0", starts="at once"))
    return project.but(concepts=(project.concept.but(radio_links=made, chains=(chain,)),))


def of(*links):
    return assess(linked(*links)).of(AIR)


def test_hop_by_hop_and_flooding_by_hand():
    (one,) = of({})
    time = one.airtime_s
    (hops,) = of({"hops": 3, "wait_s": 0.2})
    assert hops.takes_s == pytest.approx((3 * time, 3 * time + 0.4))
    assert hops.channel_share == pytest.approx(3 * time / 60)
    (flood,) = of({"hops": 3, "wait_s": 0.2, "passing": "all that hear it", "relays": 5, "nodes": 4})
    assert flood.takes_s == hops.takes_s
    assert flood.channel_share == pytest.approx(6 * 4 * time / 60)  # each of 4 said, and passed on by 5
    assert flood.hour_share == pytest.approx(4 * time / 60)  # its own radio passes on what the three others say
    # three others, each on the air 6 times a minute: pure, and it has to get through three times
    assert flood.arrives == pytest.approx(math.exp(-2 * 3 * 6 * time / 60) ** 3)


def test_a_chain_waits_for_all_hops_and_for_a_network_of_others():
    def worst(**figures):
        (chain,) = assess(linked(figures)).of(TIMING).chains
        return chain.latency and (chain.latency.least_s, chain.latency.most_s)

    assert worst(hops=2, wait_s=1.0)[1] == pytest.approx(2 * airtime_s(RadioLink(id="x", name="x", **KNOWN)) + 1.0)
    foreign = {"modulation": "phone or satellite"}
    assert worst(**foreign) is None
    assert worst(**foreign, latency_least_s=0.6, latency_most_s=4.0) == (0.6, 4.0)
    assert worst(**foreign, latency_least_s=5.0, latency_most_s=4.0) is None


def test_a_network_of_others_has_no_margin_and_holds_by_its_time_alone():
    foreign = {"modulation": "phone or satellite", "latency_least_s": 0.6, "latency_most_s": 4.0}
    assessed = assess(linked(foreign))
    assert assessed.of(AIR)[0].verdict is Verdict.HOLDS
    assert assessed.measure("link-margin:r0").value is None
    assert assessed.measure("air").value == 0.0
    assert of({"modulation": "phone or satellite"})[0].verdict is Verdict.UNKNOWN


def test_one_of_two_links_is_enough_and_none_is_left_to_fail():
    weak = {"distance_m": 8000.0}
    alone = next(f for f in assess(linked(weak)).findings if f.check == "link")
    assert alone.verdict is Verdict.BREAKS
    both = assess(linked(weak, {"distance_m": 800.0, "instead_of": "r0"}))
    carried = next(f for f in both.findings if f.check == "link" and f.of == "r0")
    assert carried.verdict is Verdict.TIGHT
    assert "“Link 1” carries it" in carried.title
    assert both.measure("link-together:r0").value == pytest.approx(both.measure("link-margin:r1").value)
    neither = assess(linked(weak, {**weak, "instead_of": "r0"}))
    assert next(f for f in neither.findings if f.of == "r0" and f.check == "link").verdict is Verdict.BREAKS


def test_an_antenna_that_looks_elsewhere_loses_its_pattern():
    straight, off = of({"own_beam_deg": 60.0}, {"own_beam_deg": 60.0, "own_off_deg": 30.0})
    assert straight.spare_db - off.spare_db == pytest.approx(3.0)


def test_what_was_heard_says_what_stands_in_the_way_and_taking_it_agrees():
    link = RadioLink(id="r0", name="Link 0", **KNOWN)
    heard = tuple(Heard(distance_m=d, snr_db=snr_at(link, d) - 12 + e) for d, e in ((200, 1), (500, -1), (900, 0)))
    before = assess(linked({"heard": heard}))
    finding = next(f for f in before.findings if f.check == "heard")
    assert "12 dB weaker at 3 places" in finding.what
    ((remedy, _),) = offered(before, finding)
    after = assess(remedy.change.after)
    assert not [f for f in after.findings if f.check == "heard"]
    assert after.of(AIR)[0].spare_db == pytest.approx(before.of(AIR)[0].spare_db - 12, abs=0.1)


def test_a_shorter_packet_spares_the_battery(mudlark):
    """The radio at its peak just as long as it is on the air: twice as often takes twice the energy above its rest."""
    powered = set_link(mudlark, value_id="position-to-the-shore", powers=True).after
    often = set_link(powered, value_id="position-to-the-shore", every_s=1.0).after
    short = set_link(often, value_id="position-to-the-shore", payload_bytes=10).after
    runtimes = [assess(p).measure("runtime").value for p in (powered, often, short)]
    assert runtimes[1] < runtimes[0]
    assert runtimes[1] < runtimes[2] < runtimes[0]
    (link,) = assess(often).of(AIR)
    power = assess(often).of(POWER)
    assert power.missing == ()
    words = energy_words(often.concept, link)
    assert float(words.split("\u202f")[0]) == pytest.approx(0.118 * 3.3 * link.airtime_s * 1e3, rel=0.01)


def test_a_radio_whose_packet_has_no_size_makes_power_unknown(mudlark):
    empty = edits.add_packet(mudlark, name="Nothing yet").after
    packet = empty.concept.packets[-1].id
    lost = set_link(empty, value_id="position-to-the-shore", powers=True, packet=packet).after
    assessed = assess(lost)
    assert any("how long it is on the air" in m for m in assessed.measure("runtime").missing)
    assert assessed.measure("runtime").verdict is Verdict.BREAKS  # too short even if it never sent
    brief = lost.brief.but(
        limits=tuple(x.but(value=3600.0) if x.measure == "runtime" else x for x in lost.brief.limits)
    )
    assert assess(lost.but(brief=brief)).measure("runtime").verdict is Verdict.UNKNOWN


def test_link_budgets_as_a_table():
    rows = [line.split(",") for line in links_csv(of({}, {"distance_m": None})).splitlines()]
    table = dict(zip(rows[0], rows[1], strict=True))
    (found, _) = of({}, {"distance_m": None})
    assert float(table["margin_db"]) == pytest.approx(found.spare_db, rel=1e-5)
    assert float(table["power_dbm"]) - float(table["way_loss_db"]) - 0.458 == pytest.approx(
        float(table["received_dbm"]), abs=0.01
    )
    assert rows[2][rows[0].index("margin_db")] == ""


def test_a_log_of_packets_is_counted_and_laid_over():
    rows = ["time,number,snr,distance"] + [f"{60 * n},{n},{8 - n},{100 * (n + 1)}" for n in range(8) if n not in {3, 4}]
    log = read_packet_log("\n".join(rows), 60.0)
    assert log.lost == 2
    (result,) = of({})
    words = packet_log_words(result, log)
    assert "6 packets" in words
    assert "2 lost" in words
    assert "from 2\u202fmin on" in words
    assert len(heard_of(log)) == 6
    assert read_packet_log("time\n0\n60\n180\n240", 60.0).lost == 1


@pytest.mark.parametrize("text", ["", "a,b\n1,2", "time\n", "time,snr\nx,1", "time,snr\n,1"])
def test_a_log_that_is_none_is_refused_with_what_to_do(text):
    with pytest.raises(ProjectError):
        read_packet_log(text, 60.0)


def test_a_log_without_distances_has_nothing_to_lay_over():
    with pytest.raises(ProjectError, match="snr and distance"):
        heard_of(read_packet_log("time,snr\n0,5\n60,4", 60.0))


def test_what_stands_in_the_first_zone_is_told():
    """By hand: √(0.3454 · 500 · 500/1000) = 9.29 m at 868 MHz, of which 0.6 should be free."""
    (low,) = of({})
    assert clearance_words(low).startswith("Halfway 5.5")
    assert "the ground leaves 1.5" in clearance_words(low)
    (high,) = of({"own_height_m": 10.0, "far_height_m": 10.0})
    assert clearance_words(high) == ""
    (edge,) = of({"own_height_m": 10.0, "far_height_m": 10.0, "edge_m": 2.0})
    assert "the edge stands 2" in clearance_words(edge)


def test_words_of_every_way():
    for figures in (
        {},
        {"nodes": 3, "hops": 2},
        {"modulation": "phone or satellite", "latency_least_s": 1.0, "latency_most_s": 2.0},
    ):
        (found,) = of(figures)
        assert link_words(found)
