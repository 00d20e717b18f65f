"""Cables to scale: length, thickness, plugs, the fuse before each, and the share of the rail that each loses."""

from collections.abc import Sequence

from wired_union.kernel.results import Verdict, share_verdict
from wired_union.picture.shapes import Box, Kit, Line, Picture, Region, Shape, hint_picture, shifted
from wired_union.picture.wire import wire
from wired_union.project.wiring_model import Cable
from wired_union.subjects.wiring.leads import PLUGS_NONE, CableResult
from wired_union.subjects.wiring.pick import WiringPick
from wired_union.units import show

ROW = 26.0


def cables_picture(cables: Sequence[CableResult], allowed: float, kit: Kit, width: float, chosen: str) -> Picture:
    """A row each. Regions stand for a `WiringPick`."""
    if not cables:
        return hint_picture("No cable yet. One for each feed and each part can be made from what is wired.", kit, width)
    longest = max((c.laid.length_m or 0.0 for c in cables), default=0.0) or 1.0
    named, drawn, tail = kit.px(150), max(width * 0.24, kit.px(90)), kit.px(112)
    room = width - named - drawn - tail - kit.px(24)
    shapes: list[Shape] = []
    regions: list[Region] = []
    for n, cable in enumerate(cables):
        y, row = n * kit.px(ROW), kit.px(ROW)
        if cable.id == chosen:
            shapes.append(Box(0, y, width, row, "soft", radius=3))
        tone = "breaks_text" if cable.verdict is Verdict.BREAKS else "ink"
        count = f" ×{cable.laid.count}" if cable.laid.count > 1 else ""
        name = kit.cut(f"{cable.laid.cable.name}{count}", named - kit.px(8), "small", bold=True)
        shapes.append(kit.words(kit.px(4), y + row / 2, name, "small", tone, bold=True))
        shapes += _drawn(cable, kit, named, y + row / 2, drawn, longest)
        words = kit.cut(made_words(cable), room, "small", "figures")
        shapes.append(kit.figures(named + drawn + kit.px(14), y + row / 2, words, "small", "mute"))
        shapes += shifted(_share(cable, allowed, kit, tail), width - tail, y + row / 2)
        label = f"{cable.laid.cable.name}: {made_words(cable)}; {share_words(cable, allowed)}"
        regions.append(Region(f"cable {cable.id}", 0, y, width, row, label, of=WiringPick("cables", cable.id)))
    return Picture(width, len(cables) * kit.px(ROW) + kit.px(4), tuple(shapes), tuple(regions))


def _drawn(cable: CableResult, kit: Kit, x: float, y: float, drawn: float, longest: float) -> list[Shape]:
    """The cable to scale, dotted where its length is not known; plugs at its ends."""
    ink = "copper" if cable.laid.moves_power else "slate"
    if cable.laid.length_m is None:
        return [Line(x, y, x + drawn * 0.4, y, "unknown", 2.0, (2.0, 3.0))]
    if cable.laid.is_plugged:
        return [Box(x, y - kit.px(5), kit.px(8), kit.px(10), "ink"), Box(x + kit.px(9), y - kit.px(5), kit.px(8),
                                                                         kit.px(10), "ink")]  # fmt: skip
    long = max(drawn * cable.laid.length_m / longest, kit.px(6))
    thick = min(max((cable.laid.thick_m or 0.0) * 1500, 1.5), kit.px(9)) if cable.laid.thick_m else 2.0
    shapes: list[Shape] = [Box(x, y - thick / 2, long, thick, ink)]
    if cable.laid.cable.screened:
        shapes.append(Box(x, y - thick / 2 - 2, long, thick + 4, "", ink, dash=(2.0, 2.0)))
    if cable.laid.cable.connector.strip().lower() not in PLUGS_NONE:
        shapes += [Box(end - kit.px(3), y - kit.px(6), kit.px(7), kit.px(12), "ink") for end in (x, x + long)]
    return shapes


def _share(cable: CableResult, allowed: float, kit: Kit, tail: float) -> list[Shape]:
    """The share of the rail that it loses as a wire to what is allowed."""
    if not cable.losses:
        return []
    share, verdict = cable.share, drop_verdict(cable, allowed)
    text = show(share, "share") if share is not None else "?"
    use = share / allowed if share is not None and allowed > 0 else None
    line = shifted(wire(use, verdict, tail - kit.px(46)), kit.px(46), 0.0)
    ink = "breaks_text" if verdict is Verdict.BREAKS else "ink"
    return [kit.figures(kit.px(40), 0.0, text, "small", ink, bold=True, anchor="end"), *line]


def drop_verdict(cable: CableResult, allowed: float) -> Verdict:
    """What is said of the voltage it loses."""
    if cable.share is None:
        return Verdict.UNKNOWN
    found = share_verdict(cable.share / allowed if allowed > 0 else float("inf") if cable.share else 0.0)
    gaps = any(x.missing for x in cable.losses)
    return Verdict.UNKNOWN if gaps and found is not Verdict.BREAKS else found


def made_words(cable: CableResult) -> str:
    """ "350 mm · 14 AWG · 2-way 30 A · fuse 15 A" """
    own = cable.laid.cable
    if cable.laid.is_plugged:
        return "plugged one into the other"
    length = show(cable.laid.length_m, "m") if cable.laid.length_m is not None else "length not known"
    gauge = f"{own.awg} AWG" if own.awg is not None else "gauge not known"
    plug = plug_words(own)
    wires = f"{cable.laid.wires} wires" if not plug and cable.laid.wires is not None else ""
    passes = f"passes {own.passes}" if own.passes != "nothing that moves" else ""
    return " · ".join(filter(None, (length, gauge, plug, wires, cable.fuse, passes)))


def plug_words(own: Cable) -> str:
    """ "8-way latched", "2-way 30 A" """
    if own.connector.strip().lower() in PLUGS_NONE:
        return ""
    ways = f"{own.ways}-way" if own.ways else own.connector
    bears = f" {own.contact_a:g} A" if own.contact_a is not None else ""
    return f"{ways}{' latched' if own.latched == 'yes' else ''}{bears}"


def share_words(cable: CableResult, allowed: float) -> str:
    """ "loses 2.7 % of the 3 % allowed" """
    if not cable.losses:
        return "signals only"
    if cable.share is None:
        return "what it loses is not known"
    return f"loses {show(cable.share, 'share')} of the {show(allowed, 'share')} allowed"
