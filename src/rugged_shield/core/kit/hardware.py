"""The kit as the sheet lists it, against what lies on the bench."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.kit.needs import LineKind, Need
from rugged_shield.core.mechanics.threads import screw_size
from rugged_shield.core.quantity import Range, Ranged, check_order
from rugged_shield.core.result import Finding, Verdict, finding, worst
from rugged_shield.core.survey.conditions import check_condition
from rugged_shield.core.tables.friction import CONDITIONS
from rugged_shield.core.tables.grades import GRADES
from rugged_shield.core.tables.heads import SCREW_HEADS
from rugged_shield.core.tables.threads import THREADS

MAX_KIT = 300
"""Lines of one plate's kit, by file as by screen."""

Came = Literal["loose", "assembled, do not take apart", "locker already on"]
Across = Annotated[float | None, Range(2.0, 200.0, "mm")]


@dataclass(frozen=True, kw_only=True)
class KitLine(Ranged):
    """One line of the sheet: what, size, length mm, head, drive, grade and how many.

    Of a washer the length is its thickness. ``already_fitted`` of them come on a bracket
    (``fitted_to``); ``came`` says how the rest came; ``bag`` is the bag they lie in; ``treatment``
    is the sheet's word for the thread; ``when`` the condition it applies under.
    """

    key: str
    kind: LineKind
    name: str
    thread: str = ""
    length_mm: Annotated[float | None, Range(0.5, 200.0, "mm")] = None
    head: str = ""
    grade: str = ""
    count: Annotated[int, Range(1, 200)] = 1
    already_fitted: Annotated[int, Range(0, 200)] = 0
    drive: str = ""
    fitted_to: str = ""
    treatment: str = ""
    when: str = ""
    bag: str = ""
    part_number: str = ""
    came: Came = "loose"
    outer_mm: Across = None
    hole_mm: Across = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.thread:
            choose("thread", self.thread, THREADS, "thread")
        if self.head:
            choose("head", self.head, SCREW_HEADS, "screw head")
        if self.grade:
            choose("grade", self.grade, GRADES, "property class")
        if self.treatment:
            choose("treatment", self.treatment, CONDITIONS, "treatment")
        check_condition(self.when)
        if self.kind == "screw" and not self.thread:
            raise InputError(
                "kind",
                self.kind,
                "a screw with its thread",
                "a screw needs its thread",
                "Gauge the thread, or enter it as another kind until then.",
            )
        if self.outer_mm is not None and self.hole_mm is not None:
            ring = ("hole_mm", self.hole_mm), ("outer_mm", self.outer_mm)
            check_order(*ring, "mm", "the hole would be as wide as the part")
        fitted, count = ("already_fitted", self.already_fitted), ("count", self.count)
        check_order(fitted, count, "", "more would be fitted than the list has", touching=True)

    @property
    def size(self) -> str:
        """Size as a person says it: ``M8 × 30``."""
        if self.thread:
            return screw_size(self.thread, self.length_mm)
        return f"{self.length_mm:g}" if self.length_mm else ""


@dataclass(frozen=True, kw_only=True)
class LineState:
    """One line judged: counted against the sheet, and what the joints need of it."""

    key: str
    counted: int | None
    missing: int
    extra: int
    needed: int
    needed_by: tuple[int, ...]
    state: Literal["matches", "short", "extra", "missing", "not counted"]
    verdict: Verdict
    findings: tuple[Finding, ...]


def _left_out(line: KitLine) -> tuple[Finding, ...]:
    """What a screw's line does not say, and what would settle it."""
    if line.kind != "screw":
        return ()
    found = []
    if line.length_mm is None:
        how = "from under the head (a countersunk one over all) with the calliper"
        found.append(
            finding(
                "length not known",
                f"Length of {line.name} not on the sheet: measure {how}.",
                line.key,
            )
        )
    if not line.head:
        found.append(
            finding(
                "head not known",
                f"Head of {line.name} not on the sheet: compare its shape and drive.",
                line.key,
            )
        )
    return tuple(found)


def check_line(line: KitLine, counted: int | None, met: tuple[Need, ...]) -> LineState:
    """Judge one line; parts already fitted to a bracket count as present.

    ``met``: what joints ask for that this line gives. What the sheet leaves out of a screw stays
    not known, with what settles it.
    """
    needed_by = tuple(n.joint for n in met)
    left_out = _left_out(line)
    if counted is None:
        found = (finding("not counted", f"Count {line.name} on the bench.", line.key), *left_out)
        return LineState(
            key=line.key,
            counted=None,
            missing=0,
            extra=0,
            needed=len(needed_by),
            needed_by=needed_by,
            state="not counted",
            verdict=worst(f.verdict for f in found),
            findings=found,
        )
    present = counted + line.already_fitted
    missing, extra = max(0, line.count - present), max(0, present - line.count)
    state: Literal["matches", "short", "extra", "missing"] = "matches"
    findings: tuple[Finding, ...] = ()
    if missing:
        state = "missing" if present == 0 else "short"
        findings = (
            finding("short in kit", f"{missing} of {line.count} {line.name} missing.", line.key),
        )
    elif extra:
        state = "extra"
        findings = (finding("extra in kit", f"{extra} more than the sheet lists.", line.key),)
    findings = (*findings, *left_out)
    verdict = worst(f.verdict for f in findings)
    return LineState(
        key=line.key,
        counted=counted,
        missing=missing,
        extra=extra,
        needed=len(needed_by),
        needed_by=needed_by,
        state=state,
        verdict=verdict,
        findings=findings,
    )
