"""Starts that roll or float: a seed-drill cart for a raised bed, a river-bottom probe."""

from wired_union.catalogue.starts.kit import Place, Way, costs, draws, made, reacts, runs, shown, weighs
from wired_union.project.model import Actuator, Chain, Event, Project, Sampled, WheelLoad


def seed_cart() -> Project:
    """It rolls along a raised bed and sets a seed every few centimetres."""
    places = (
        Place("battery", "pack-4s-3p2-ah-lifepo4", "Feed"),
        Place("bus", "fused-bus-10-a", "Feed", "battery"),
        Place("buck", "buck-6-v-5-a-for-servos", "Feed", "bus"),
        Place("logic", "ldo-3p3-v-0p8-a", "Feed", "buck"),
        Place("driver", "dual-h-bridge-5-a", "Move", "bus"),
        Place("motors", "gearmotor-25-mm-12-v-75-1", "Move", "driver", 2),
        Place("wheels", "wheel-150-mm-rubber-tread", "Move", "", 4),
        Place("gate", "servo-20-g-metal-gear", "Seed", "buck"),
        Place("seed-eye", "photo-interrupter", "Seed", "logic"),
        Place("encoder", "encoder-magnetic-12-bit", "Think", "logic"),
        Place("controller", "controller-32-bit-3p3-v", "Think", "logic"),
        Place("plate", "deck-plate-plywood-400-x-300-x-6", "Frame"),
        Place("box", "sealed-box-200-x-150-x-75", "Frame"),
        Place("cable", "cable-and-connector-set", "Frame"),
    )
    ways = (
        Way("Sow", 1500, "active", {"gate": ("active", 0.2)}),
        Way("Turn", 300, "active", {"gate": "idle"}),
    )
    drive = WheelLoad(
        id="drive",
        name="Drive",
        actuator="motors",
        wheel="wheels",
        wheels=4,
        driven_wheels=2,
        slope_deg=8,
        rolling_resistance=0.15,
        step_m=0.01,
        speed_m_s=0.2,
        friction=0.7,
    )
    seed = Chain(
        id="seed",
        name="Gap to gate",
        stages=(
            Sampled(name="wheel angle read", period_s=0.01, response_s=0.001),
            Sampled(name="spacing task", period_s=0.02, response_s=0.002),
            Actuator(name="gate opens", least_s=0.04, most_s=0.07),
        ),
    )
    limits = (
        runs(3 * 3600, "Sows a morning"),
        draws(10),
        weighs(6),
        reacts("seed", 0.1, "Seeds where they should lie"),
        costs(300),
        shown("seeds", "Seeds of a hundred that come up", 90, "seeds", "a tray of compost"),
    )
    return made("Raised-bed seed cart", "rolls and sows", limits, places, ways, 8, (drive,), (seed,))


def river_probe() -> Project:
    """It sinks to the bottom of a river, measures for a while and comes up again."""
    places = (
        Place("battery", "pack-3s-5-ah-lipo", "Feed"),
        Place("bus", "fused-bus-10-a", "Feed", "battery"),
        Place("buck", "buck-5-v-3-a", "Feed", "bus"),
        Place("logic", "ldo-3p3-v-0p8-a", "Feed", "buck"),
        Place("bridge", "single-h-bridge-15-a", "Float", "bus"),
        Place("pump", "pump-water-diaphragm-12-v", "Float", "bridge"),
        Place("depth", "depth-pressure-30-bar", "Sense", "logic"),
        Place("warmth", "temperature-digital-0p1-c", "Sense", "logic"),
        Place("murk", "turbidity-sensor", "Sense", "buck"),
        Place("radio", "radio-sub-ghz-long-range", "Think", "logic"),
        Place("controller", "controller-32-bit-low-power", "Think", "logic"),
        Place("glands", "cable-glands-set-of-6", "Hull"),
        Place("hull", "core-tube-acrylic-50-mm-x-300", "Hull"),
        Place("cable", "cable-and-connector-set", "Hull"),
    )
    ways = (
        Way("Sink", 60, "idle", {"controller": "active", "depth": "active", "pump": "active", "radio": "sleep"}),
        Way("Measure", 1800, "active", {"pump": "off", "radio": "sleep"}),
        Way("Rise", 90, "idle", {"controller": "active", "depth": "active", "pump": "active", "radio": "sleep"}),
        Way("Report", 120, "idle", {"controller": "active", "radio": ("active", 0.05), "pump": "off", "murk": "sleep"}),
    )
    rise = Chain(
        id="rise",
        name="Alarm to rising",
        stages=(
            Event(name="water comes in", least_s=0.0, most_s=0.5),
            Sampled(name="leak looked at", period_s=1.0, response_s=0.01),
            Actuator(name="pump fills the bladder", least_s=20, most_s=40),
        ),
    )
    limits = (
        runs(48 * 3600, "Dives for two days"),
        draws(5),
        weighs(2.5),
        reacts("rise", 45, "Comes up in time"),
        costs(330),
        shown("tight", "Minutes at ten metres without a drop inside", 60, "min", "on a line"),
    )
    return made("River-bottom probe", "sinks, measures, comes up again", limits, places, ways, 100, (), (rise,))
