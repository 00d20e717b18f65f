"""The eight starts: each works, says something of everything but what only a trial can show, and has what breaks."""

import pytest

from wired_union.catalogue.demo import demo
from wired_union.catalogue.starts import STARTS, start
from wired_union.project.errors import ProjectError
from wired_union.project.file import from_text, to_text
from wired_union.project.references import check_whole
from wired_union.subjects import assess

LOADS = {"seed-cart": {"wheels"}, "jar-picker": {"arm"}, "feed-caster": {"spin"}, "hen-door": {"screw"},
         "sun-follower": {"arm"}, "button-sorter": {"arm"}}  # fmt: skip


@pytest.mark.parametrize("name", STARTS)
def test_a_start_is_known_but_for_its_trial_and_something_breaks(name, tmp_path):
    project = start(name)
    check_whole(project)
    assert from_text(to_text(project), tmp_path / "x") == project
    assessed = assess(project)
    own = [x.measure for x in project.brief.limits if x.own]
    assert len(own) == 1
    assert [m.id for m in assessed.measures if m.verdict == "unknown"] == own
    assert not [f.what for f in assessed.findings if f.verdict == "unknown"]
    broken = [m for m in assessed.measures if m.verdict == "breaks"]
    assert 1 <= len(broken) <= 2  # to play with, not to despair of
    assert not assessed.breaks_besides
    assert {x.kind for x in project.concept.loads} == LOADS.get(name, set())


def test_starts_are_eight_scenes_of_their_own():
    projects = [start(n) for n in STARTS]
    assert len({p.name for p in projects}) == 8
    assert demo().name not in {p.name for p in projects}
    with pytest.raises(ProjectError, match=r"There is no start “x”\. There are: seed-cart, jar-picker,"):
        start("x")
