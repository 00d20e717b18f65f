"""Mass with allowances, money by origin, chains end to end; the assessment that joins them."""

import pytest

import edits
from builders import (
    Actuator,
    Debounce,
    Event,
    Sampled,
    Transfer,
    a_chain,
    a_limit,
    a_load,
    a_pack,
    a_part,
    a_project,
    an_item,
)
from wired_union.catalogue.parts import part
from wired_union.kernel.differences import differences
from wired_union.kernel.results import Measure, Verdict, share_verdict, worst
from wired_union.kernel.ripple import compare, ripple
from wired_union.project.change import with_brief
from wired_union.project.fresh import new_project
from wired_union.subjects import assess, subjects
from wired_union.subjects.brief.steps import first_steps
from wired_union.subjects.mass.gives import MASS, MONEY
from wired_union.subjects.power.gives import POWER
from wired_union.subjects.timing.gives_times import TIMING


def plain(text: str) -> str:
    return text.replace("\u202f", " ")


def test_allowance_follows_knowledge():
    """ESA margin philosophy, from memory: measured 0, datasheet 5, estimate 10, guess 20 %."""
    levels = ("measured", "datasheet", "estimate", "guess")
    project = a_project(*(an_item(a_part(k, mass_kg=1.0), knowledge=k) for k in levels), mass_margin=0.1)
    mass = assess(project).of(MASS)
    assert mass.known_kg == pytest.approx(4.0)
    assert mass.allowance_kg == pytest.approx(0.35)
    assert mass.total_kg == pytest.approx(4.35 * 1.1)
    assert [x.item.id for x in mass.lines()] == ["guess", "estimate", "datasheet", "measured"]


def test_mass_over_the_limit_names_the_heaviest_and_by_how_much():
    project = a_project(an_item(a_part("anvil", mass_kg=3.0), 2, knowledge="measured"), a_part("feather", mass_kg=0.01),
                        limits=(a_limit("mass", 5.0),))  # fmt: skip
    found = next(f for f in assess(project).findings if f.id == "mass")
    assert found.verdict is Verdict.BREAKS
    assert plain(found.why).startswith("1.01 kg too much. Heaviest: anvil 6 kg")
    assert [r.label.replace("\u202f", " ") for r in found.remedies] == ["weigh feather: frees up to 500 mg"]


def test_an_unknown_mass_is_at_least_the_rest():
    project = a_project(a_part("deck", mass_kg=1.0), a_part("mast", mass_kg=None), limits=(a_limit("mass", 5.0),))
    measure = assess(project).measure("mass")
    assert measure.verdict is Verdict.UNKNOWN
    assert measure.missing == ("mast: its mass",)
    heavy = edits.set_limit(project, "mass", value=0.5).after
    assert assess(heavy).measure("mass").verdict is Verdict.BREAKS


def test_money_counts_what_is_bought_and_to_buy():
    origins = ("to buy", "bought", "owned", "donated", "refunded")
    project = a_project(*(an_item(a_part(o, price=10.0), 2, origin=o) for o in origins))
    money = assess(project).of(MONEY)
    assert money.total == 40.0
    assert money.by_origin["donated"] == 20.0


def test_an_unknown_price_is_missing_unless_it_costs_nothing():
    project = a_project(a_part("cable", price=None), an_item(a_part("gift", price=None), origin="donated"))
    assert assess(project).of(MONEY).missing == ("cable: its price",)


def test_a_project_without_parts_holds_nothing():
    found = assess(new_project("Mole"))
    assert found.measure("mass").verdict is Verdict.UNKNOWN
    assert found.measure("money").missing == ("any part at all",)


CHAIN = a_chain(
    Event(name="bumper closes", least_s=0.004, most_s=0.006),
    Debounce(name="debounce", least_s=0.02, most_s=0.02),
    Sampled(name="poll", period_s=0.05, response_s=0.002),
    Transfer(name="message", bus="uart", bytes=12, clock_hz=9600),
    Actuator(name="coasts", least_s=0.01, most_s=0.03),
)


def test_a_chain_sums_its_stages():
    """Davare et al. 2007: worst 6 + 20 + (50 + 2) + 12.5 + 30 ms."""
    result = assess(a_project(chains=(CHAIN,))).of(TIMING).chains[0]
    assert result.latency.most_s == pytest.approx(0.1205)
    assert result.latency.least_s == pytest.approx(0.004 + 0.02 + 0.002 + 0.0125 + 0.01)
    assert result.latency.typical_s == pytest.approx((result.latency.most_s + result.latency.least_s) / 2)
    assert [b.start_s for b in result.bars] == pytest.approx([0, 0.006, 0.026, 0.078, 0.0905])
    assert result.bars[result.costliest].name == "poll"


def test_the_costliest_stage_is_named_and_each_remedy_helps():
    project = a_project(chains=(CHAIN,), limits=(a_limit("chain:bump", 0.1),))
    before = assess(project)
    found = next(f for f in before.findings if f.measure == "chain:bump")
    assert found.verdict is Verdict.BREAKS
    assert "“poll” costs most: up to 52 ms" in plain(found.why)
    labels = [plain(r.label) for r in found.remedies]
    assert labels == ["interrupt instead of polling “poll”", "poll “poll” every 25 ms", "run “message” at 38400 baud"]
    for remedy in found.remedies:
        assert assess(remedy.change.after).measure("chain:bump").value < before.measure("chain:bump").value


def test_a_chain_without_stages_is_unknown():
    assert assess(a_project(chains=(a_chain(),))).measure("chain:bump").verdict is Verdict.UNKNOWN


@pytest.mark.parametrize(
    ("value", "limit", "direction", "verdict", "use"),
    [
        (4.3, 5.0, "at least", Verdict.BREAKS, 5 / 4.3),
        (5.2, 5.0, "at least", Verdict.TIGHT, 5 / 5.2),
        (8.0, 5.0, "at least", Verdict.HOLDS, 5 / 8),
        (0.0, 5.0, "at least", Verdict.BREAKS, float("inf")),
        (5.0, 5.0, "at most", Verdict.TIGHT, 1.0),
        (4.5, 5.0, "at most", Verdict.HOLDS, 0.9),
        (5.1, 5.0, "at most", Verdict.BREAKS, 1.02),
        (None, 5.0, "at most", Verdict.UNKNOWN, None),
        (5.0, None, "at most", Verdict.UNKNOWN, None),
    ],
)
def test_verdicts(value, limit, direction, verdict, use):
    measure = Measure("m", "M", value, "V", limit, direction)
    assert measure.verdict is verdict
    assert measure.use == pytest.approx(use) if use is not None else measure.use is None


def test_ratings_keep_twenty_per_cent_and_the_worst_comes_first():
    assert [share_verdict(x) for x in (0.5, 0.81, 1.01, None)] == [
        Verdict.HOLDS, Verdict.TIGHT, Verdict.BREAKS, Verdict.UNKNOWN
    ]  # fmt: skip
    assert worst([Verdict.HOLDS, Verdict.UNKNOWN, Verdict.TIGHT]) is Verdict.TIGHT
    assert worst([]) is None


def test_a_discipline_whose_inputs_are_the_same_is_used_again(mudlark, mudlark_assessed):
    after = assess(edits.set_stage(mudlark, "bump-to-stop", 0, most_s=0.01).after, mudlark_assessed)
    assert after.of(POWER) is mudlark_assessed.of(POWER)
    assert after.of(MASS) is mudlark_assessed.of(MASS)
    assert after.of(TIMING) is not mudlark_assessed.of(TIMING)
    fewer = assess(edits.set_count(mudlark, "gearmotor", 2).after, mudlark_assessed)
    assert fewer.of(TIMING) is mudlark_assessed.of(TIMING)
    assert fewer.of(POWER) is not mudlark_assessed.of(POWER)


def test_reuse_gives_the_same_answer_as_starting_afresh(mudlark, mudlark_assessed):
    changed = edits.set_count(mudlark, "battery", 2).after
    quick, fresh = assess(changed, mudlark_assessed), assess(changed)
    assert [(m.id, m.value) for m in quick.measures] == [(m.id, m.value) for m in fresh.measures]


def test_limits_that_nothing_informs_are_unknown_and_listed(mudlark_assessed):
    assert mudlark_assessed.uninformed == ()
    full = a_limit("charge-cycles", 1.0, "at least")
    brief = mudlark_assessed.project.brief
    later = assess(with_brief(mudlark_assessed.project, limits=(*brief.limits, full)))
    assert later.uninformed == ("charge-cycles",)
    assert later.measure("charge-cycles").verdict is Verdict.UNKNOWN


def test_the_demo_is_worth_looking_at(mudlark_assessed):
    verdicts = {m.id: m.verdict for m in mudlark_assessed.measures}
    assert verdicts["runtime"] is Verdict.BREAKS
    assert verdicts["mass"] is Verdict.TIGHT
    assert verdicts["peak-current"] is Verdict.TIGHT
    assert verdicts["chain:bump-to-stop"] is Verdict.HOLDS
    stages = {s.id: mudlark_assessed.stage_verdict(s) for s in subjects()}
    assert stages["power"] is Verdict.BREAKS
    assert stages["timing"] is Verdict.TIGHT  # the receiver's two sentences nearly fill their line
    assert stages["concepts"] is None
    assert mudlark_assessed.explainer("money").id == "mass"


def test_ripple_says_what_moved(mudlark, mudlark_assessed):
    swap = edits.swap_part(mudlark, "battery", part("pack-4s-8-ah-lifepo4"))
    result = ripple(mudlark_assessed, swap)
    moved = {m.id: m for m in result.moved}
    assert set(moved) == {"runtime", "lowest-voltage", "peak-current", "mass", "money", "tip-angle", "speed:drive"}
    assert moved["runtime"].better
    assert not moved["mass"].better
    assert moved["money"].change == pytest.approx(24.0)
    assert "now holds" in result.shown
    assert plain(moved["mass"].shown) == "Mass +260 g"  # the old pack was weighed, the new one is from a datasheet
    assert compare(mudlark_assessed, mudlark_assessed, "nothing").shown == "no limit moved"


def test_differences_in_words(mudlark):
    after = edits.swap_part(mudlark, "battery", part("pack-4s-8-ah-lifepo4")).after
    after = edits.set_count(after, "gearmotor", 2).after
    after = edits.remove_item(after, "mast").after
    after = edits.set_limit(after, "mass", value=9.0).after
    assert differences(mudlark, after) == [
        "Gearmotor 25 mm 12 V 100:1: 2 instead of 4", "Pack 4S 8 Ah LiFePO₄ instead of Pack 4S 6 Ah LiFePO₄",
        "Pack 4S 8 Ah LiFePO₄: origin to buy instead of bought", "Probe mast left out",
        "beam Mast: item nothing instead of Probe mast", "part Probe mast left out", "limit “Two can lift it”: 8.5 becomes 9",
    ]  # fmt: skip
    assert differences(mudlark, mudlark) == []


def test_cautions_follow_the_parts(mudlark):
    said = {c.title: c for c in assess(mudlark).cautions}
    assert set(said) == {"Lithium pack", "Moving parts", "Radio", "Cables that you make", "What is searched here"}
    assert all("Your local rules and a licensed practitioner come first" in c.text for c in said.values())
    spring = a_project(a_part("spring", "spring", stored_energy_j=16.0), a_pack(chemistry="nimh", series=10))
    assert {c.title for c in assess(spring).cautions} == {"Stored energy", "Pack"}


def test_first_steps_lead_from_nothing_to_figures():
    project = new_project("Mole")
    steps = [s.text for s in first_steps(project, assess(project))]
    assert steps[0] == "add what the machine does: a motor, a sensor, a controller"
    project = edits.add_item(project, "feed", a_pack()).after
    project = edits.add_item(project, "move", a_load()).after
    assert "connect each part to what feeds it" in [s.text for s in first_steps(project, assess(project))]
    project = edits.feed_from(project, "load", "pack").after
    project = edits.set_use(project, "work", "load", "active").after
    project = edits.add_chain(project, "Stop").after
    assert first_steps(project, assess(project)) == []
