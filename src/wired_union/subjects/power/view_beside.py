"""Another concept beside the one on show: its curves dashed on the mission, its figures beside these."""

from functools import partial

from PyQt6.QtWidgets import QVBoxLayout

from wired_union import units
from wired_union.kernel.concepts import as_at_work
from wired_union.kernel.results import Measure
from wired_union.project.model import Project
from wired_union.subjects.power.assess import PowerResult
from wired_union.subjects.power.node import POWER
from wired_union.subjects.power.pick import PowerPick
from wired_union.subjects.power.shares import mode_flows
from wired_union.ui.fields import Form, button, label, wrapped
from wired_union.ui.store import Store
from wired_union.ui.theme import Theme

COMPARED = ("runtime", "peak-current", "lowest-voltage", "pack-energy")


class OtherConcept:
    """The concept that is compared with, worked out when it is first asked for."""

    def __init__(self, store: Store, theme: Theme) -> None:
        self._store, self._theme = store, theme
        self._known: tuple[Project, str, PowerResult] | None = None

    @property
    def name(self) -> str:
        """What it is called; "" while none is compared with."""
        wanted = self._store.picked(PowerPick).beside
        return next((c.name for c in self._store.project.concepts if c.id == wanted and wanted != self._own), "")

    @property
    def _own(self) -> str:
        return self._store.project.concept.id

    @property
    def result(self) -> PowerResult | None:
        """Its power; None while none is compared with."""
        wanted, project = self._store.picked(PowerPick).beside, self._store.project
        if not self.name:
            return None
        if self._known is None or self._known[0] is not project or self._known[1] != wanted:
            found = self._store.assessment.again(as_at_work(project, wanted)).of(POWER)
            self._known = (project, wanted, found)
        return self._known[2]

    def fill(self, column: QVBoxLayout) -> None:
        """Its figures beside these, or what might be compared with; nothing where there is one concept alone."""
        others = [c for c in self._store.project.concepts if c.id != self._own]
        if not others:
            return
        result = self.result
        if result is not None:
            column.addWidget(label(f"Beside {self.name}", "heading", wrap=True))
            column.addWidget(self._table(self._store.assessment.of(POWER), result))
            column.addWidget(button("compare no more", partial(self._beside, ""), kind="link"))
        for concept in (c for c in others if result is None or c.name != self.name):
            words = wrapped(f"compare with {concept.name}", self._theme)
            column.addWidget(button(words, partial(self._beside, concept.id), kind="link"))

    def _beside(self, concept_id: str) -> None:
        self._store.change(PowerPick, beside=concept_id)

    def _table(self, own: PowerResult, other: PowerResult) -> Form:
        """Measures and modes, one under the other, first this one then the other."""
        form = Form(self._theme)
        form.add("", label(f"{own.concept.name} · {other.concept.name}", "mute", wrap=True))
        theirs = {m.kind: m for m in other.measures}
        for measure in own.measures:
            if measure.kind in COMPARED:
                form.add(
                    measure.label, label(f"{_said(measure)} · {_said(theirs[measure.kind])}", "figures", wrap=True)
                )
        place = other.mode_index
        for n, mode in enumerate(own.concept.modes):
            beside = _watts(other, place[mode.id]) if mode.id in place else "no such mode"
            form.add(mode.name, label(f"{_watts(own, n)} · {beside}", "figures", wrap=True))
        return form


def _said(measure: Measure) -> str:
    return "not known" if measure.value is None or measure.missing else units.show(measure.value, measure.unit)


def _watts(result: PowerResult, mode: int) -> str:
    """What leaves all packs and supplies on average in a mode."""
    flows = mode_flows(result, mode)
    watts = sum(flows[r.item.id].power_w for r in result.tree.roots)
    return units.show(watts, "W") if watts == watts else "cannot be delivered"
