"""Money: the ledger against adding up by hand, its laws, what one costs counted out one by one, sheets in and out."""

import io
import math

import openpyxl
import pytest
from hypothesis import given
from hypothesis import strategies as st

import edits as part_edits
from wired_union.catalogue.demo import demo
from wired_union.choose.combination import as_sums
from wired_union.kernel.results import Verdict
from wired_union.physics.prices import break_even, price_with_margin
from wired_union.picture.shapes import Kit, Text
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.model import Project
from wired_union.project.money_model import MONEY_STATES, Made, MakeWay, Making, PriceBreak, Purchase, Rate, UnitPart
from wired_union.subjects import assess
from wired_union.subjects.ledger import edits
from wired_union.subjects.ledger.book import pages
from wired_union.subjects.ledger.making import assess_making
from wired_union.subjects.ledger.picture import money_picture, unit_picture, ways_picture
from wired_union.subjects.ledger.read_purchases import read_purchases, take_purchases
from wired_union.subjects.ledger.shown import broken_words, donors, exact, upgrade_rows
from wired_union.subjects.mass.gives import MONEY
from wired_union.subjects.mass.money import uncovered
from wired_union.subjects.plan.out import plan_book


@pytest.fixture(scope="module")
def rover() -> Project:
    return demo()


def bare(project: Project) -> Project:
    return project.but(ledger=(), rates=(), upgrades=())


def money(project: Project):
    return assess(project).of(MONEY)


def test_the_ledger_of_the_demo_by_hand(rover):
    """Paid 24 + 46 + 19; here 9; bought without a line 88 + 26 + 56 + 58; the rest is to come."""
    found = money(rover)
    assert found.by_state["paid"] == 89.0
    assert found.by_state["ordered"] + found.by_state["arrived"] == 9.0
    assert found.by_origin["bought"] == 228.0
    assert found.total == money(bare(rover)).total  # each line stands for its parts, and is not counted twice
    assert found.gifts == pytest.approx(62.0 + 2.0 + 14.0 + 1.1 + 8.0 + 9.0 + 4.0)  # probe, spare, what was there
    assert found.spread == pytest.approx(sum(
        i.part.price * i.count * {"guess": 0.2, "estimate": 0.1, "datasheet": 0.05, "measured": 0.0}[i.knowledge]
        for i in rover.concept.items if i.origin == "to buy" and i.id != "gnss"))  # fmt: skip


LINES = st.lists(st.builds(
    Purchase, id=st.uuids().map(str), name=st.just("x"), state=st.sampled_from(MONEY_STATES),
    amount=st.floats(0, 1e6), currency=st.sampled_from(["", "£", "EUR"]), count=st.integers(1, 9),
    returned=st.none() | st.just(0.0), part=st.sampled_from(["", "Gearmotor 25 mm 12 V 100:1", "no part"])), max_size=6)  # fmt: skip


@given(LINES)
def test_the_sum_of_the_states_is_the_total(lines):
    project = demo().but(ledger=tuple(lines), rates=(Rate(currency="EUR", rate=0.5),))
    found = money(project)
    settled = sum(v for s, v in found.by_state.items() if s not in {"donated", "owned"})
    assert found.total == pytest.approx(settled + found.by_origin["to buy"] + found.by_origin["bought"])
    assert found.total == pytest.approx(found.spent + found.to_come + found.by_state["refunded"])
    assert found.missing == ()
    summed = assess(uncovered(project)).of(MONEY)
    assert summed.total == pytest.approx(found.total)  # what the search adds up is the same


def test_refunds_gifts_and_other_currencies(rover):
    project = edits.add_purchase(bare(rover), "Wheels", amount=40.0, state="paid").after
    assert money(project).total == money(bare(rover)).total + 40.0
    back = edits.set_purchase(project, "wheels", returned=30.0).after
    assert money(back).total == money(bare(rover)).total + 10.0
    all_back = edits.set_purchase(project, "wheels", state="refunded").after
    assert money(all_back).total == money(bare(rover)).total
    gift = edits.set_purchase(project, "wheels", state="donated", giver="a friend of mud").after
    assert money(gift).total == money(bare(rover)).total
    assert donors(gift) == ("a friend of mud",)
    abroad = edits.set_purchase(project, "wheels", currency="EUR").after
    assert assess(abroad).measure("money").verdict is not Verdict.HOLDS
    assert "1 EUR is in £" in money(abroad).missing[0]
    rated = edits.set_rate(abroad, "EUR", 0.86).after
    assert money(rated).total == pytest.approx(money(bare(rover)).total + 34.4)
    unknown = edits.add_purchase(bare(rover), "Postage").after
    assert money(unknown).missing == ("Postage: what it costs",)
    assert assess(unknown).measure("money").verdict is Verdict.UNKNOWN


def test_a_line_stands_for_its_part_until_that_is_swapped(rover):
    """A swap leaves what was paid, and adds what the new one costs."""
    rover = edits.buy_item(rover, "battery", "2026-11-13").after
    rover = edits.buy_item(rover, "gearmotor", "2026-11-24").after
    before = money(rover).total
    assert before == money(demo()).total
    swapped = part_edits.swap_part(rover, "battery", next(
        c for c in __import__("wired_union.catalogue.parts", fromlist=["x"]).catalogue() if c.id == "pack-4s-8-ah-lifepo4")).after  # fmt: skip
    assert money(swapped).total == pytest.approx(before + 82.0)
    assert any(f.check == "ledger-part" for f in assess(part_edits.remove_item(
        rover.but(concepts=rover.concepts[:1]), "battery").after).findings)  # fmt: skip
    fewer = edits.set_purchase(rover, rover.ledger[-1].id, count=3).after
    assert money(fewer).total == pytest.approx(before + 22.0)  # the fourth still costs its price
    sums = as_sums(assess(fewer))
    assert sums.measure("money").value == pytest.approx(before + 22.0)
    made = edits.buy_item(bare(rover), "gnss", "2026-11-25").after
    assert (made.ledger[0].part, made.ledger[0].amount, made.ledger[0].state) == (
        rover.concept.items[10].part.name,
        24.0,
        "ordered",
    )
    assert money(made).total == money(bare(rover)).total


def test_what_one_costs_counted_out_one_by_one(rover):
    """Hours by Wright summed, prices by their breaks, tools by their lives: in plain Python."""
    making = rover.concept.making
    found = assess_making(rover.concept)
    for n in (1, 7, 12, 13, 40, 51, 500, 1001):
        hours = math.fsum(making.labour_h * k ** math.log2(making.learning) for k in range(1, n + 1)) / n
        total = hours * making.wage + making.fixed / n
        for item in rover.concept.items:
            if item.id in {"deck", "box"}:
                continue
            breaks = next((p.breaks for p in making.parts if p.item == item.id), ())
            price = [
                item.part.price,
                *(b.price for b in sorted(breaks, key=lambda b: b.least) if b.least <= n * item.count),
            ][-1]
            total += price * item.count
        for made in making.made:
            total += min(
                (w.tool * (math.ceil(n / w.tool_lasts) if w.tool_lasts else 1) + w.each * n) / n for w in made.ways
            )
        assert found.unit_at(n) == pytest.approx(total), n
    assert found.price == pytest.approx(price_with_margin(found.unit_at(40), 0.25).price_on_price)
    first = next(n for n in range(1, 1000) if found.price * n >= found.unit_at(n) * n)
    assert found.pays_from == first
    assert assess(rover).measure("break-even").value == first
    assert assess(rover).measure("unit-cost").value == pytest.approx(found.unit_at(40))


@given(st.lists(st.tuples(st.integers(0, 5000), st.integers(0, 40)), min_size=2, max_size=2, unique=True))
def test_break_even_of_two_ways_is_that_of_the_formula(pairs):
    ways = tuple(
        MakeWay(process=p, tool=float(t), each=float(e)) for p, (t, e) in zip(("cut", "mill"), pairs, strict=True)
    )
    concept = with_concept(demo(), making=Making(made=(Made(id="x", name="x", ways=ways),))).concept
    made = assess_making(concept).made[0]
    a, b = made.ways
    exact_n = break_even(a.tool, a.each, b.tool, b.each).quantity
    begins = made.cheapest_from[1]
    if exact_n is not None and exact_n <= 100_000:
        assert begins == max(exact_n, 1)
    else:
        assert begins is None


def test_a_missing_figure_makes_the_unit_cost_unknown(rover):
    for change, words in (
        ({"quantity": None}, "how many are made"), ({"labour_h": None}, "hours that the first takes"), ({"wage": None}, "hour costs"),
    ):  # fmt: skip
        seen = assess(edits.set_making(rover, **change).after)
        assert any(words in m for m in seen.measure("unit-cost").missing)
        assert any(f.check == "making-gap" for f in seen.findings)
    assert "unit-cost" not in assess(with_concept(rover, making=Making())).all_measures
    dear = assess(edits.set_making(rover, price=100.0).after)
    assert next(f for f in dear.findings if f.check == "price").verdict is Verdict.BREAKS
    assert dear.measure("break-even").value == float("inf")
    assert any(f.check == "rival" for f in assess(rover).findings)


def test_edits_of_money_refuse_what_makes_no_sense(rover):
    for edit, words in [
        (lambda: edits.set_purchase(rover, "buck", returned=900.0), "more came back"),
        (lambda: edits.set_purchase(rover, "buck", amount=-1.0), "0 or more"),
        (lambda: edits.set_purchase(rover, "buck", on="soon"), "no day"),
        (lambda: edits.set_purchase(rover, "nothing", amount=1.0), "no line"),
        (lambda: edits.set_rate(rover, "£", 2.0), "needs no rate"),
        (lambda: edits.set_making(rover, margin=1.0), "below 100"),
        (lambda: edits.set_breaks(rover, "gearmotor", "ten: 3"), "not a number"),
        (lambda: edits.set_breaks(rover, "gearmotor", "1.5: 3"), "whole number"),
        (lambda: edits.add_way(rover, "deck", "knit; 1; 2"), "Write it like"),
        (lambda: edits.set_kit(rover, "case 30"), "a colon"),
        (lambda: edits.buy_item(rover, "nothing", ""), "no part"),
    ]:
        with pytest.raises(ProjectError, match=words):
            edit()
    changed = edits.set_breaks(rover, "gearmotor", "10: 20; 100: £17.50").after
    assert next(p for p in changed.concept.making.parts if p.item == "gearmotor").breaks == (
        PriceBreak(least=10, price=20.0), PriceBreak(least=100, price=17.5))  # fmt: skip
    assert edits.breaks_text(UnitPart(item="x", breaks=(PriceBreak(least=10, price=20.5),))) == "10: 20.5"
    assert (
        edits.add_way(rover, "deck", "mould, long tool; 9000; 0.80; 50000")
        .after.concept.making.made[0]
        .ways[-1]
        .tool_lasts
        == 50_000
    )
    assert edits.set_rivals(rover, "a boat: 900").after.concept.making.rivals[0].price == 900.0
    assert part_edits.remove_item(rover, "deck").after.concept.making.made[0].item == ""
    assert upgrade_rows(edits.add_upgrade(rover, "Free wheel", points=5.0, cost=0.0).after)[0][0] == "Free wheel"


def test_purchases_from_a_sheet_and_back(rover):
    text = ("what,state,amount,on,receipt,colour\nGlue,paid,£4.20,2026-11-20,R-2,red\nTape,lost,3,,,\nWire,paid,many,,,\n"
            "Paint,ordered,€6.50,,,\nSaw,paid,4,soon,,\n,paid,3,,,\nBolt,refunded,5,,,\n")  # fmt: skip
    read = read_purchases(rover, text)
    assert read.left_out == ("colour",)
    assert [r.name for r in read.rows if not r.wrong] == ["Glue", "Paint", "Bolt"]
    assert read.good[1].currency == "€"
    wrong = {r.name: " ".join(r.wrong) for r in read.rows}
    assert "no state" in wrong["Tape"]
    assert "not a number" in wrong["Wire"]
    assert "no day" in wrong["Saw"]
    taken = take_purchases(rover, read).after
    assert len(taken.ledger) == len(rover.ledger) + 3
    seen = assess(rover).on("2026-11-25")
    book = openpyxl.load_workbook(io.BytesIO(plan_book(seen, pages(seen))))
    rows = list(book["Ledger"].iter_rows(values_only=True))
    assert rows[1][:5] == ("Deck plate", "paid", 24.0, "£", 1.0)
    back = "\n".join("\t".join("" if c is None else str(c) for c in r) for r in rows)
    again = read_purchases(bare(rover), back)
    assert not any(r.wrong for r in again.rows)
    kept = ("name", "state", "amount", "count", "on", "by", "giver", "receipt", "budget_line", "part", "spare")
    assert [tuple(getattr(p, k) for k in kept) for p in again.good] == [
        tuple(getattr(p, k) for k in kept) for p in rover.ledger
    ]
    with pytest.raises(ProjectError, match="No column is called what"):
        read_purchases(rover, "colour\nred")


def test_words_and_pictures(rover):
    assert (exact(1234.5, "£"), exact(12.0, "EUR"), exact(None, "£")) == ("£1,234.50", "12.00\u202fEUR", "not said")
    lost = dict(broken_words(rover))
    assert lost["Gearmotor 25 mm 12 V 100:1"] == 10.0
    assert not any(name.startswith("Limit switch") for name in lost)  # a spare lies ready
    kit = Kit()
    bar = money_picture(money(rover), 550.0, rover, kit, 800.0)
    assert {r.id for r in bar.regions} == {"paid", "ordered or here", "bought, no line", "to come", "spread"}
    widths = {r.id: r.w for r in bar.regions}
    assert widths["paid"] / widths["to come"] == pytest.approx(89.0 / 196.0)
    said = [s.text for s in unit_picture(assess_making(rover.concept), rover, kit, 800.0).shapes if isinstance(s, Text)]
    assert any(t.startswith("pays from 8") for t in said)
    ways = [
        s.text
        for s in ways_picture(assess_making(rover.concept).made[0], 40, rover, kit, 800.0).shapes
        if isinstance(s, Text)
    ]
    assert {"cut", "mill", "stamp, long tool"} <= set(ways)
