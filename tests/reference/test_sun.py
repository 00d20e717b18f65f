"""The sun and a tilted panel against pvlib: position, clear sky, split of beam and sky, plane of array, over days."""

import numpy as np
import pandas as pd
import pvlib
import pytest

from wired_union.physics.sun import day_hours, on_panel, panel_day, panel_irradiance, sun_position


def theirs(latitude: float, day: int) -> tuple[pd.DataFrame, np.ndarray]:
    """pvlib's solar position through a day at longitude 0, and the hours by the sun at which it is."""
    times = pd.date_range("2026-01-01", periods=24 * 12, freq="5min", tz="UTC") + pd.Timedelta(days=day - 1)
    found = pvlib.solarposition.get_solarposition(times, latitude, 0.0)
    hours = (times.hour + times.minute / 60 + found["equation_of_time"].to_numpy() / 60).to_numpy()
    return found, hours


@pytest.mark.parametrize("latitude", [-35.0, 0.0, 30.0, 52.0, 64.0])
@pytest.mark.parametrize("day", [15, 80, 172, 240, 355])
def test_the_sun_stands_where_pvlib_has_it(latitude, day):
    found, hours = theirs(latitude, day)
    for n in range(0, len(hours), 12):
        if not 0 <= hours[n] <= 24 or found["elevation"].iloc[n] < 3:
            continue
        ours = sun_position(latitude, day, float(hours[n]))
        assert ours.elevation_deg == pytest.approx(found["elevation"].iloc[n], abs=0.6)
        if found["elevation"].iloc[n] < 80:
            apart = (ours.azimuth_deg - found["azimuth"].iloc[n] + 180) % 360 - 180
            assert abs(apart) < 1.5


@pytest.mark.parametrize("latitude", [-35.0, 20.0, 52.0])
@pytest.mark.parametrize("day", [20, 110, 172, 300])
@pytest.mark.parametrize(("tilt", "facing"), [(0.0, 180.0), (35.0, 180.0), (60.0, 90.0), (90.0, 200.0)])
@pytest.mark.parametrize("clearness", [1.0, 0.6, 0.25])
def test_what_falls_on_a_panel_is_pvlibs_plane_of_array(latitude, day, tilt, facing, clearness):
    """Haurwitz for the clear sky, Erbs for beam and sky, the isotropic sky of Liu and Jordan: over a day within 3 %."""
    found, _ = theirs(latitude, day)
    level = pvlib.clearsky.haurwitz(found["apparent_zenith"])["ghi"] * clearness
    split = pvlib.irradiance.erbs(level, found["zenith"], day)
    total = pvlib.irradiance.get_total_irradiance(
        tilt, facing, found["apparent_zenith"], found["azimuth"], split["dni"], level, split["dhi"], albedo=0.2
    )["poa_global"].fillna(0.0)  # fmt: skip
    theirs_wh = float(total.sum()) / 12
    plane, _, ground = on_panel(latitude, day, day_hours(), tilt, facing, clearness)
    assert float(plane.sum()) / 4 == pytest.approx(theirs_wh, rel=0.03, abs=20.0)
    assert float(ground.sum()) / 4 == pytest.approx(float(level.sum()) / 12, rel=0.02, abs=10.0)


def test_days_are_long_in_summer_and_never_end_at_the_pole():
    assert sun_position(0.0, 80, 12).day_length_h == pytest.approx(12.0, abs=0.1)
    assert sun_position(52.0, 172, 12).day_length_h == pytest.approx(16.6, abs=0.2)  # almanac, about
    assert sun_position(80.0, 172, 12).day_length_h == 24.0
    assert sun_position(80.0, 355, 12).day_length_h == 0.0
    assert sun_position(90.0, 172, 12).day_length_h == 24.0


def test_a_panel_gives_its_power_times_the_hours_of_full_sun():
    one = panel_day(10.0, 52.0, 172, 30.0)
    assert one.energy_wh == pytest.approx(10.0 * one.full_sun_h * 0.8)
    assert 5.0 < one.full_sun_h < 9.0  # June in the north of Europe: common practice
    assert panel_day(10.0, 52.0, 355, 60.0, clearness=0.25).full_sun_h < 0.6
    assert panel_irradiance(52.0, 172, 0.0, 30.0).irradiance_w_per_m2 == 0.0
    best = max(range(0, 91, 5), key=lambda t: panel_day(10.0, 52.0, 355, float(t)).energy_wh)
    assert 60 <= best <= 80  # steep in winter
