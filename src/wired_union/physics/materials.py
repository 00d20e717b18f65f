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
