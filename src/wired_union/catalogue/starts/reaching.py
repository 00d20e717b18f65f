"""Starts that reach, open or turn: a jar picker, a hen-house door, a sun follower."""

from wired_union.catalogue.starts.kit import Does, Place, Way, costs, draws, made, reacts, runs, shown, weighs
from wired_union.project.model import Actuator, Chain, Debounce, Event, Project, Sampled
from wired_union.project.motion_model import ArmLoad, ScrewLoad


def jar_picker() -> Project:
    """An arm on a turning base picks jars from a greenhouse shelf."""
    places = (
        Place("battery", "pack-3s-5-ah-lipo", "Feed"),
        Place("bus", "fused-bus-15-a", "Feed", "battery"),
        Place("servo-rail", "buck-6-v-5-a-for-servos", "Feed", "bus"),
        Place("shoulder-rail", "buck-6-v-10-a-for-servos", "Feed", "bus"),
        Place("logic", "ldo-3p3-v-0p8-a", "Feed", "servo-rail"),
        Place("base", "servo-standard-2-n-m", "Arm", "servo-rail"),
        Place("shoulder", "servo-large-6-n-m", "Arm", "shoulder-rail"),
        Place("wrist", "servo-standard-1-n-m", "Arm", "servo-rail"),
        Place("gripper", "servo-20-g-metal-gear", "Grip", "servo-rail"),
        Place("grip-feel", "load-cell-beam-1-kg-with-amplifier", "Grip", "logic"),
        Place("eye", "time-of-flight-8-x-8-zones", "Sense", "logic"),
        Place("controller", "controller-32-bit-3p3-v", "Think", "logic"),
        Place("stop", "switch-emergency-stop-10-a", "Think"),
        Place("board", "deck-plate-plywood-400-x-300-x-6", "Frame"),
        Place("links", "profile-20-mm-aluminium-1-m", "Frame"),
        Place("cable", "cable-and-connector-set", "Frame"),
    )
    ways = (
        Way(
            "Reach",
            6,
            "idle",
            {"shoulder": "active", "base": "active", "wrist": "active", "eye": "active", "controller": "active"},
            staggered=True,
        ),
        Way("Grip", 3, "idle", {"gripper": "active", "grip-feel": "active", "controller": "active"}),
        Way(
            "Carry",
            8,
            "idle",
            {
                "shoulder": "active",
                "base": "active",
                "gripper": "active",
                "grip-feel": "active",
                "controller": "active",
            },
            staggered=True,
        ),
        Way("Wait", 20, "idle", {}),
    )
    loads = (
        ArmLoad(
            id="shoulder-load",
            name="Shoulder",
            actuator="shoulder",
            payload_kg=0.25,
            reach_m=0.28,
            link_mass_kg=0.2,
            from_deg=-40,
            to_deg=80,
            speed_rad_s=1.0,
        ),
        ArmLoad(
            id="base-load",
            name="Base",
            actuator="base",
            payload_kg=0.25,
            reach_m=0.28,
            link_mass_kg=0.3,
            from_deg=-90,
            to_deg=90,
            speed_rad_s=1.5,
            acceleration_rad_s2=6,
            axis="upright",
        ),
    )
    stop = Chain(
        id="stop",
        name="Touch to standstill",
        stages=(
            Event(name="finger touches", least_s=0.0, most_s=0.01),
            Sampled(name="force read", period_s=0.0125, response_s=0.001),
            Sampled(name="arm task", period_s=0.02, response_s=0.003),
            Actuator(name="servo stops", least_s=0.03, most_s=0.08),
        ),
    )
    limits = (
        runs(8 * 3600, "Works a day"),
        draws(9),
        weighs(3),
        reacts("stop", 0.15, "Stops when touched"),
        costs(300),
        shown("jars", "Jars of twenty put down whole", 20, "jars", "jars of lentils"),
    )
    return made("Greenhouse jar picker", "reaches and grips", limits, places, ways, 1000, loads, (stop,))


def hen_door() -> Project:
    """A screw lifts the door of a hen house at dawn and lets it down at dusk, for a month on one charge."""
    places = (
        Place("battery", "pack-4s-6-ah-lifepo4", "Feed"),
        Place("fuse", "fuse-blade-15-a-with-holder", "Feed", "battery"),
        Place("logic", "buck-3p3-v-0p6-a-low-quiescent", "Feed", "fuse"),
        Place("bridge", "single-h-bridge-15-a", "Door", "fuse"),
        Place("screw", "leadscrew-actuator-12-v-300-mm-600-n", "Door", "bridge"),
        Place("ends", "limit-switch-sealed-roller", "Door", "logic", 2),
        Place("beam", "infrared-beam-pair-low-power", "Sense", "logic"),
        Place("light", "light-sensor", "Sense", "logic"),
        Place("controller", "controller-32-bit-low-power", "Think", "logic"),
        Place("box", "sealed-box-120-x-80-x-55", "Frame"),
        Place("rail", "profile-20-mm-aluminium-1-m", "Frame"),
        Place("cable", "cable-and-connector-set", "Frame"),
    )
    night: dict[str, Does] = {
        "controller": ("active", 0.002),
        "light": ("active", 0.002),
        "screw": "off",
        "beam": "sleep",
    }
    ways = (
        Way("Open", 40, "idle", {"screw": "active", "controller": "active", "ends": "active"}),
        Way("Day", 43_160, "sleep", night),
        Way("Close", 40, "idle", {"screw": "active", "controller": "active", "ends": "active", "beam": "active"}),
        Way("Night", 43_160, "sleep", night),
    )
    lift = ScrewLoad(
        id="door",
        name="Door",
        actuator="screw",
        force_n=60,
        stroke_m=0.28,
        time_s=40,
        limit_switches=True,
        hand_release=True,
    )
    stop = Chain(
        id="stop",
        name="Hen to standstill",
        stages=(
            Event(name="hen in the beam", least_s=0.0, most_s=0.05),
            Debounce(name="beam settled", least_s=0.02, most_s=0.03),
            Sampled(name="door task", period_s=0.05, response_s=0.005),
            Actuator(name="screw stops", least_s=0.05, most_s=0.15),
        ),
    )
    limits = (
        runs(40 * 86_400, "Runs forty days"),
        draws(9),
        weighs(5),
        reacts("stop", 0.3, "Stops for a hen"),
        costs(260),
        shown("hens", "Closings of fifty with every hen inside", 50, "closings", "a week of dusks"),
    )
    return made("Hen-house door", "opens and closes", limits, places, ways, 60, (lift,), (stop,))


def sun_follower() -> Project:
    """It turns a cooker's mirror after the sun."""
    places = (
        Place("battery", "pack-6-cell-7p2-ah-lead-acid", "Feed"),
        Place("fuse", "fuse-blade-15-a-with-holder", "Feed", "battery"),
        Place("logic", "buck-3p3-v-2-a", "Feed", "fuse"),
        Place("bridge", "dual-h-bridge-12-a", "Turn", "fuse"),
        Place("turner", "gearmotor-25-mm-12-v-200-1", "Turn", "bridge"),
        Place("tilter", "gearmotor-37-mm-12-v-131-1", "Turn", "bridge"),
        Place("ends", "hall-switch", "Turn", "logic", 4),
        Place("eyes", "light-sensor", "Sense", "logic", 4),
        Place("tilt", "accelerometer-3-axis-low-power", "Sense", "logic"),
        Place("controller", "controller-32-bit-low-power", "Think", "logic"),
        Place("frame", "profile-20-mm-aluminium-1-m", "Frame", "", 3),
        Place("box", "sealed-box-120-x-80-x-55", "Frame"),
        Place("cable", "cable-and-connector-set", "Frame"),
    )
    ways = (
        Way("Point", 4, "active", {}, staggered=True),
        Way("Wait", 236, "sleep", {"controller": ("active", 0.01), "turner": "off", "tilter": "off"}),
    )
    loads = (
        ArmLoad(
            id="azimuth",
            name="Round the mast",
            actuator="turner",
            ratio=10,
            payload_kg=6,
            reach_m=0.5,
            from_deg=-120,
            to_deg=120,
            speed_rad_s=0.02,
            acceleration_rad_s2=0.05,
            axis="upright",
        ),
        ArmLoad(
            id="height",
            name="Up and down",
            actuator="tilter",
            ratio=20,
            payload_kg=4,
            reach_m=0.35,
            from_deg=10,
            to_deg=80,
            speed_rad_s=0.02,
        ),
    )
    follow = Chain(
        id="follow",
        name="Cloud gone to pointed",
        stages=(
            Sampled(name="light looked at", period_s=240, response_s=0.01),
            Actuator(name="mirror turns", least_s=1, most_s=4),
        ),
    )
    limits = (
        runs(10 * 3600, "Follows a summer day"),
        draws(9),
        weighs(12, "Two can lift it"),
        reacts("follow", 180, "Finds the sun again"),
        costs(300),
        shown("litres", "Water boiled by noon", 2, "litres", "a clear day in June"),
    )
    return made("Cooker's sun follower", "turns and points", limits, places, ways, 400, loads, (follow,))
