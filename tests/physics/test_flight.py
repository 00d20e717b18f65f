"""Flights against scipy's solver of differential equations, and without drag against the closed form."""

import math

import numpy as np
import pytest
import scipy.integrate
import scipy.optimize
from hypothesis import given, settings
from hypothesis import strategies as st

from wired_union.physics.flight import drag_per_m, flight_with_drag, flights
from wired_union.physics.uncertainty import projectile_range


def solved(speed, angle, height, drag):
    def pull(_, s):
        v = math.hypot(s[2], s[3])
        return [s[2], s[3], -drag * v * s[2], -drag * v * s[3] - 9.80665]

    def ground(_, s):
        return s[1]

    ground.terminal, ground.direction = True, -1
    start = [0, height + 1e-12, speed * math.cos(angle), speed * math.sin(angle)]
    return scipy.integrate.solve_ivp(pull, (0, 1e3), start, events=ground, rtol=1e-10, atol=1e-12, dense_output=True)


@given(st.floats(0.5, 60), st.floats(-60, 85), st.floats(0.1, 20))
@settings(max_examples=60, deadline=None)
def test_without_drag_it_is_the_closed_form(speed, angle, height):
    found, known = flight_with_drag(speed, angle, height, 1.0, 0.1, 0.0), projectile_range(speed, angle, height)
    assert (found.range_m, found.apex_m, found.time_s) == pytest.approx(
        (known.range_m, known.apex_m, known.time_s), rel=1e-6
    )


@pytest.mark.parametrize(("speed", "angle", "height", "mass", "diameter", "drag"), [
    (10, 45, 1.0, 0.058, 0.066, 0.5), (30, 30, 2.0, 0.0027, 0.04, 0.5), (12, 70, 0.5, 0.2, 0.2, 1.1), (25, -10, 5, 0.1, 0.1, 0.5),
    (8, 0, 1.5, 0.5, 0.12, 0.4),
])  # fmt: skip
def test_with_drag_it_is_what_an_ode_solver_finds(speed, angle, height, mass, diameter, drag):
    found = flight_with_drag(speed, angle, height, mass, diameter, drag)
    theirs = solved(speed, math.radians(angle), height, drag_per_m(mass, diameter, drag))
    end = theirs.y_events[0][0]
    assert found.range_m == pytest.approx(end[0], rel=1e-4)
    assert found.time_s == pytest.approx(theirs.t_events[0][0], rel=1e-4)
    assert found.landing_speed_m_s == pytest.approx(math.hypot(end[2], end[3]), rel=1e-3)
    top = theirs.sol(np.linspace(0, theirs.t_events[0][0], 20_000))[1].max()
    assert found.apex_m == pytest.approx(top, rel=1e-4)


def test_many_at_once_are_each_alone_and_the_wall_is_met_at_its_height():
    many = flights([8.0, 10.0, 12.0], math.radians(40), 1.0, 0.02, wall_m=6.0)
    for n, speed in enumerate((8.0, 10.0, 12.0)):
        theirs = solved(speed, math.radians(40), 1.0, 0.02)
        assert many.range_m[n] == pytest.approx(theirs.y_events[0][0][0], rel=1e-5)
        t = scipy.optimize.brentq(lambda t, s=theirs: s.sol(t)[0] - 6.0, 0, theirs.t_events[0][0])
        assert many.at_wall_m[n] == pytest.approx(theirs.sol(t)[1], abs=2e-3)
    assert np.isnan(flights([1.0], 0.5, 0.0, 0.0, wall_m=5.0).at_wall_m[0])


@given(st.floats(5, 40), st.floats(10, 80), st.floats(0, 0.2), st.floats(0, 0.2))
@settings(max_examples=40, deadline=None)
def test_more_drag_never_goes_further(speed, angle, drag, more):
    one, other = (flights([speed], [math.radians(angle)], 1.0, d).range_m[0] for d in (drag, drag + more))
    assert other <= one * (1 + 1e-7)


def test_what_cannot_be_thrown_is_refused():
    with pytest.raises(ValueError, match="all but stops"):
        flight_with_drag(30, 45, 5, 1e-5, 0.5, 1.2)
    good = (10, 45, 1, 0.1, 0.1, 0.5)
    for n, bad in ((0, -1), (1, 91), (2, -1), (3, 0), (4, 0), (5, -1)):
        with pytest.raises(ValueError, match=r"."):
            flight_with_drag(*good[:n], bad, *good[n + 1 :])
