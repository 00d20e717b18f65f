"""A part that does not meet what its own place asks is a finding; what it does not say is unknown."""

import edits
from builders import a_gearmotor, a_pack, a_part, a_project
from wired_union.project.model import Link
from wired_union.subjects import assess


def verdicts(project):
    return {
        f.detail: (f.verdict.value, f.what.replace("\u202f", " "))
        for f in assess(project).findings
        if f.check == "requirement"
    }


def test_a_placed_part_is_held_to_its_own_place():
    project = a_project(a_pack(), a_gearmotor(length_m=0.09, mass_kg=None), a_part("probe", link=Link(bus="UART")))
    assert verdicts(project) == {}
    asked = edits.set_requirement(project, "motor", "most_length_m", 0.08).after
    asked = edits.set_requirement(asked, "motor", "most_mass_kg", 0.2).after
    asked = edits.set_requirement(asked, "probe", "bus", "I2C").after
    found = verdicts(asked)
    assert found["most_length_m"] == ("breaks", "Length 90 mm; at most 80 mm asked: 10 mm (12 %) over.")
    assert found["most_mass_kg"] == ("unknown", "Mass: not given; at most 200 g asked.")
    assert found["bus"] == ("breaks", "Talks UART; I2C asked.")
    assert len([f for f in assess(asked).hard_breaks if f.check == "requirement"]) == 2
    met = edits.set_part_value(asked, "motor", "mass_kg", 0.1).after
    assert "most_mass_kg" not in verdicts(met)
