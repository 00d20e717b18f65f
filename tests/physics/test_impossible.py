"""Methods against what cannot be: refused in one plain sentence, never hung, never with a message of Python's."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from wired_union.physics.battery import peukert_runtime
from wired_union.physics.bus import i2c_time
from wired_union.physics.method import Method, MethodError
from wired_union.physics.methods import all_methods, find_method
from wired_union.physics.motor import dc_motor, motor_constants
from wired_union.physics.radio import airtime_share, lora_airtime
from wired_union.physics.schedule import response_times
from wired_union.physics.stored_energy import tank_shot
from wired_union.physics.vibration import cantilever_frequency, natural_frequency

ODD = ("0", "-1", "1e-9", "1e9", "1e300", "-300", "0.5", "3", "12")
PYTHON = ("math domain", "math range", "division", "NoneType", "index", "object", "unsupported", "complex")


def _text(method: Method, name: str, value: str) -> str:
    kind = next(i.kind for i in method.inputs if i.name == name)
    return {
        "list": f"{value},{value}",
        "flag": "yes",
        "word": "supported",
        "stages": f"{value.strip('-')}:{value.strip('-')}",
    }.get(kind, value)


@pytest.mark.parametrize("method", all_methods(), ids=lambda m: m.name)
@settings(max_examples=60, deadline=None)
@given(data=st.data())
def test_odd_figures_give_an_answer_or_a_plain_sentence(method: Method, data: st.DataObject) -> None:
    texts = {i.name: _text(method, i.name, data.draw(st.sampled_from(ODD))) for i in method.inputs}
    try:
        method.work(texts)
    except MethodError as error:
        assert not any(word in str(error) for word in PYTHON), str(error)
        assert "\n" not in str(error)


def test_response_times_refuse_what_hung_and_keep_whole_numbers_whole() -> None:
    with pytest.raises(ValueError, match="blocking times are 0 or more"):
        response_times([1.0, 1.0], [3.0, 5.0], blocking_s=[-5.0, -5.0])
    with pytest.raises(ValueError, match="task 2 runs 4 s, longer than the 3 s it has"):
        response_times([1.0, 4.0], [9.0, 9.0], [9.0, 3.0])
    # 0.1 + 0.2 is a little over 0.3, where the task of period 0.3 has not started again
    assert response_times([0.1, 0.2], [0.3, 0.6]).response_s == pytest.approx([0.1, 0.3])
    assert response_times([1e-9, 0.5], [1.0000001e-9, 1.0]).response_s[1] == math.inf  # 5e8 rounds one by one


@settings(max_examples=150, deadline=None)
@given(st.lists(st.tuples(st.integers(1, 6), st.integers(4, 30)), min_size=1, max_size=5))
def test_response_times_agree_with_a_processor_run_tick_by_tick(tasks: list[tuple[int, int]]) -> None:
    """A simulation from the critical instant, where all tasks start at once (Liu & Layland 1973), is the reference."""
    tasks = [(min(c, t), t) for c, t in tasks]
    runs, periods = [0.1 * c for c, _ in tasks], [0.1 * t for _, t in tasks]
    found = response_times(runs, periods).response_s
    for n, (_, period) in enumerate(tasks):
        left, done = [0] * (n + 1), None
        for tick in range(period):
            left = [r + c if tick % t == 0 else r for r, (c, t) in zip(left, tasks[: n + 1], strict=True)]
            at = next((k for k, r in enumerate(left) if r), None)
            if at is not None:
                left[at] -= 1
            if left[n] == 0 and done is None:
                done = tick + 1
                break
        assert found[n] == (pytest.approx(0.1 * done) if done else math.inf)


def test_stages_are_read_whole_or_refused() -> None:
    chain = find_method("chain-latency")
    _, found = chain.work({"stages": "4ms:6ms,8ms:9ms"})
    assert (found["least_s"], found["most_s"]) == pytest.approx((0.012, 0.015))
    _, found = chain.work({"stages": "(4 ms, 6 ms); sampled:20ms:2\u03bcs"})
    assert found["most_s"] == pytest.approx(0.006 + 0.02 + 2e-6)
    for text in ("4ms:6ms,8ms", "4ms:6ms and then 8ms:9ms", "4ms:6ms,,8ms:9ms", "x4ms:6ms"):
        with pytest.raises(MethodError, match="is no stage"):
            chain.work({"stages": text})


def test_efficiency_counts_the_gear_and_never_passes_one() -> None:
    plain = dc_motor(12, 12, 100, 0.49 * 12 / 0.5 * 0.01, 5, 0.1, 0.0)  # any figures: kt = ke is set below
    assert plain.best_efficiency <= 1
    ke = (12 - 0.1 * 2.4) / 100
    same = dc_motor(12, 12, 100, ke * 4.9, 5, 0.1, 0.0)
    assert same.best_efficiency == pytest.approx((1 - math.sqrt(0.1 / 5)) ** 2)  # 0.737: methods.md
    geared = dc_motor(12, 12, 100, 0.6 * ke * 4.9, 5, 0.1, 0.0)
    most = max(dc_motor(12, 12, 100, 0.6 * ke * 4.9, 5, 0.1, 0.6 * ke * 4.9 * k / 2000).efficiency for k in range(2000))
    assert geared.best_efficiency == pytest.approx(most, rel=1e-4)
    with pytest.raises(ValueError, match="of the power it takes; one of them is wrong"):
        motor_constants(12, 100, 2 * ke * 4.9, 5, 0.1)


def test_below_its_rated_current_a_pack_does_not_grow() -> None:
    assert peukert_runtime(100, 20, 1.2, 20).runtime_h == pytest.approx(3.789, abs=5e-4)  # methods.md
    assert peukert_runtime(100, 20, 1.2, 1).runtime_h == pytest.approx(100)


@pytest.mark.parametrize("share", [0.0, 1e-6, 0.01, 0.5, 1.0, 20.0, 1e4])
def test_a_beam_with_any_mass_at_its_tip(share: float) -> None:
    """The root of the exact equation by scipy's brentq; without tip mass 1.8751, with a great one 3EI/mL³ (Blevins)."""
    length, rigidity, beam = 0.4, 70e9 * 2e-10, 0.3
    found = cantilever_frequency(length, 70e9, 2e-10, beam / length, share * beam).frequency_hz

    def equation(b: float) -> float:
        tip = share * b * (math.sin(b) * math.cosh(b) - math.cos(b) * math.sinh(b))
        return 1 + math.cos(b) * math.cosh(b) - tip

    root = brentq(equation, 1e-3, 1.8752)
    assert found == pytest.approx(root**2 * math.sqrt(rigidity * length / beam) / length**2 / (2 * math.pi), rel=1e-6)
    if share == 1e4:
        massless = natural_frequency(3 * rigidity / length**3, share * beam).frequency_hz
        assert found == pytest.approx(massless, rel=1e-4)


def test_reading_a_register_counts_the_write_and_the_second_start() -> None:
    """UM10204: address and register, repeated start, address and two bytes, stop: 9·2 + 1 + 9·3 + 2 clocks."""
    assert i2c_time(2, 100e3, register_bytes=1).time_s == pytest.approx((18 + 1 + 27 + 2) / 100e3)


def test_low_spreading_factors_and_the_share_of_an_hour() -> None:
    """SX1261/2 data sheet 6.1.4, from memory: 6.25 symbols after the preamble, no slow mode; 8 + 6.25 + 8 + 11·5."""
    assert lora_airtime(6, 125e3, 24).airtime_s == pytest.approx((8 + 6.25 + 8 + 9 * 5) * 64 / 125e3)
    assert airtime_share(1.5, 24).hour_share == pytest.approx(0.01)
    with pytest.raises(ValueError, match="do not fit into an hour"):
        airtime_share(2.0, 3600)


def test_air_that_is_spent_before_the_end_of_the_stroke_is_refused():
    """Adiabatic: 3 bar absolute in 0.1 l may swell to 0.1·3^(1/1.4) = 0.219 l before the outside pushes back."""
    area, volume = math.pi / 4 * 0.02**2, 1e-4
    most = volume * ((200e3 + 101_325) / 101_325) ** (1 / 1.4) - volume
    assert tank_shot(volume, 200e3, 0.02, most / area * 0.999, 0.1).adiabatic_energy_j > 0
    with pytest.raises(ValueError, match="the air is spent before the end of the stroke"):
        tank_shot(volume, 200e3, 0.02, most / area * 1.001, 0.1)
