"""Which findings come up at which step of the work: where a hand can still act on them."""

from __future__ import annotations

from collections.abc import Iterable

from rugged_shield.core.judgement.kinds import StepKind
from rugged_shield.core.result import Finding
from rugged_shield.core.tighten.plan import Plan
from rugged_shield.core.tighten.steps import Step

_TASKS: dict[str, StepKind] = {"strip": "strip", "hang": "hang", "sweep": "sweep"}
_OF_KIND: dict[str, StepKind] = {"start": "start", "half": "torque", "full": "torque"}


def step_kinds(step: Step, plan: Plan) -> tuple[StepKind, ...]:
    """What a step is in the order of hands; the last one is that beside what else it is."""
    own = _TASKS.get(step.key) or _OF_KIND.get(step.kind) or ("hang" if step.piece else None)
    last: tuple[StepKind, ...] = ("last",) if step.number == len(plan.steps) else ()
    return (*((own,) if own else ()), *last)


def at_step(step: Step, plan: Plan, findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Findings that bite at a step; at a joint's step those of this joint alone."""
    kinds = set(step_kinds(step, plan))
    return tuple(
        f
        for f in findings
        if kinds & set(f.kind.steps) and (not step.joint or f.where == step.joint)
    )
