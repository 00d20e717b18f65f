"""A start that sits and senses for weeks: a peat-bog level logger."""

from wired_union.catalogue.starts.kit import Place, Way, costs, draws, made, reacts, runs, shown, weighs
from wired_union.project.model import Chain, Project, Sampled, Transfer


def bog_logger() -> Project:
    """It reads the water level of a peat bog every quarter of an hour and sends a packet, for a year."""
    places = (
        Place("battery", "pack-1s-19-ah-lithium-primary", "Feed"),
        Place("logic", "buck-boost-3p3-v-1-a", "Feed", "battery"),
        Place("level", "depth-pressure-30-bar", "Sense", "logic"),
        Place("warmth", "temperature-digital-0p1-c", "Sense", "logic"),
        Place("air", "temperature-humidity-pressure", "Sense", "logic"),
        Place("controller", "controller-32-bit-low-power", "Think", "logic"),
        Place("radio", "radio-sub-ghz-long-range", "Think", "logic"),
        Place("box", "sealed-box-120-x-80-x-55", "Frame"),
        Place("glands", "cable-glands-set-of-6", "Frame"),
        Place("cable", "cable-and-connector-set", "Frame"),
    )
    ways = (
        Way("Read", 2, "active", {"radio": "sleep"}),
        Way("Send", 1, "sleep", {"controller": "active", "radio": "peak"}),
        Way("Sleep", 897, "sleep"),
    )
    send = Chain(
        id="send",
        name="Level to packet",
        stages=(
            Sampled(name="level read", period_s=900, response_s=0.2),
            Transfer(name="over the bus", bus="i2c", bytes=6, clock_hz=100e3),
            Sampled(name="packet sent", period_s=1.0, response_s=0.4),
        ),
    )
    limits = (
        runs(365 * 86_400, "Lasts a year"),
        draws(0.25),
        weighs(0.75, "Light enough for its pole"),
        reacts("send", 960, "Never older than a reading"),
        costs(180),
        shown("packets", "Packets of a hundred that arrive", 95, "packets", "two weeks at the bog"),
    )
    return made("Peat-bog level logger", "sits and senses for weeks", limits, places, ways, 100_000, (), (send,))
