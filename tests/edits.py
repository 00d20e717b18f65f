"""Every edit under one name, for tests: `edits.swap_part(project, item_id, part)` gives a Change."""

from wired_union.project.concept_edits import *  # noqa: F403
from wired_union.project.edits import *  # noqa: F403
from wired_union.subjects.brief.edits import *  # noqa: F403
from wired_union.subjects.concepts.decision_edits import *  # noqa: F403
from wired_union.subjects.formulas.edits import *  # noqa: F403
from wired_union.subjects.motion.edits import *  # noqa: F403
from wired_union.subjects.power.edits import *  # noqa: F403
from wired_union.subjects.timing.edits import *  # noqa: F403
from wired_union.subjects.timing.edits_shared import *  # noqa: F403
