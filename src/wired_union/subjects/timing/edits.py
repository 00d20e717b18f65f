"""Edits of signal chains and their stages."""

from typing import Any

from wired_union.kernel.results import measure_id
from wired_union.project.change import (
    Change,
    by_id,
    checked_name,
    figures_of,
    new_id,
    replaced,
    with_brief,
    with_concept,
    with_concept_value,
)
from wired_union.project.errors import ProjectError
from wired_union.project.model import STAGE_KINDS, Chain, Project, Spell, Stage
from wired_union.project.references import without
from wired_union.project.value import checked, field_names, made, named_values
from wired_union.units import plain_words, show_named


def add_chain(project: Project, name: str) -> Change:
    name = checked_name(name, "signal chain")
    chain = Chain(id=new_id(name, (c.id for c in project.concept.chains)), name=name)
    after = with_concept(project, chains=(*project.concept.chains, chain))
    return Change(project, after, f"add signal chain {name}")


def rename_chain(project: Project, chain_id: str, name: str) -> Change:
    chain, name = _chain(project, chain_id), checked_name(name, "signal chain")
    return _with_chain(project, chain, f"rename {chain.name} to {name}", name=name)


def set_chain(project: Project, chain_id: str, **figures: Any) -> Change:
    """Other figures of a chain itself. Raises ProjectError for what cannot be."""
    chain = _chain(project, chain_id)
    with figures_of(chain.name):
        new = checked(chain, **figures)
    said = ", ".join(f"{plain_words(f)} {show_named(f, v) if v is not None else 'none'}" for f, v in figures.items())
    return Change(project, with_concept(project, chains=replaced(project.concept.chains, chain, new)),
                  f"{chain.name}: {said}")  # fmt: skip


def remove_chain(project: Project, chain_id: str) -> Change:
    """Delete a chain, and the limit that rests on it."""
    chain = _chain(project, chain_id)
    after = with_concept_value(project, without(project.concept, "chains", chain.id))
    after = with_brief(after, limits=tuple(x for x in after.brief.limits if x.measure != measure_id("chain", chain_id)))
    return Change(project, after, f"delete signal chain {chain.name}")


def add_stage(project: Project, chain_id: str, stage: Stage, at: int | None = None) -> Change:
    chain = _chain(project, chain_id)
    stages = list(chain.stages)
    stages.insert(len(stages) if at is None else at, stage)
    return _with_chain(project, chain, f"{chain.name}: add {stage.name}", stages=tuple(stages))


def set_stage(project: Project, chain_id: str, index: int, **new: Any) -> Change:
    """Change fields of a stage; a new `kind` makes it another sort of stage. Raises ProjectError for bad times."""
    chain = _chain(project, chain_id)
    old = _stage(chain, index)
    kind = STAGE_KINDS[new.pop("kind", old.kind)]
    kept = {n: v for n, v in named_values(old) if n in field_names(kind)}
    with figures_of(old.name):
        stage = made(kind, **{**kept, **new})
    if isinstance(stage, Spell) and stage.least_s > stage.most_s:
        raise ProjectError(f"{stage.name}: the least time is above the most. Change the other one first.")
    stages = (*chain.stages[:index], stage, *chain.stages[index + 1 :])
    return _with_chain(project, chain, f"{chain.name}: change {stage.name}", stages=stages)


def remove_stage(project: Project, chain_id: str, index: int) -> Change:
    chain = _chain(project, chain_id)
    gone = _stage(chain, index)
    stages = chain.stages[:index] + chain.stages[index + 1 :]
    return _with_chain(project, chain, f"{chain.name}: delete {gone.name}", stages=stages)


def move_stage(project: Project, chain_id: str, index: int, to: int) -> Change:
    chain = _chain(project, chain_id)
    stage = _stage(chain, index)
    stages = [s for s in chain.stages if s is not stage]
    stages.insert(max(0, min(to, len(stages))), stage)
    return _with_chain(project, chain, f"{chain.name}: move {stage.name}", stages=tuple(stages))


def _chain(project: Project, chain_id: str) -> Chain:
    return by_id(project.concept.chains, chain_id, "signal chain")


def _stage(chain: Chain, index: int) -> Stage:
    if not 0 <= index < len(chain.stages):
        raise ProjectError(f"That stage is no longer in {chain.name}.")
    return chain.stages[index]


def _with_chain(project: Project, chain: Chain, sentence: str, **new: Any) -> Change:
    chains = replaced(project.concept.chains, chain, chain.but(**new))
    return Change(project, with_concept(project, chains=chains), sentence)
