"""Every declared method names its source and is checked from outside; and the two tables that no other test reaches."""

import math
import re
from pathlib import Path

import pytest
from scipy.stats import beta

from wired_union.physics import sources
from wired_union.physics.fuse import fuse_bears
from wired_union.physics.methods import all_methods
from wired_union.physics.statistics import trials_for_proof
from wired_union.physics.wire import wire_ampacity, wire_gauge

TESTS = Path(__file__).parents[1]


def test_no_method_is_without_a_check():
    texts = "".join(p.read_text(encoding="utf-8") for d in ("reference", "physics") for p in (TESTS / d).glob("*.py"))
    for method in all_methods():
        assert method.checked, method.name
        called = re.search(rf"\b{method.function.__name__}\(", texts)
        assert called or f'("{method.name}", {{' in texts, f"{method.name} is checked by no test"


def test_a_method_that_names_a_work_says_that_it_is_from_memory():
    works = [text for name, text in vars(sources).items() if name.isupper()]
    for method in all_methods():
        assert method.from_memory == any(work in method.source for work in works), method.name
        assert ("cited from memory" in method.cited) == method.from_memory
        if not method.from_memory:
            assert not re.search(r"\b(1[89]|20)\d\d\b", method.source), f"{method.name}: a year, but no work"


def shed_a(awg: int) -> float:
    """Current whose heat a level wire at 105 °C sheds in still air of 25 °C: free convection and radiation (ε 0.9).

    Churchill and Chu 1975 for a level cylinder; air's properties by powers of its temperature (both from memory)."""
    wire, kelvin, hot, cold = wire_gauge(awg), 338.15, 378.15, 298.15
    across = 1.1 * wire.diameter_m + 0.8e-3  # strands, and 0.4 mm of insulation all round
    viscosity, conducts = 1.6e-5 * (kelvin / 300) ** 1.7, 0.0263 * (kelvin / 300) ** 0.85
    rayleigh = 9.81 / kelvin * (hot - cold) * across**3 / viscosity**2 * 0.71
    nusselt = (0.6 + 0.387 * rayleigh ** (1 / 6) / (1 + (0.559 / 0.71) ** (9 / 16)) ** (8 / 27)) ** 2
    heat = math.pi * (nusselt * conducts * (hot - cold) + across * 0.9 * 5.670374e-8 * (hot**4 - cold**4))
    return math.sqrt(heat / (wire.resistance_ohm_per_m * (1 + 0.00393 * 85)))


@pytest.mark.parametrize("awg", [-3, 0, 4, 8, 12, 16, 18, 20, 22, 26, 30])
def test_no_wire_is_said_to_carry_more_than_it_sheds(awg):
    said, most = wire_ampacity(awg).ampacity_a, shed_a(awg)
    assert said < 0.9 * most
    if awg <= 18:  # thinner ones are held back for their strength, too
        assert said > 0.65 * most


def test_a_fuse_at_the_points_of_its_table():
    """ISO 8820-3, from memory: 0.15 s at twice its rating, 0.25 s at 1.6 times; its rating beyond the table."""
    assert fuse_bears(10.0, 0.15).current_a == pytest.approx(20.0)
    assert fuse_bears(10.0, 0.25).current_a == pytest.approx(16.0)
    assert fuse_bears(10.0, 400_000.0).current_a == pytest.approx(10.0)


@pytest.mark.parametrize(("reliability", "confidence"), [(0.9, 0.9), (0.95, 0.9), (0.99, 0.95)])
def test_clean_runs_by_the_beta_distribution(reliability, confidence):
    """Clopper & Pearson 1934: after n of n, the one-sided lower bound is a quantile of Beta(n, 1)."""
    n = trials_for_proof(reliability, confidence).trials
    assert beta.ppf(1 - confidence, n, 1) >= reliability > beta.ppf(1 - confidence, n - 1, 1)
