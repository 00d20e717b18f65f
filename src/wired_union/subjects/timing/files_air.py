"""Link budgets as CSV, what was heard on a trial, and a log of packets beside what was worked out."""

import csv
import io
import math

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.project.air_model import Heard
from wired_union.project.errors import ProjectError
from wired_union.subjects.timing.air import LinkResult, noise_dbm, off_beam_db
from wired_union.subjects.timing.files import safe_cell
from wired_union.units import show

MOST_ROWS, MOST_HEARD = 2_000_000, 500
COLUMNS = ("link", "modulation", "airtime_s", "hour_share", "power_dbm", "own_gain_dbi", "far_gain_dbi",
           "off_beam_db", "distance_m", "way_loss_db", "walls_db", "received_dbm", "sensitivity_dbm", "margin_db",
           "fade_db", "ends_m")  # fmt: skip


def links_csv(links: tuple[LinkResult, ...]) -> str:
    """Every link with what it is made of, a line each; empty where a figure is not known."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    for r in links:
        c, budget = r.link, r.budget
        known = (
            r.airtime_s, r.hour_share, c.power_dbm, c.own_gain_dbi, c.far_gain_dbi, off_beam_db(c), c.distance_m,
            r.loss_db, c.walls_db, budget.received_dbm if budget else None, r.sensitivity_dbm, r.spare_db, c.fade_db,
            r.ends_m,
        )  # fmt: skip
        writer.writerow([safe_cell(c.name), c.modulation, *("" if x is None else f"{x:.6g}" for x in known)])
    return out.getvalue()


class PacketLog(Struct, frozen=True):
    """Packets that arrived: when, with what signal to noise, how far off, which number; shapes (packets,)."""

    times_s: Array
    snr_db: Array
    distance_m: Array
    numbers: Array
    lost: int
    """numbers that never came; gaps of more than a period where nothing is numbered"""


def read_packet_log(text: str, every_s: float) -> PacketLog:
    """A table with the column time (s) and, where there are, snr or rssi (dB), distance (m), number.

    Raises ProjectError, with the line, for what cannot be read.
    """
    rows = csv.DictReader(io.StringIO(text.lstrip("\ufeff")))
    columns = {(c or "").strip().lower(): c for c in rows.fieldnames or ()}
    if "time" not in columns:
        raise ProjectError("A log of packets needs the column time, named in its first line; snr, distance and number"
                           " where you have them.")  # fmt: skip
    wanted = [columns.get(c) for c in ("time", "snr", "distance", "number")]
    found = []
    for line, row in enumerate(rows, 2):
        if line > MOST_ROWS:
            raise ProjectError(f"The log has more than {MOST_ROWS} rows. Give a part of it.")
        found.append([_number(row.get(c), line) if c else math.nan for c in wanted])
    if not found:
        raise ProjectError("The log has no packet.")
    table = np.array(found, dtype=float)
    if not np.isfinite(table[:, 0]).all():
        raise ProjectError("Every packet of the log needs a time.")
    table = table[np.argsort(table[:, 0], kind="stable")]
    times = table[:, 0] - table[0, 0]
    return PacketLog(times, table[:, 1], table[:, 2], table[:, 3], _lost(times, table[:, 3], every_s))


def _number(text: str | None, line: int) -> float:
    if text is None or not text.strip():
        return math.nan
    try:
        return float(text)
    except ValueError:
        raise ProjectError(f"Line {line}: “{text[:40]}” is no number.") from None


def _lost(times: Array, numbers: Array, every_s: float) -> int:
    """By number, where all have one and it never falls; else by gaps."""
    if np.isfinite(numbers).all() and len(numbers) > 1 and (np.diff(numbers) >= 0).all():
        return int(max(numbers[-1] - numbers[0] + 1 - len(np.unique(numbers)), 0))
    return int(np.maximum(np.round(np.diff(times) / every_s) - 1, 0).sum())


def packet_log_words(r: LinkResult, log: PacketLog) -> str:
    """How many came, how many did not and how many were to be expected; the longest silence; what is heard."""
    count, gaps = len(log.times_s), np.diff(log.times_s)
    share = log.lost / (count + log.lost)
    said = [f"{count} packets over {show(float(log.times_s[-1]), 's')}, {log.lost} lost ({show(share, 'share')};"
            f" talked over {show(1 - r.arrives, 'share')} is worked out)"]  # fmt: skip
    if len(gaps):
        at = int(np.argmax(gaps))
        said.append(f"the longest silence {show(float(gaps[at]), 's')}, from {show(float(log.times_s[at]), 's')} on")
    heard = log.snr_db[np.isfinite(log.snr_db)]
    if len(heard):
        needs = "" if r.sensitivity_dbm is None else f", {r.sensitivity_dbm - noise_dbm(r.link):.0f} dB is the least"
        said.append(f"signal to noise {heard.min():.0f} to {heard.max():.0f} dB{needs}".replace("-", "−"))
    return f"{'; '.join(said)}."


def heard_of(log: PacketLog) -> tuple[Heard, ...]:
    """Strengths with their distances, evenly thinned where there are many. Raises ProjectError where there are none."""
    known = np.isfinite(log.snr_db) & np.isfinite(log.distance_m) & (log.distance_m > 0)
    if not known.any():
        raise ProjectError("The log has no packet with snr and distance: nothing can be laid over the link.")
    both = np.column_stack([log.distance_m[known], log.snr_db[known]])
    if len(both) > MOST_HEARD:
        both = both[np.linspace(0, len(both) - 1, MOST_HEARD).astype(int)]
    return tuple(Heard(distance_m=float(d), snr_db=float(s)) for d, s in both)
