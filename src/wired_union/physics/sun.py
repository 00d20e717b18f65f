"""Where the sun stands, what a clear sky gives, and what reaches a panel that is tilted.

Times are by the sun: at noon it stands in the south. Longitude, time zones and the equation of time move the clock, not
the energy of a day.
"""

import math
from typing import Any

import numpy as np
from msgspec import Struct

from wired_union.physics.battery import Array
from wired_union.physics.method import method, require
from wired_union.physics.sources import ERBS, HAURWITZ, LIU_JORDAN, SPENCER

SOLAR_W_PER_M2, GROUND = 1366.1, 0.2
"""Sun outside the air (ASTM E490, from memory); what grass and sand throw back (common practice)."""
LOWEST_COS = 0.0872
"""Of a sun 5° over the horizon: below it nothing is counted on."""
STEPS_A_DAY = 96
Weather = str
CLEARNESS = {"clear": 1.0, "mixed": 0.6, "overcast": 0.25}
"""Share of a clear sky's light that is left: common practice."""


class SunPlace(Struct, frozen=True):
    elevation_deg: float
    azimuth_deg: float
    day_length_h: float


@method(
    "sun-position",
    source="declination by its series; sin h = sin φ sin δ + cos φ cos δ cos ω",
    works=(SPENCER,),
    checked="pvlib's solar position, within 0.6° all over the year",
    limits="by the sun's own time, noon at 12; air does not bend the light",
)
def sun_position(latitude_deg: float, day_of_year: float, hour: float) -> SunPlace:
    """Where the sun stands.

    Args:
        latitude_deg: north above 0
        day_of_year: 1 for the first of January
        hour: by the sun, 12 at noon
    Returns:
        elevation_deg: above the horizon
        azimuth_deg: from north by east: 180 is south
        day_length_h: from rise to set
    Raises:
        ValueError: a latitude beyond a pole, a day or an hour that is none.
    """
    require(-90 <= latitude_deg <= 90, "the latitude is from −90 to 90")
    require(1 <= day_of_year <= 366 and 0 <= hour <= 24, "the day is from 1 to 366, the hour from 0 to 24")
    cos_zenith, azimuth = _placed(latitude_deg, day_of_year, np.array([hour]))
    lat, dec = math.radians(latitude_deg), _declination(day_of_year)
    cos_set = -math.tan(lat) * math.tan(dec) if abs(latitude_deg) < 89.999 else math.copysign(2.0, -lat * dec)
    length = 24 / math.pi * math.acos(min(max(cos_set, -1.0), 1.0))
    return SunPlace(math.degrees(math.asin(float(cos_zenith[0]))), float(azimuth[0]), length)


def _declination(day_of_year: float) -> float:
    """How far the sun stands north of the equator at noon, in radians."""
    b = 2 * math.pi * (day_of_year - 0.5) / 365
    return (0.006918 - 0.399912 * math.cos(b) + 0.070257 * math.sin(b) - 0.006758 * math.cos(2 * b)
            + 0.000907 * math.sin(2 * b) - 0.002697 * math.cos(3 * b) + 0.00148 * math.sin(3 * b))  # fmt: skip


def _placed(latitude_deg: float, day_of_year: float, hours: Array) -> tuple[Array, Array]:
    """Cosine of the zenith angle, and azimuth in degrees, at some hours."""
    lat, dec, turn = math.radians(latitude_deg), _declination(day_of_year), np.radians((hours - 12) * 15)
    cos_zenith = math.sin(lat) * math.sin(dec) + math.cos(lat) * math.cos(dec) * np.cos(turn)
    east = -math.cos(dec) * np.sin(turn)
    north = math.cos(lat) * math.sin(dec) - math.sin(lat) * math.cos(dec) * np.cos(turn)
    return np.clip(cos_zenith, -1.0, 1.0), np.degrees(np.arctan2(east, north)) % 360


class OnPanel(Struct, frozen=True):
    irradiance_w_per_m2: float
    beam_w_per_m2: float
    horizontal_w_per_m2: float


@method(
    "panel-irradiance",
    source="clear sky by the cosine, split into beam and sky, sky alike all over",
    works=(HAURWITZ, ERBS, LIU_JORDAN),
    checked="pvlib: haurwitz, erbs and the isotropic plane of array",
    limits="weather as a share of a clear sky; no mountains, no haze of its own",
)
def panel_irradiance(
    latitude_deg: float, day_of_year: float, hour: float, tilt_deg: float, azimuth_deg: float = 180.0,
    clearness: float = 1.0,
) -> OnPanel:  # fmt: skip
    """What falls on a tilted panel.

    Args:
        latitude_deg: north above 0
        day_of_year: 1 for the first of January
        hour: by the sun, 12 at noon
        tilt_deg: 0 flat, 90 upright
        azimuth_deg: that it faces: 180 is south
        clearness: share of a clear sky's light: 1 clear, 0.6 mixed, 0.25 overcast (common practice)
    Returns:
        irradiance_w_per_m2: on the panel
        beam_w_per_m2: of that straight from the sun
        horizontal_w_per_m2: on level ground
    Raises:
        ValueError: figures beyond what they can be.
    """
    require(-90 <= latitude_deg <= 90, "the latitude is from −90 to 90")
    require(1 <= day_of_year <= 366 and 0 <= hour <= 24, "the day is from 1 to 366, the hour from 0 to 24")
    require(0 <= tilt_deg <= 90 and 0 <= azimuth_deg <= 360, "the tilt is from 0 to 90, the azimuth from 0 to 360")
    require(0 <= clearness <= 1, "clearness is from 0 to 1")
    hours = np.array([hour])
    plane, beam, level = on_panel(latitude_deg, day_of_year, hours, tilt_deg, azimuth_deg, clearness)
    return OnPanel(float(plane[0]), float(beam[0]), float(level[0]))


def on_panel(
    latitude_deg: float, day_of_year: float, hours: Array, tilt_deg: float, azimuth_deg: float, clearness: float
) -> tuple[Array, Array, Array]:
    """`panel_irradiance` at many hours: on the panel, of that the beam, and on level ground."""
    cos_zenith, azimuth = _placed(latitude_deg, day_of_year, hours)
    up = np.maximum(cos_zenith, 0.0)
    with np.errstate(divide="ignore", over="ignore"):
        clear = np.where(up > 0, 1098.0 * up * np.exp(-0.057 / np.maximum(up, 1e-6)), 0.0)
    level: Any = clear * clearness
    sky = level * _sky_share(level, up, day_of_year)
    normal = np.where(up > LOWEST_COS, (level - sky) / np.maximum(up, LOWEST_COS), 0.0)
    sky = np.where(up > LOWEST_COS, sky, level)
    tilt, turn = math.radians(tilt_deg), np.radians(azimuth - azimuth_deg)
    zenith = np.arccos(cos_zenith)
    cos_onto = np.cos(zenith) * math.cos(tilt) + np.sin(zenith) * math.sin(tilt) * np.cos(turn)
    beam = normal * np.maximum(cos_onto, 0.0)
    plane = beam + sky * (1 + math.cos(tilt)) / 2 + level * GROUND * (1 - math.cos(tilt)) / 2
    return np.asarray(plane), np.asarray(beam), np.asarray(level)


def _sky_share(level: Array, cos_zenith: Array, day_of_year: float) -> Array:
    """Share of the light on level ground that comes from the whole sky, by how clear it is."""
    b = 2 * math.pi * (day_of_year - 0.5) / 365
    nearer = 1.00011 + 0.034221 * math.cos(b) + 0.00128 * math.sin(b)
    nearer += 0.000719 * math.cos(2 * b) + 7.7e-5 * math.sin(2 * b)
    kt = np.clip(level / (SOLAR_W_PER_M2 * nearer * np.maximum(cos_zenith, 0.065)), 0.0, 1.0)
    middle = 0.9511 - 0.1604 * kt + 4.388 * kt**2 - 16.638 * kt**3 + 12.336 * kt**4
    return np.asarray(np.where(kt <= 0.22, 1 - 0.09 * kt, np.where(kt <= 0.8, middle, 0.165)))


def day_hours() -> Array:
    """Middles of the quarters of an hour of a day."""
    return np.asarray((np.arange(STEPS_A_DAY) + 0.5) * 24 / STEPS_A_DAY)


class PanelDay(Struct, frozen=True):
    energy_wh: float
    most_w: float
    full_sun_h: float


@method(
    "panel-day",
    source="irradiance over a day by quarters of an hour, times the panel's power in full sun",
    works=(HAURWITZ, ERBS, LIU_JORDAN),
    checked="pvlib's plane of array over days and latitudes",
    limits="a panel that follows its best point; a share of what is lost to dirt, warmth and wires",
)
def panel_day(
    peak_power_w: float, latitude_deg: float, day_of_year: float, tilt_deg: float, azimuth_deg: float = 180.0,
    clearness: float = 1.0, kept: float = 0.8,
) -> PanelDay:  # fmt: skip
    """Energy of a panel on a day.

    Args:
        peak_power_w: in full sun, 1000 W/m² and 25 °C
        latitude_deg: north above 0
        day_of_year: 1 for the first of January
        tilt_deg: 0 flat, 90 upright
        azimuth_deg: that it faces: 180 is south
        clearness: share of a clear sky's light
        kept: share that dirt, warmth and wires leave: 0.8, common practice
    Returns:
        energy_wh: of the day
        most_w: at its best moment
        full_sun_h: hours of full sun that would give as much
    Raises:
        ValueError: figures beyond what they can be.
    """
    require(peak_power_w > 0 and 0 < kept <= 1, "peak power is above 0, what is kept above 0 and at most 1")
    require(-90 <= latitude_deg <= 90, "the latitude is from −90 to 90")
    require(1 <= day_of_year <= 366, "the day is from 1 to 366")
    require(0 <= tilt_deg <= 90 and 0 <= azimuth_deg <= 360, "the tilt is from 0 to 90, the azimuth from 0 to 360")
    require(0 <= clearness <= 1, "clearness is from 0 to 1")
    plane, _, _ = on_panel(latitude_deg, day_of_year, day_hours(), tilt_deg, azimuth_deg, clearness)
    hours = float(plane.sum()) / 1000 * 24 / STEPS_A_DAY
    return PanelDay(hours * peak_power_w * kept, float(plane.max()) / 1000 * peak_power_w * kept, hours)
