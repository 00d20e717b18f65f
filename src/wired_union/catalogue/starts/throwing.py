"""Starts that throw or sort: a feed caster for a pond, a button sorter."""

from wired_union.catalogue.starts.kit import Place, Way, costs, draws, made, reacts, runs, shown, weighs
from wired_union.project.model import Actuator, Chain, Event, Project, Sampled, Transfer
from wired_union.project.motion_model import ArmLoad, SpinLoad


def feed_caster() -> Project:
    """A spinning wheel throws pellets over a fish pond, a dozen at each feeding."""
    places = (
        Place("battery", "pack-4s-6-ah-lifepo4", "Feed"),
        Place("fuse", "fuse-blade-7p5-a-with-holder", "Feed", "battery"),
        Place("buck", "buck-6-v-5-a-for-servos", "Feed", "fuse"),
        Place("logic", "buck-3p3-v-2-a", "Feed", "fuse"),
        Place("bridge", "single-h-bridge-3p6-a", "Throw", "fuse"),
        Place("spinner", "gearmotor-25-mm-12-v-20-1", "Throw", "bridge"),
        Place("wheel", "wheel-100-mm-rubber-tread", "Throw"),
        Place("hatch", "servo-20-g-metal-gear", "Throw", "buck"),
        Place("level", "load-cell-beam-5-kg-with-amplifier", "Sense", "logic"),
        Place("guard", "limit-switch-sealed-roller", "Sense", "logic"),
        Place("controller", "controller-32-bit-low-power", "Think", "logic"),
        Place("radio", "radio-sub-ghz-long-range", "Think", "logic"),
        Place("stop", "switch-emergency-stop-10-a", "Think"),
        Place("box", "sealed-box-200-x-150-x-75", "Frame"),
        Place("cable", "cable-and-connector-set", "Frame"),
    )
    ways = (
        Way("Throw", 60, "active", {"hatch": ("active", 0.2), "radio": "sleep"}),
        Way("Report", 10, "idle", {"controller": "active", "radio": ("active", 0.2), "spinner": "off", "hatch": "off"}),
        Way("Wait", 21_530, "sleep", {"controller": ("active", 0.001), "spinner": "off", "hatch": "off"}),
    )
    throw = SpinLoad(
        id="throw",
        name="Thrower",
        actuator="spinner",
        ratio=0.35,
        wheel_diameter_m=0.1,
        inertia_kg_m2=3e-4,
        shot_mass_kg=0.004,
        release_speed_m_s=2.2,
        grip=0.5,
        every_s=1.0,
    )
    guard = Chain(
        id="guard",
        name="Guard open to standstill",
        stages=(
            Event(name="guard lifts", least_s=0.0, most_s=0.02),
            Sampled(name="guard looked at", period_s=0.02, response_s=0.001),
            Actuator(name="wheel runs down", least_s=0.5, most_s=1.5),
        ),
    )
    limits = (
        runs(14 * 86_400, "Feeds for two weeks"),
        draws(4),
        weighs(4),
        reacts("guard", 1.0, "Stands before a hand"),
        costs(260),
        shown("spread", "Of a hundred pellets that fall in the ring", 80, "pellets", "a tarpaulin"),
    )
    return made("Fish-pond feed caster", "throws", limits, places, ways, 80, (throw,), (guard,))


def button_sorter() -> Project:
    """Buttons slide past an eye on a table, and a flap sends each into its cup."""
    places = (
        Place("battery", "pack-3s-6-ah-li-ion", "Feed"),
        Place("switch", "switch-with-fuse-5-a", "Feed", "battery"),
        Place("servo-rail", "buck-6-v-5-a-for-servos", "Feed", "switch"),
        Place("buck", "buck-5-v-3-a", "Feed", "switch"),
        Place("logic", "ldo-3p3-v-0p8-a", "Feed", "buck"),
        Place("bridge", "single-h-bridge-3p6-a", "Slide", "switch"),
        Place("feeder", "gearmotor-25-mm-12-v-150-1", "Slide", "bridge"),
        Place("flap", "servo-9-g-plastic-gear", "Sort", "servo-rail", 2),
        Place("eye", "camera-2-mp-serial", "Sense", "buck"),
        Place("gate", "beam-pair-5-mm-gap", "Sense", "logic"),
        Place("controller", "controller-32-bit-fast-float-unit", "Think", "logic"),
        Place("table", "deck-plate-plywood-400-x-300-x-6", "Frame"),
        Place("cable", "cable-and-connector-set", "Frame"),
    )
    ways = (
        Way("Sort", 3600, "active", {"flap": ("active", 0.3)}),
        Way("Empty the cups", 300, "idle", {"controller": "active"}),
    )
    flap = ArmLoad(
        id="flap-load",
        name="Flap",
        actuator="flap",
        motors=1,
        payload_kg=0.005,
        reach_m=0.04,
        from_deg=-30,
        to_deg=30,
        speed_rad_s=5,
        acceleration_rad_s2=60,
    )
    sort = Chain(
        id="sort",
        name="Eye to flap",
        stages=(
            Event(name="button in the gate", least_s=0.0, most_s=0.002),
            Sampled(name="picture taken", period_s=1 / 30, response_s=0.004),
            Transfer(name="picture sent", bus="spi", bytes=38_400, clock_hz=20e6),
            Sampled(name="colour judged", period_s=0.02, response_s=0.012),
            Actuator(name="flap swings", least_s=0.06, most_s=0.1),
        ),
    )
    limits = (
        runs(4 * 3600, "Sorts an afternoon"),
        draws(5),
        weighs(3),
        reacts("sort", 0.18, "Sorts before it has passed"),
        costs(220),
        shown("right", "Of a hundred buttons in the right cup", 97, "buttons", "three mixed jars"),
    )
    return made("Button sorter", "sorts on a table", limits, places, ways, 4, (flap,), (sort,))
