"""Pins of whole projects: what the demos wire, what is kept, what clashes, what a second controller and an expander do."""

from pathlib import Path

import pytest

from builders import a_part
from wired_union.catalogue.demo import demo
from wired_union.catalogue.parts import part
from wired_union.catalogue.pin_tables import PinTableError, boards, does_of, lines_of, ports, read_pins, write_pins
from wired_union.project.change import with_concept
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text
from wired_union.project.model import Concept, Item, Link, Project, Subsystem
from wired_union.project.wiring_model import Board, Join, OwnLine, Pin, Port
from wired_union.subjects import assess
from wired_union.subjects.wiring import edits
from wired_union.subjects.wiring.pins import PINS, assess_pins
from wired_union.subjects.wiring.spare import asked_for, fits_words, how_many, still_fits, would_fit
from wired_union.subjects.wiring.wishes import Key, wishes_of
from wired_union.subjects.wiring.wishes import lines_of as signals_of


def a_board(*pins: str, name: str = "Brain", **figures) -> Item:
    """A controller; each pin is "A0: plain; interrupt 1", with "!" before the name where it must be high at start."""
    made = []
    for text in pins:
        pin, _, does = text.partition(":")
        made.append(Pin(name=pin.strip("!"), does=does_of(does), at_start="must be high" if pin[0] == "!" else "free"))
    link = Link(bus="digital", logic_v=3.3, logic_max_v=3.6)
    thing = a_part(name, "microcontroller", board=Board(pins=tuple(made), **figures), link=link)
    return Item(id=name.lower(), name=name, subsystem="s", part=thing)


def a_thing(name: str, *lines: str, count: int = 1, board: str = "", addresses=(), **link) -> Item:
    """A part that needs signals: "clock = I2C clock"."""
    port = Port(lines=lines_of("; ".join(lines)), addresses=addresses)
    thing = a_part(name, "gadget", port=port, link=Link(**{"logic_v": 3.3, **link}))
    return Item(id=name.lower(), name=name, subsystem="s", part=thing, count=count, board=board)


def a_concept(*items: Item, **figures) -> Project:
    concept = Concept(id="a", name="one", subsystems=(Subsystem(id="s", name="S"),), items=items, **figures)
    return Project(name="p", concepts=(concept,))


I2C = ("clock = I2C clock", "data = I2C data")


def test_the_demos_are_wired_and_their_pins_known():
    for name, used, of in (("mudlark", 28, 40), ("bat-counter", 13, 26)):
        assessment = assess(demo(name))
        pins = assessment.of(PINS)
        assert (pins.used, pins.pins, len(pins.free)) == (used, of, of - used)
        assert assessment.measure("pins").value == used
        assert assessment.measure("spare-pins").value == of - used
        assert not assessment.measure("pins").missing
        assert all(w.kept for w in pins.wired)


def test_every_pin_of_a_wired_demo_does_what_its_signal_needs():
    pins = assess(demo()).of(PINS)
    taken = {}
    for w in pins.wired:
        assert any(d[0] == w.wish.line.does and d[2] in {"", w.wish.line.role} | ({d[2]} if not w.wish.line.role else set())
                   for d in w.tooth.pin.does), w.wish.name  # fmt: skip
        taken.setdefault(w.tooth.number, []).append(w)
    for on in taken.values():
        assert len(on) == 1 or all(w.wish.shares for w in on)


def test_every_controller_of_the_catalogue_has_a_pin_table():
    for kind in ("microcontroller", "computer", "line expander"):
        from wired_union.catalogue.parts import of_kind

        for p in of_kind(kind):
            assert p.board is not None, p.name
            if kind != "line expander":
                assert sum(d[0][0] not in {"USB", "camera port"} for x in p.board.pins if (d := x.does)) == p.link.pins
    for part_id in (*boards(), *ports()):
        assert part(part_id)


def test_a_boot_pin_is_left_free_while_another_does():
    project = a_concept(a_board("!A: plain", "B: plain"), a_thing("Lamp", "on = plain to"))
    wired = assess_pins(project.concept).wired
    assert [w.tooth.pin.name for w in wired] == ["B"]
    both = a_concept(a_board("!A: plain", "B: plain"), a_thing("Lamp", "on = plain to", count=2))
    assert {w.tooth.pin.name for w in assess_pins(both.concept).wired} == {"A", "B"}
    found = next(f for f in assess(both).findings if f.check == "start-pin")
    assert found.verdict == "tight"


def test_a_contact_on_a_boot_pin_breaks_and_moves():
    assessment = assess(demo())
    found = next(f for f in assessment.findings if f.check == "start-pin")
    assert found.verdict == "breaks"
    assert "D8" in found.title
    assert len(found.remedies) >= 2
    for remedy in found.remedies:
        after = assessment.again(remedy.change.after)
        assert not any(f.check == "start-pin" for f in after.findings), remedy.label
        assert after.of(PINS).used == assessment.of(PINS).used


def test_what_is_kept_stays_and_what_is_not_moves_on():
    project = a_concept(a_board("A: plain", "B: plain; interrupt 1", "C: plain"), a_thing("Lamp", "on = plain to"))
    key = Key(item="lamp", line="on")
    kept = edits.lay_thread(project, key, "brain", "B").after
    assert assess_pins(kept.concept).at[key].tooth.pin.name == "B"
    more = with_concept(kept, items=(*kept.concept.items, a_thing("Switch", "x = interrupt from")))
    pins = assess_pins(more.concept)
    assert {w.name for w in pins.clash} == {"Lamp: on", "Switch: x"}
    assert pins.smallest
    finding = next(f for f in assess(more).findings if f.check == "pins")
    assert finding.hard
    assert "Lamp: on" in finding.why
    freed = assess(finding.remedies[0].change.after)
    assert freed.of(PINS).solved
    assert edits.let_go(more, key).after == finding.remedies[0].change.after


def test_a_pin_that_cannot_and_one_that_is_kept_are_refused_with_the_reason():
    project = a_concept(
        a_board("A: plain", "B: plain"), a_thing("Lamp", "on = plain to"), a_thing("Eye", "v = analogue")
    )
    with pytest.raises(ProjectError, match=r"Eye: v needs analogue; pin A of Brain cannot do that"):
        edits.lay_thread(project, Key(item="eye", line="v"), "brain", "A")
    with pytest.raises(ProjectError, match=r"There is no pin “Z”"):
        edits.lay_thread(project, Key(item="lamp", line="on"), "brain", "Z")
    kept = edits.lay_thread(project, Key(item="lamp", line="on"), "brain", "A").after
    more = with_concept(kept, own_lines=(OwnLine(id="x", name="X"),))
    with pytest.raises(ProjectError, match=r"Lamp: on is kept on A. Let it go first"):
        edits.lay_thread(more, Key(own="x"), "brain", "A")
    with pytest.raises(ProjectError, match=r"They cannot all be had: Eye: v"):
        edits.solve_pins(project)


def test_parts_on_one_bus_share_its_pins_and_an_address_taken_asks_for_a_second():
    pins = ("C1: I2C 1 clock", "D1: I2C 1 data", "C2: I2C 2 clock", "D2: I2C 2 data")
    one, other = a_thing("One", *I2C, addresses=(0x68, 0x69)), a_thing("Two", *I2C, addresses=(0x68, 0x69))
    shared = a_concept(a_board(*pins), one, a_thing("Two", *I2C, addresses=(0x40,)))
    assert assess_pins(shared.concept).used == 2
    apart = assess(a_concept(a_board(*pins), one, other))
    assert apart.of(PINS).used == 4
    finding = next(f for f in apart.findings if f.check == "address")
    assert "0x68" in finding.what
    strapped = apart.again(finding.remedies[0].change.after)
    assert strapped.of(PINS).used == 2
    assert {w.wish.address for w in strapped.of(PINS).wired} == {0x68, 0x69}
    full = assess(a_concept(a_board(*pins[:2]), one, other))
    assert full.of(PINS).clash
    clash = next(f for f in full.findings if f.check == "pins")
    assert "address" in clash.why
    assert full.again(clash.remedies[0].change.after).of(PINS).solved


def test_copies_of_a_part_take_its_further_addresses():
    two = a_thing("Probe", *I2C, count=2, addresses=(0x48, 0x49))
    pins = assess_pins(a_concept(a_board("C: I2C 1 clock", "D: I2C 1 data"), two).concept)
    assert sorted({(w.wish.key.copy, w.wish.address) for w in pins.wired}) == [(1, 0x48), (2, 0x49)]
    three = a_thing("Probe", *I2C, count=3, addresses=(0x48, 0x49))
    assert assess_pins(a_concept(a_board("C: I2C 1 clock", "D: I2C 1 data"), three).concept).clash


def test_one_timer_has_one_frequency():
    pulse, drive = a_thing("Servo", "p = PWM to 50Hz"), a_thing("Motor", "p = PWM to 20000Hz")
    same = a_concept(a_board("A: PWM 1 1", "B: PWM 1 2"), pulse, drive)
    assert {w.name for w in assess_pins(same.concept).clash} == {"Servo: p", "Motor: p"}
    assert assess_pins(a_concept(a_board("A: PWM 1 1", "B: PWM 2 1"), pulse, drive).concept).solved
    assert assess_pins(
        a_concept(a_board("A: PWM 1 1", "B: PWM 1 2"), pulse, a_thing("Fan", "p = PWM to")).concept
    ).solved


def test_an_interrupt_line_and_a_converter_channel_serve_once():
    two = a_thing("Switch", "x = interrupt from", count=2)
    assert assess_pins(a_concept(a_board("A: interrupt 5", "B: interrupt 5"), two).concept).clash
    assert assess_pins(a_concept(a_board("A: interrupt 5", "B: interrupt 6"), two).concept).solved


def test_two_controllers_each_own_their_parts_and_a_join_takes_pins_of_both():
    serial = ("T: UART 1 out; plain", "R: UART 1 in; plain")
    one, two = a_board(*serial, "A: plain", name="One"), a_board(*serial, "B: analogue 1 1", name="Two")
    join = Join(id="j", name="Between", one="one", other="two")
    project = a_concept(one, two, a_thing("Lamp", "on = plain to", board="one"), a_thing("Eye", "v = analogue from"),
                        joins=(join,))  # fmt: skip
    pins = assess_pins(project.concept)
    assert pins.used == 6
    where = {w.wish.name: (w.tooth.item.name, w.tooth.pin.name) for w in pins.wired}
    assert where["Lamp: on"] == ("One", "A")
    assert where["Eye: v"] == ("Two", "B")
    assert {where["Between: to it"], where["Between: from it"]} <= {
        ("One", "T"),
        ("One", "R"),
        ("Two", "T"),
        ("Two", "R"),
    }
    assert len({w.tooth.number for w in pins.wired if w.wish.key.join}) == 4
    moved = with_concept(project, items=(one, two, a_thing("Lamp", "on = plain to", "v = analogue from", board="one")))
    assert assess_pins(moved.concept).clash
    assert assess_pins(edits.set_board(moved, "lamp", "").after.concept).clash  # all its lines end at one controller


def test_all_lines_of_a_part_end_at_one_controller():
    one, two = a_board("A: plain", name="One"), a_board("B: plain", "V: analogue 1 1", name="Two")
    project = a_concept(one, two, a_thing("Eye", "v = analogue from", "on = plain to"))
    assert {w.tooth.item.name for w in assess_pins(project.concept).wired} == {"Two"}


def test_an_expander_takes_plain_signals_and_is_offered():
    bus = ("C: I2C 1 clock; plain", "D: I2C 1 data; plain")
    lamps = a_thing("Lamp", "on = plain to", count=5)
    short = assess(a_concept(a_board(*bus), lamps))
    finding = next(f for f in short.findings if f.check == "pins")
    offered = next(r for r in finding.remedies if "expander" in r.label)
    after = short.again(offered.change.after).of(PINS)
    assert after.solved
    assert sum(w.tooth.item.part.kind == "line expander" for w in after.wired) == 5


def test_what_is_not_known_makes_the_pins_unknown():
    silent = Item(id="x", name="X", subsystem="s", part=a_part("X", "gadget", link=Link(bus="SPI")))
    assessment = assess(a_concept(a_board("A: plain"), silent))
    assert assessment.measure("pins").missing == ("X: which signals it needs",)
    bare = Item(id="b", name="B", subsystem="s", part=a_part("B", "microcontroller"))
    assert assess(a_concept(bare)).measure("pins").missing[0] == "B: its pin table"
    assert assess(a_concept(a_thing("Lamp", "on = plain to"))).measure("pins").missing
    assert assess(a_concept()).measure("pins").missing
    huge = a_concept(*(a_board(*(f"P{n}: plain" for n in range(200)), name=f"B{k}") for k in range(5)),
                     a_thing("Lamp", "on = plain to", count=200))  # fmt: skip
    assert any("not looked at" in m for m in assess(huge).measure("pins").missing)
    many = assess(a_concept(a_board("A: plain"), a_thing("Lamp", "on = plain to", count=10_000)))
    assert any("beyond" in m for m in many.measure("pins").missing)


def test_what_timing_counts_on_wants_a_pin_as_well():
    """An encoder of Timing that no line and no own signal carries makes the pins unknown."""
    project = demo()
    assert not assess(project).measure("pins").missing
    bare = edits.remove_own(edits.remove_own(project, value_id="turns-left").after, value_id="turns-right").after
    missing = assess(bare).measure("pins").missing
    assert missing == ("Gearmotor 25 mm 12 V 100:1: the signal that carries “Wheel turns” of Timing, interrupt",)
    assert assess(edits.remove_own(project, value_id="pack-sense").after).measure("pins").missing


def test_what_a_signal_takes_is_held_against_its_pin_and_all_of_them():
    pins = tuple(Pin(name=n, does=(("plain", "", ""),), max_current_a=0.02) for n in "ABC")
    link = Link(bus="digital", logic_v=3.3)
    thing = a_part("Brain", "microcontroller", board=Board(pins=pins, total_current_a=0.04), link=link)
    brain = Item(id="brain", name="Brain", subsystem="s", part=thing)
    lamps = tuple(OwnLine(id=f"l{n}", name=f"Lamp {n}", flows="to the part", current_a=0.015) for n in range(3))
    found = [f for f in assess(a_concept(brain, own_lines=lamps)).findings if f.check == "pin-current"]
    assert [(f.verdict.value, f.title) for f in found] == [("breaks", "The pins of Brain together give much")]
    one = assess(a_concept(brain, own_lines=(lamps[0].but(current_a=0.03),)))
    assert [f.title for f in one.hard_breaks] == ["Lamp 0 takes much from pin A"]


@pytest.mark.parametrize(("bus", "pins", "kind", "wanted"), [
    ("I2C", 2, "gadget", ["I2C clock", "I2C data"]), ("SPI", 6, "radio", ["SPI clock", "SPI out", "SPI in", "plain"] +
                                                      ["plain"] * 2),
    ("UART", 1, "gadget", ["UART in"]), ("PWM", 4, "motor driver", ["PWM", "plain", "PWM", "plain"]),
    ("PWM", 1, "servo", ["PWM"]), ("analogue", 2, "gadget", ["analogue", "analogue"]), ("USB", 0, "camera", ["USB"]),
    ("digital", 2, "gadget", ["plain", "plain"]),
])  # fmt: skip
def test_signals_follow_from_a_bus_and_a_number_of_pins(bus, pins, kind, wanted):
    lines = signals_of(a_part("X", kind, link=Link(bus=bus, pins=pins)))
    assert [f"{x.does} {x.role}".strip() for x in lines] == wanted


def test_what_still_fits_is_answered_in_words_and_is_true():
    project = a_concept(a_board("A: plain; interrupt 1", "B: plain; PWM 1 1", "T: UART 1 out", "R: UART 1 in"))
    now = assess_pins(project.concept)
    *_, found = still_fits(project.concept, now)
    assert dict(found)["UART"] == 1
    assert dict(found)["plain pin"] == 2
    assert dict(found)["interrupt"] == 1
    assert dict(found)["camera"] == 0
    assert "2 plain pins" in fits_words(found)
    assert asked_for("two interrupts, one UART and a third servo") == [("interrupt", 2), ("UART", 1), ("servo", 1)]
    assert would_fit(project.concept, asked_for("an interrupt, uart, servo"), now).solved
    assert not would_fit(project.concept, asked_for("2 interrupts"), now).solved
    assert how_many(project.concept, "servo", now) == 1
    for text in ("", "a kettle", "99 servos"):
        with pytest.raises(ProjectError, match=r"Ask"):
            asked_for(text)


def test_pins_are_solved_stored_kept_and_forgotten():
    project = a_concept(a_board("A: plain", "B: plain"), a_thing("Lamp", "on = plain to", count=2))
    solved = edits.solve_pins(project).after
    assert len(solved.concept.threads) == 2
    assert all(w.stored and not w.kept for w in assess_pins(solved.concept).wired)
    assert all(w.kept for w in assess_pins(edits.keep_all(solved).after.concept).wired)
    assert edits.forget_pins(solved).after == project
    with pytest.raises(ProjectError, match=r"nothing to put on pins"):
        edits.solve_pins(a_concept())


def test_a_pin_table_is_read_as_it_is_written():
    for board in boards().values():
        assert read_pins(write_pins(board.pins)) == board.pins
    for text, words in (("", "heading"), ("a,b\n1,2\n", "heading"), ("pin,does\n", "no pins"),
                        ("pin,does\nA,kettle\n", "Row 2: “kettle”"), ("pin,does\nA,plain\nA,plain\n", "two pins A"),
                        ("pin,does,most volts\nA,plain,x\n", "not a number"), ("pin,does\n,plain\n", "Row 2")):  # fmt: skip
        with pytest.raises(PinTableError, match=words):
            read_pins(text)
    odd = read_pins("Pin,Does,At start\nA,GPIO; ADC 1 2,must be low\n")
    assert odd[0].does == (("plain", "", ""), ("analogue", "1", "2"))


def test_lines_of_a_part_are_set_added_and_taken_away():
    project = a_concept(a_board("A: plain", "B: interrupt 1; plain"), a_thing("Eye", "out = plain from"))
    after = edits.set_line(project, "eye", 0, does="interrupt").after
    assert assess_pins(after.concept).wired[0].tooth.pin.name == "B"
    more = edits.add_line(after, "eye", "wake").after
    assert len(wishes_of(more.concept).all) == 2
    assert edits.remove_line(more, "eye", 1).after == after
    with pytest.raises(ProjectError, match=r"only signal"):
        edits.remove_line(after, "eye", 0)
    with pytest.raises(ProjectError, match=r"already"):
        edits.add_line(more, "eye", "wake")
    with pytest.raises(ProjectError, match=r"can be set to 0x68"):
        edits.set_address(a_concept(a_thing("X", *I2C, addresses=(0x68,))), "x", 0x20)


def test_a_file_of_before_takes_pins_and_signals_of_the_catalogue():
    """The kept demo has controllers without a pin table: its pins are not known until the catalogue's are taken."""
    kept = Path(__file__).parents[1] / "kept" / "1" / "mudlark.union.json"
    old = assess(from_text(kept.read_text(encoding="utf-8"), kept))
    assert "Controller 32-bit: its pin table" in old.measure("pins").missing
    found = next(f for f in old.findings if f.check == "pins-gap")
    after = old.again(found.remedies[0].change.after)
    assert not after.measure("pins").missing
    assert after.measure("pins").value == 25
    with pytest.raises(ProjectError, match="no pin table"):
        edits.from_catalogue(after.project)
