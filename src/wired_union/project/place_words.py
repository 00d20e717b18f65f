"""Places and ways in words: "120 mm forward, 80 mm left, 60 mm up"."""

from wired_union.project.place_model import Place
from wired_union.units import show


def said_place(place: Place) -> str:
    """Where it is: "120 mm forward, 80 mm left, 60 mm up, tilted 90°"."""
    parts = ((place.x_m, "forward", "back"), (place.y_m, "left", "right"), (place.z_m, "up", "down"))
    said = [f"{show(abs(v), 'm')} {more if v >= 0 else less}" for v, more, less in parts]
    said += [f"turned {show(place.turn_deg, '°')}"] if place.turn_deg else []
    said += [f"tilted {show(place.tilt_deg, '°')}"] if place.tilt_deg else []
    return ", ".join(said)


def said_move(dx_m: float, dy_m: float, dz_m: float) -> str:
    """Which way: "40 mm back"."""
    parts = ((dx_m, "forward", "back"), (dy_m, "to the left", "to the right"), (dz_m, "up", "down"))
    return ", ".join(f"{show(abs(v), 'm')} {more if v > 0 else less}" for v, more, less in parts if v) or "nowhere"
