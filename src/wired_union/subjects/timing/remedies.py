"""What could shorten a signal chain."""

from wired_union.kernel.results import Remedy, tried
from wired_union.project.model import Debounce, Project, Sampled, Transfer
from wired_union.subjects.timing.edits import set_stage
from wired_union.subjects.timing.results import ChainResult, transfer_time_s
from wired_union.units import show

NEXT_CLOCK_HZ = {"i2c": (100e3, 400e3, 1e6), "uart": (9600.0, 38400.0, 115200.0), "spi": (1e6, 8e6, 20e6)}


def remedies(project: Project, chain: ChainResult) -> tuple[Remedy, ...]:
    """What could be tried on the stages, the one that frees most first."""
    found: list[tuple[float, Remedy]] = []
    for index, stage in enumerate(chain.chain.stages):
        if isinstance(stage, Sampled):
            found.extend(_sampled_remedies(project, chain.chain.id, index, stage))
        elif isinstance(stage, Transfer):
            found.extend(_faster_bus(project, chain.chain.id, index, stage))
        elif isinstance(stage, Debounce) and stage.most_s > 0.005:
            least = min(stage.least_s, 0.005)
            change = tried(set_stage, project, chain.chain.id, index, least_s=least, most_s=0.005)
            found.append((stage.most_s - 0.005, Remedy(f"shorten “{stage.name}” to 5\u202fms", change)))
    found.sort(key=lambda x: -x[0])
    return tuple(remedy for _, remedy in found if remedy.change is not None)[:4]


def _sampled_remedies(project: Project, chain: str, index: int, stage: Sampled) -> list[tuple[float, Remedy]]:
    half = stage.period_s / 2
    faster = tried(set_stage, project, chain, index, period_s=half)
    interrupt = tried(set_stage, project, chain, index, kind="event", least_s=stage.response_s, most_s=stage.response_s)
    return [
        (half, Remedy(f"poll “{stage.name}” every {show(half, 's')}", faster)),
        (stage.period_s, Remedy(f"interrupt instead of polling “{stage.name}”", interrupt)),
    ]


def _faster_bus(project: Project, chain: str, index: int, stage: Transfer) -> list[tuple[float, Remedy]]:
    quicker = next((c for c in NEXT_CLOCK_HZ[stage.bus] if c > stage.clock_hz), None)
    if quicker is None:
        return []
    saved = transfer_time_s(stage) * (1 - stage.clock_hz / quicker)
    speed = f"{quicker:.0f} baud" if stage.bus == "uart" else show(quicker, "Hz")
    change = tried(set_stage, project, chain, index, clock_hz=quicker)
    return [(saved, Remedy(f"run “{stage.name}” at {speed}", change))]
