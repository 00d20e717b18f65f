"""A new project from nothing: lanes and a mode to start from, and three limits to change."""

from wired_union.project.model import Brief, Concept, Limit, Mission, Mode, Phase, Project, Subsystem


def new_project(name: str) -> Project:
    """An empty project with four lanes, one mode of an hour, and limits on runtime, mass and money."""
    lanes = ("Move", "Sense", "Think", "Feed", "Frame")
    return Project(
        name=name.strip() or "Untitled",
        brief=Brief(
            limits=(
                Limit(measure="runtime", name="Runs long enough", value=3600.0, direction="at least"),
                Limit(measure="mass", name="Light enough", value=5.0, direction="at most", group="Carry and fit"),
                Limit(measure="money", name="Within the money", value=300.0, direction="at most", group="Cost"),
            )
        ),
        concepts=(
            Concept(
                id="a",
                name="first idea",
                subsystems=tuple(Subsystem(id=n.lower(), name=n) for n in lanes),
                modes=(Mode(id="work", name="Work", otherwise="active"),),
                mission=Mission(phases=(Phase(mode="work", duration_s=3600.0),)),
            ),
        ),
    )
