"""Gates: what a plate must pass before it is worth weighing, and what would clear each."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from rugged_shield.core.amounts import amount
from rugged_shield.core.assess.weighup.heat import HeatJudged
from rugged_shield.core.assess.weighup.ownership import bundle_price
from rugged_shield.core.job.model import Candidate, Use
from rugged_shield.core.result import Finding, FindingCode, Verdict, finding, verdict_of
from rugged_shield.core.survey.bike import Bike
from rugged_shield.core.survey.conditions import is_one_of
from rugged_shield.core.survey.front_wheel import LEAST_GAP_MM, WheelGap
from rugged_shield.core.survey.plate import Needs
from rugged_shield.core.survey.steering_lock import LockGap

_OPEN = verdict_of(None)


@dataclass(frozen=True)
class Gate:
    """One gate: what it found (None: nothing), why, and what would clear it (empty when open).

    ``needs`` names what can be bought with the plate to open it.
    """

    key: str
    label: str
    code: FindingCode | None
    reason: str
    clears: str = ""
    needs: str = ""
    verdict: Verdict = field(init=False, default=_OPEN)

    def __post_init__(self) -> None:
        object.__setattr__(self, "verdict", verdict_of(self.code))


def _year(bike: Bike, needs: Needs) -> Gate:
    first, last = needs.year_from, needs.year_to
    if first is None and last is None:
        return Gate("year", "Model year", None, "the sheet names no year")
    span = f"{first or 'the first'} to {last or 'now'}"
    if (first or 0) <= bike.year <= (last or 9999):
        return Gate("year", "Model year", None, f"{bike.year}, made for {span}")
    return _misfit("year", "Model year", f"the bike is of {bike.year}, the plate for {span}", needs)


def _misfit(key: str, label: str, why: str, needs: Needs) -> Gate:
    """Blocked, unless the sheet names the modification with which it fits."""
    if needs.with_change:
        return Gate(key, label, "fits with a change", why, f"fits with: {needs.with_change}")
    return Gate(
        key, label, "does not fit", why, "a modification that the maker names, or another plate"
    )


def _named(key: str, label: str, field: str) -> Callable[[Bike, Needs], Gate]:
    def gate(bike: Bike, needs: Needs) -> Gate:
        asked, own = getattr(needs, field), getattr(bike, field)
        if not asked:
            return Gate(key, label, None, "the sheet names none")
        if not own:
            return Gate(
                key,
                label,
                "fit not known",
                f"made for “{asked}”; the bike's is not entered",
                f"enter the bike's {label.lower()} in Survey",
            )
        if is_one_of(own, asked):
            return Gate(key, label, None, f"made for “{asked}”")
        return _misfit(key, label, f"the bike is “{own}”, the plate is for “{asked}”", needs)

    return gate


_model = _named("model", "Sibling model", "model")
_variant = _named("variant", "Engine variant", "variant")
_hoses = _named("market", "Market's hoses", "market")


def _stands(bike: Bike, needs: Needs) -> Gate:
    if needs.no_centre_stand and bike.has_centre_stand:
        return Gate(
            "stands",
            "Stands",
            "fits with a change",
            "a centre stand is in its way",
            "take the centre stand off",
        )
    return Gate("stands", "Stands", None, "no stand is in its way")


def _bought(key: str, label: str, candidate: Candidate, needed: bool, there: str) -> Gate:
    """A need that the bike meets, that comes with the plate, or that is still to be bought."""
    gives = next((e for e in candidate.extras if e.gives == key), None)
    if not needed:
        return Gate(key, label, None, "it needs none")
    if there:
        return Gate(key, label, None, there)
    if gives is not None:
        return Gate(key, label, None, f"{gives.name} come with it: weighed as a bundle")
    return Gate(
        key,
        label,
        "does not fit",
        f"it hangs on {label.lower()}, which the bike does not have",
        f"weigh it as a bundle with {label.lower()}",
        key,
    )


def _bars(bike: Bike, candidate: Candidate) -> Gate:
    needed = candidate.plate.needs.bars or candidate.plate.mounting == "crash bars"
    return _bought(
        "bars", "Crash bars", candidate, needed, "the bike has them" if bike.has_bars else ""
    )


def _upper_bars(bike: Bike, candidate: Candidate) -> Gate:
    there = "the bike has them" if bike.has_upper_bars else ""
    return _bought(
        "upper bars", "Upper crash bars", candidate, candidate.plate.needs.upper_bars, there
    )


def _isolators(candidate: Candidate) -> Gate:
    own = any(joint.is_soft for joint in candidate.settled_joints())
    needed = candidate.plate.needs.isolators
    there = "they are in its joints" if own else ""
    return _bought("isolators", "Isolators", candidate, needed, there)


def _exhaust(needs: Needs) -> Gate:
    if needs.exhaust_off:
        return Gate(
            "exhaust",
            "Exhaust",
            "fits with a change",
            "a section of exhaust comes off to fit it",
            "allow the time, and new gaskets; tighten it last",
        )
    return Gate("exhaust", "Exhaust", None, "the exhaust stays on")


def _front_wheel(gap: WheelGap) -> Gate:
    key, label = "front wheel", "Front wheel"
    moving, left, inside = gap.in_travel_mm, gap.left_mm, gap.inside_at_rest_mm
    if moving is None or left is None:
        return Gate(key, label, None, "no sheet stands in its track")
    clears = "a shorter or steeper apron, or the plate farther back"
    if inside:
        stands = f"the {gap.panel} stands {amount(inside, 'mm', 0)} inside the tyre"
        why = f"{stands} with the bike at rest"
        return Gate(key, label, "does not fit", why, clears)
    travel = f"{amount(gap.travel_mm, 'mm', 0)} of travel at a rake of {gap.rake_deg:.0f}°"
    if moving < 0:
        why = f"with {travel} the tyre comes {amount(-moving, 'mm', 0)} into the {gap.panel}"
        if gap.assumed:
            said = f"{why}, if these are as assumed"
            return Gate(key, label, "fit not known", said, "measure the fork's travel and its rake")
        return Gate(key, label, "does not fit", why, clears)
    if moving < LEAST_GAP_MM:
        why = (
            f"with {travel} the tyre comes to {amount(moving, 'mm', 0)} from the "
            f"{gap.panel}: mud will rub"
        )
        return Gate(key, label, "fits with a change", why, clears)
    return _mudguard(gap, left, travel, clears)


def _mudguard(gap: WheelGap, left: float, travel: str, clears: str) -> Gate:
    """The same for a mudguard that moves with the wheel, where the tyre itself has room."""
    key, label = "front wheel", "Front wheel"
    on = "; travel or rake is assumed" if gap.assumed else ""
    said = f"{amount(left, 'mm', 0)} left over {travel}{on}"
    if gap.mudguard_decides:
        why = f"{said}: enough for the tyre, too little for a mudguard low on the wheel"
        return Gate(
            key, label, "fit not known", why, "enter the mudguard in Survey; 0 if it is high"
        )
    if left < 0:
        why = f"with {travel} the mudguard comes {amount(-left, 'mm', 0)} into the {gap.panel}{on}"
        return Gate(key, label, "fit not known" if gap.assumed else "does not fit", why, clears)
    if gap.mudguard_mm and left < LEAST_GAP_MM:
        why = (
            f"with {travel} the mudguard comes to {amount(left, 'mm', 0)} from the {gap.panel}{on}"
        )
        return Gate(key, label, "fits with a change", why, clears)
    if gap.fork_decides:
        why = f"{said}: a longer fork, or one raked otherwise, comes nearer"
        return Gate(key, label, "fit not known", why, "measure the fork's travel and its rake")
    return Gate(key, label, None, said)


def _at_lock(gap: LockGap, ahead: WheelGap) -> Gate:
    """The front wheel turned to its stop: what stands beside it, wings and wide aprons."""
    key, label = "wheel at lock", "Wheel at lock"
    if gap.least_mm is None:
        return Gate(key, label, None, "no sheet stands where the wheel turns")
    if ahead.in_travel_mm is not None and gap.least_mm >= ahead.in_travel_mm:
        return Gate(key, label, None, "comes no nearer at its stop than pointing ahead")
    clears = "narrower wings or apron, or the plate farther back"
    turned = f"turned {gap.lock_deg:.0f}°"
    if gap.assumed:
        turned += ", as is usual,"
    if gap.least_mm >= LEAST_GAP_MM:
        return Gate(
            key, label, None, f"{amount(gap.least_mm, 'mm', 0)} from the {gap.panel} at its stop"
        )
    sure = not gap.assumed or (gap.most_mm is not None and gap.most_mm < LEAST_GAP_MM)
    if ahead.assumed:
        why = f"{turned} the tyre may meet the {gap.panel}, if the fork is as assumed"
        return Gate(key, label, "fit not known", why, "measure the fork's travel and its rake")
    room = gap.room_mm if gap.room_mm is not None else gap.least_mm
    if not sure:
        why = (
            f"{turned} the tyre has {amount(max(room, 0.0), 'mm', 0)} to the {gap.panel}; another "
            "stop comes nearer or clears it"
        )
        asks = "measure how far the wheel turns, and enter it in Survey"
        return Gate(key, label, "fit not known", why, asks)
    if room < 0:
        why = f"{turned} the tyre comes {amount(-room, 'mm', 0)} into the {gap.panel}"
        return Gate(key, label, "does not fit", why, clears)
    why = f"{turned} the tyre comes to {amount(room, 'mm', 0)} from the {gap.panel}: mud will rub"
    return Gate(key, label, "fits with a change", why, clears)


def _rear_wheel(gap: tuple[float, str] | None) -> Gate:
    key, label = "rear wheel", "Rear wheel"
    if gap is None:
        return Gate(key, label, None, "no sheet stands in its track")
    room, panel = gap
    clears = "a shorter tail, or the plate farther forward"
    if room < 0:
        why = f"the {panel} stands {amount(-room, 'mm', 0)} inside the tyre"
        return Gate(key, label, "does not fit", why, clears)
    if room < LEAST_GAP_MM:
        why = f"the tyre stands {amount(room, 'mm', 0)} from the {panel}: mud will rub"
        return Gate(key, label, "fits with a change", why, clears)
    return Gate(key, label, None, f"{amount(room, 'mm', 0)} from the {panel}")


def _heat(judged: HeatJudged) -> Gate:
    if judged.gravest is None:
        return Gate("heat", "Heat gap", None, "the sheet stays under what it bears")
    return Gate("heat", "Heat gap", judged.gravest.code, judged.gravest.text, judged.clears)


def _limit(
    key: str,
    label: str,
    limit: float | None,
    value: float | None,
    most: bool,
    unit: str,
    clears: str,
) -> Gate:
    """A limit that the rider set; passed when none is set."""
    if limit is None:
        return Gate(key, label, None, "no limit set")
    if value is None:
        return Gate(key, label, "fit not known", "its figure is not known")
    over = value > limit if most else value < limit
    said = (
        f"{amount(value, unit, 0)} against {amount(limit, unit, 0)} "
        f"{'at most' if most else 'at least'}"
    )
    return Gate(key, label, "does not fit" if over else None, said, clears if over else "")


def gates_of(
    bike: Bike,
    candidate: Candidate,
    use: Use,
    currency: str,
    clearance_mm: float | None,
    heat: HeatJudged,
    wheel: WheelGap,
    lock: LockGap,
    rear: tuple[float, str] | None,
) -> tuple[Gate, ...]:
    """Every gate of a plate in a fixed order; clearance, heat and wheels are already computed."""
    needs = candidate.plate.needs
    stock = candidate.plate.role == "stock"
    return (
        _year(bike, needs),
        _model(bike, needs),
        _variant(bike, needs),
        _hoses(bike, needs),
        _stands(bike, needs),
        _bars(bike, candidate),
        _upper_bars(bike, candidate),
        _isolators(candidate),
        _exhaust(needs),
        _front_wheel(wheel),
        _at_lock(lock, wheel),
        _rear_wheel(rear),
        _heat(heat),
        _limit(
            "clearance",
            "Least clearance",
            None if stock else use.least_clearance_mm,
            clearance_mm,
            False,
            "mm",
            "thinner, higher mounted, or less added mass",
        ),
        _limit(
            "budget",
            "Budget",
            use.budget,
            bundle_price(candidate),
            True,
            currency,
            "a higher budget, or without what is bought with it",
        ),
    )


def gate_findings(gates: tuple[Gate, ...]) -> tuple[Finding, ...]:
    """Shut and doubtful gates as findings; heat says so itself."""
    return tuple(
        finding(g.code, f"{g.label}: {g.reason}.", g.key, remedy=g.clears)
        for g in gates
        if g.code is not None and g.key != "heat"
    )
