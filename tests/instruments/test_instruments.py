"""Real instruments through the door: serial lines, SCPI with pyvisa-sim, CAN on python-can's virtual bus, logs."""

import csv
import math
from pathlib import Path

import can
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from instruments.stand_ins import a_device
from wired_union.instruments.can_frame import CanFrame, frame_of
from wired_union.instruments.door import NoReading
from wired_union.instruments.log import Log, record, take_one
from wired_union.instruments.scpi import Scpi
from wired_union.instruments.serial_line import SerialLine
from wired_union.instruments.text_line import figure_in
from wired_union.picture.shapes import Kit, Poly
from wired_union.subjects.bench.picture_log import log_picture, log_words

METER = f"{Path(__file__).with_name('meter.yaml')}@sim"


class Told:
    """An instrument that gives what it is told to."""

    name = "told"

    def __init__(self, answers):
        self.answers, self.opened, self.closed = iter(answers), 0, 0

    def open(self):
        self.opened += 1

    def close(self):
        self.closed += 1

    def read(self):
        answer = next(self.answers, NoReading("it has gone"))
        if isinstance(answer, Exception):
            raise answer
        return answer


def logged(door, path=None, seconds=5.0, period_s=0.0):
    log = Log("x", "V", path)
    for _ in record(door, log, seconds=seconds, period_s=period_s):
        pass
    return log


@pytest.mark.parametrize(("line", "number", "value"), [
    ("1.5", 1, 1.5), ("t=1200 salinity: 1.42 V", 2, 1.42), ("-3,25;7", 1, -3.25), ("+1.2E-03", 1, 0.0012), ("a .5", 1, 0.5),
])  # fmt: skip
def test_a_number_is_found_in_a_line(line, number, value):
    assert figure_in(line, number) == value


@given(st.text(alphabet="abc :;\x00\ufffd", max_size=20), st.integers(-3, 3))
def test_a_line_without_numbers_is_said(line, number):
    with pytest.raises(NoReading, match="no number"):
        figure_in(line, number)
    with pytest.raises(NoReading, match="holds 1 number; number 2"):
        figure_in("7", 2)


def test_a_serial_line_is_read_by_its_number_and_nonsense_is_said():
    lines = [b"noise\n", b"12 3", b".5 V\r\n", b"\xff\xfe\n"]
    with a_device(lines, 0.05) as address:
        line = SerialLine(address, number=2, waits_s=1.0)
        line.open()
        with pytest.raises(NoReading, match="no number"):
            line.read()
        assert line.read() == 3.5
        with pytest.raises(NoReading, match="no number"):
            line.read()
        line.waits_s = 0.3
        with pytest.raises(NoReading, match=r"no line in 0\.3 s"):
            line.read()
        line.close()
        line.close()


def test_a_loop_gives_back_what_it_is_sent():
    line = SerialLine("loop://", waits_s=1.0)
    line.open()
    line.send("value 4.25")
    assert line.read() == 4.25
    line.close()
    with pytest.raises(NoReading):
        line.send("x")
    with pytest.raises(NoReading, match="not open"):
        line.read()


@pytest.mark.parametrize("address", ["", "/dev/nowhere", "socket://127.0.0.1:1", "nonsense://x"])
def test_a_line_that_is_not_there_is_said(address):
    with pytest.raises(NoReading, match=r"Say which line|does not open"):
        take_one(SerialLine(address, waits_s=0.2))


def test_an_endless_line_is_taken_for_the_wrong_speed():
    with a_device([b"\x00" * 6000]) as address, pytest.raises(NoReading, match="no line ends"):
        take_one(SerialLine(address, waits_s=2.0))


def test_a_plug_pulled_in_the_middle_is_said_and_what_was_read_is_kept(tmp_path):
    with a_device([b"1.0\n", b"2.0\n", b"3.0\n"], 0.02, stays=False) as address:
        log = logged(SerialLine(address, waits_s=0.5), tmp_path / "logs" / "a.csv")
    assert log.values.tolist() == [1.0, 2.0, 3.0]
    assert "has gone" in log.said or "no line" in log.said
    rows = list(csv.reader((tmp_path / "logs" / "a.csv").read_text(encoding="utf-8").splitlines()))
    assert rows[0] == ["time in s", "x in V"]
    assert [float(r[1]) for r in rows[1:]] == [1.0, 2.0, 3.0]


def test_a_meter_is_asked_in_scpi():
    assert take_one(Scpi("TCPIP::meter.local::INSTR", backend=METER)) == 12.345
    with pytest.raises(NoReading, match="out of range"):
        take_one(Scpi("TCPIP::meter.local::INSTR", "MEAS:CURR:DC?", METER))
    with pytest.raises(NoReading, match="“no probe”"):
        take_one(Scpi("TCPIP::meter.local::INSTR", "READ?", METER))
    with pytest.raises(NoReading, match="“ERROR”"):
        take_one(Scpi("TCPIP::meter.local::INSTR", "MEAS:FREQ?", METER))
    for address in ("TCPIP::nobody.local::INSTR", "nonsense"):
        with pytest.raises(NoReading, match=r"does not open|does not answer"):
            take_one(Scpi(address, backend=METER))
    with pytest.raises(NoReading, match="Say which instrument"):
        take_one(Scpi(" "))
    with pytest.raises(NoReading, match="not open"):
        Scpi("x").read()


def test_frames_of_a_bus_are_read_by_their_identifier():
    with can.Bus(channel="mud", interface="virtual") as sender:
        door = CanFrame("mud", 0x123, interface="virtual", first_byte=1, factor=0.01, waits_s=1.0)
        door.open()
        sender.send(can.Message(arbitration_id=0x124, data=[0] * 8, is_extended_id=False))
        sender.send(can.Message(arbitration_id=0x123, data=[7, 0xFF, 0x38, 0], is_extended_id=False))
        assert door.read() == pytest.approx(-2.0)  # 0xFF38 is −200
        sender.send(can.Message(arbitration_id=0x123, data=[7], is_extended_id=False))
        with pytest.raises(NoReading, match="3 are needed"):
            door.read()
        door.waits_s = 0.1
        with pytest.raises(NoReading, match="no frame 0x123"):
            door.read()
        door.close()
    with pytest.raises(NoReading, match="not open"):
        door.read()
    with pytest.raises(NoReading, match="does not open"):
        take_one(CanFrame("x", 1, interface="nothing"))
    with pytest.raises(NoReading, match="Say which bus"):
        take_one(CanFrame("", 1))


@pytest.mark.parametrize(("text", "frame"), [
    ("0x123 0 2 0.01", (0x123, 0, 2, 0.01)), ("291", (291, 0, 2, 1.0)), ("0x7 4", (7, 4, 2, 1.0)), ("1 0 1", (1, 0, 1, 1.0)),
])  # fmt: skip
def test_a_frame_is_read_from_a_text(text, frame):
    assert frame_of(text) == frame


@pytest.mark.parametrize("text", ["", "x", "1 2 x", "0x20000000", "1 0 9", "-1", "1 70 1"])
def test_no_frame_is_said(text):
    with pytest.raises(NoReading, match=r"frame|identifier"):
        frame_of(text)


def test_wrong_answers_are_counted_and_left_out_and_several_in_a_row_end_it():
    wrong = NoReading("nonsense")
    door = Told([1.0, wrong, 2.0, wrong, wrong, 3.0, *[wrong] * 5, 4.0])
    log = logged(door)
    assert (log.values.tolist(), log.wrong, log.said) == ([1.0, 2.0, 3.0], 8, "nonsense")
    assert (door.opened, door.closed) == (1, 1)
    silent = Told([wrong] * 9)
    with pytest.raises(NoReading, match="nonsense"):
        logged(silent)
    assert silent.closed == 1


def test_a_file_that_cannot_be_written_costs_no_reading(tmp_path):
    (tmp_path / "file").write_text("", encoding="utf-8")
    log = logged(Told([1.0, 2.0]), tmp_path / "file" / "a.csv")
    assert log.count == 2
    assert "not kept" in log.said or "gone" in log.said


@given(st.lists(st.floats(-1e6, 1e6), min_size=1, max_size=300), st.integers(1, 400))
def test_no_peak_is_lost_in_what_is_drawn(values, count):
    log = Log("x", "V")
    for n, v in enumerate(values):
        log.add(float(n), v)
    t, least, most = log.columns(count)
    assert len(t) == min(count, len(values))
    assert (least.min(), most.max()) == (min(values), max(values))
    assert (np.diff(t) > 0).all()
    assert log.mean == pytest.approx(math.fsum(values) / len(values), abs=1e-6)


class Ticking:
    """A clock of its own: every reading takes some time, waiting takes what it says."""

    def __init__(self, reading_s):
        self.now, self.reading_s = 0.0, reading_s

    def monotonic(self):
        return self.now

    def sleep(self, seconds):
        self.now += seconds

    def answers(self):
        while True:
            self.now += self.reading_s
            yield 1.0


@pytest.mark.parametrize(("reading_s", "period_s", "count"), [(0.001, 0.01, 100), (0.05, 0.01, 20), (0.001, 0.0, 1000)])
def test_a_log_keeps_its_pace_or_that_of_a_slow_instrument(reading_s, period_s, count):
    clock, log = Ticking(reading_s), Log("x", "V")
    for _ in record(Told(clock.answers()), log, seconds=1.0, period_s=period_s, clock=clock):
        pass
    assert log.count == pytest.approx(count, abs=2)
    assert clock.now == pytest.approx(1.0, abs=0.06)
    steps = np.diff(log.times_s)
    assert float(steps.mean()) == pytest.approx(max(reading_s, period_s), rel=0.05)


def test_a_long_log_grows():
    log = Log("x", "V")
    for n in range(20_000):
        log.add(n * 1e-3, float(n))
    assert log.values.tolist() == [float(n) for n in range(20_000)]
    assert log.times_s[-1] == pytest.approx(19.999)


@pytest.mark.parametrize("count", [2, 50, 5000])
def test_every_peak_of_a_log_is_in_its_picture(count):
    log = Log("x", "V")
    for n in range(count):
        log.add(n * 0.01, 5.0 + (1.0 if n == count // 2 else 0.0))
    assert (log_picture(log, Kit(), 640, expected=5.0).height > 100) is True
    (shape,) = [s for s in log_picture(log, Kit(), 640).every if isinstance(s, Poly)]
    ys = [y for _, y in shape.points]
    assert max(ys) - min(ys) > 80  # the one peak is there, however many readings lie beside it
    assert bool(shape.fill) is (count == 5000)
    empty = Log("x", "V")
    assert log_picture(empty, Kit(), 640).height > 0
    assert log_words(empty) == ""
