"""Typical grades of material: stiffness, strength, density, expansion. A supplier's sheet is better."""

from msgspec import Struct


class Grade(Struct, frozen=True):
    """Figures of a grade; strength is where it yields, or breaks where it does not yield first."""

    modulus_pa: float
    strength_pa: float
    density_kg_m3: float
    expansion_per_k: float


GRADES = {
    "aluminium": Grade(69e9, 170e6, 2700.0, 23e-6),
    "steel": Grade(205e9, 235e6, 7850.0, 12e-6),
    "stainless steel": Grade(193e9, 205e6, 7950.0, 16.5e-6),
    "plywood": Grade(8e9, 30e6, 680.0, 8e-6),
    "acrylic": Grade(3.0e9, 60e6, 1190.0, 70e-6),
    "polycarbonate": Grade(2.3e9, 60e6, 1200.0, 68e-6),
    "carbon tube": Grade(90e9, 400e6, 1550.0, 1e-6),
    "printed PLA along layers": Grade(2.6e9, 40e6, 1200.0, 70e-6),
    "printed PLA across layers": Grade(2.2e9, 18e6, 1200.0, 70e-6),
    "printed PETG along layers": Grade(1.7e9, 36e6, 1250.0, 60e-6),
}
"""Typical of each (common practice, from memory): soft tempers, plain steel, birch along its face, solid prints."""

BOLTS_PA = {"4.6": 240e6, "5.6": 300e6, "8.8": 640e6, "10.9": 940e6, "A2-50": 210e6, "A2-70": 450e6, "nylon": 50e6}
"""Where bolts yield, by the class on their head: ISO 898-1 and ISO 3506-1 (from memory); nylon is typical."""
THREADS_M2 = {"M2": 2.07e-6, "M2.5": 3.39e-6, "M3": 5.03e-6, "M4": 8.78e-6, "M5": 14.2e-6, "M6": 20.1e-6, "M8": 36.6e-6,
              "M10": 58.0e-6, "M12": 84.3e-6}  # fmt: skip
"""Stress areas of coarse threads, π/4·(d − 0.9382·p)²: ISO 898-1 (from memory)."""
