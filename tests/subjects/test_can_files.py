"""DBC and logs of CAN: cantools reads and encodes as we do, python-can's own writers make the logs."""

import can
import cantools
import pytest

from builders import a_project
from wired_union.kernel.results import Verdict
from wired_union.physics.packet import pack
from wired_union.picture.shapes import Kit, rough_ruler
from wired_union.project.errors import ProjectError
from wired_union.project.timing_model import Bus, Message, Packet, PacketField
from wired_union.subjects import assess
from wired_union.subjects.timing.buses import BUSES
from wired_union.subjects.timing.files_can import CanLog, can_words, dbc_of, laid_on, read_can_log, take_dbc
from wired_union.subjects.timing.packets import fields_of
from wired_union.subjects.timing.picture_log import gaps_picture

PACKET = Packet(id="p", name="Pack", checksum="none", framing="none", fields=(
    PacketField(id="v", name="voltage", least=9.0, most=16.0, resolution=0.01, unit="V"),
    PacketField(id="t", name="temperature", least=-40.0, most=85.0, resolution=0.5, unit="°C"),
    PacketField(id="ü", name="über 1", least=0.0, most=3.0, resolution=1.0),
))  # fmt: skip


def bused(*messages, kind="can"):
    project = a_project()
    own = (Message(id="pack", name="Pack state", bus="can", packet="p", every_s=0.1, priority=2),
           Message(id="drive", name="Drive", bus="can", bytes=8, every_s=0.02, priority=1), *messages)  # fmt: skip
    concept = project.concept.but(
        buses=(Bus(id="can", name="CAN", kind=kind, clock_hz=250e3),), messages=own, packets=(PACKET,)
    )
    return project.but(concepts=(concept,))


def bus(project):
    (found,) = assess(project).of(BUSES)
    return found


def test_cantools_reads_it_and_encodes_the_same_bits():
    database = cantools.database.load_string(dbc_of(bus(bused()), {"p": PACKET}), "dbc")
    frame = database.get_message_by_name("Pack_state")
    assert (frame.length, frame.cycle_time) == (3, 100)
    for values in ((9.0, -40.0, 0), (12.34, 21.5, 2), (16.0, 85.0, 3)):
        names = [s.name for s in sorted(frame.signals, key=lambda s: (s.start // 8, -s.start))]
        told = frame.encode(dict(zip(["voltage", "temperature", names[-1]], values, strict=True)))
        assert told == pack(fields_of(PACKET), values)
    # the more urgent has the lower identity
    assert database.get_message_by_name("Drive").frame_id < frame.frame_id


def test_messages_of_a_dbc_are_taken_in_one_edit_and_go_out_again():
    text = dbc_of(bus(bused()), {"p": PACKET})
    project = bused()
    change = take_dbc(project, "can", text)
    new = change.after.concept.messages[2:]
    assert [(m.name, m.bytes, m.every_s) for m in new] == [("Drive", 8, 0.02), ("Pack_state", 3, 0.1)]
    assert all(m.identity is not None for m in new)


@pytest.mark.parametrize("text", ["", "no dbc at all", 'VERSION ""\n\nBU_:\n'])
def test_a_file_that_is_no_dbc_is_refused(text):
    with pytest.raises(ProjectError):
        take_dbc(bused(), "can", text)


def test_only_can_has_a_dbc():
    with pytest.raises(ProjectError, match="no CAN bus"):
        dbc_of(bus(bused(kind="uart")), {})


def test_identities_say_who_goes_first_where_all_have_one_and_nobody_knows_where_some_have():
    def answers(first, second):
        project = bused()
        a, b = project.concept.messages
        concept = project.concept.but(messages=(a.but(identity=first), b.but(identity=second)))
        return bus(project.but(concepts=(concept,)))

    by_priority, by_identity = answers(None, None), answers(1, 2)
    assert by_priority.of("drive").response_s == pytest.approx(by_identity.of("pack").response_s, rel=0.2)
    assert by_identity.of("pack").response_s < by_priority.of("pack").response_s + 1e-9
    mixed = answers(1, None)
    assert mixed.of("drive").verdict is Verdict.UNKNOWN
    assert mixed.of("drive").response_s is None


@pytest.mark.parametrize("suffix", [".asc", ".blf", ".csv", ".log", ".trc", ".db"])
def test_a_log_of_each_format_is_laid_over_and_the_first_late_one_is_named(tmp_path, suffix):
    """Drive is id 1, every 20 ms; two are left out at 0.5 s. A stranger is counted, and no more."""
    path = tmp_path / f"log{suffix}"
    with can.Logger(path) as writer:
        for n in range(100):
            if n not in {25, 26}:
                writer(can.Message(timestamp=1000 + 0.02 * n, arbitration_id=1, data=bytes(8), is_extended_id=False))
            if n % 5 == 0:
                writer(
                    can.Message(timestamp=1000.001 + 0.02 * n, arbitration_id=2, data=bytes(3), is_extended_id=False)
                )
            if n == 50:
                writer(can.Message(timestamp=1000.002 + 0.02 * n, arbitration_id=99, data=b"", is_extended_id=False))
    result = bus(bused())
    *_, log = read_can_log(path, result)
    assert isinstance(log, CanLog)
    assert (log.count, log.unknown) == (98 + 20 + 1, 1)
    drive = next(x for x in laid_on(result, log) if x.name == "Drive")
    assert (drive.count, drive.late, drive.lost) == (98, 1, 2)
    assert drive.first_late_s == pytest.approx(0.54, abs=2e-3)
    red = [
        s
        for s in gaps_picture(log, laid_on(result, log), Kit(1.0, rough_ruler), 400.0).shapes
        if getattr(s, "fill", "") == "breaks"
    ]
    assert len(red) == 1
    assert "Drive came up to 60" in can_words(log, laid_on(result, log))


def test_a_log_that_cannot_be_read_says_why(tmp_path):
    for name, text in (("a.txt", ""), ("b.asc", ""), ("c.blf", "nonsense"), ("d.log", "(1.0) can0 7FF#00\n")):
        path = tmp_path / name
        path.write_text(text)
        with pytest.raises(ProjectError):
            list(read_can_log(path, bus(bused())))
