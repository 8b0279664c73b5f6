"""Coverage drawn: what a plate leaves bare, by direction or for the profile's mix."""

from __future__ import annotations

from flask import Blueprint

from rugged_shield.core.amounts import entered, percent
from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.weighup.coverage import MIX, STONE_MM, cover, mixed
from rugged_shield.core.errors import choose
from rugged_shield.core.figures import figure
from rugged_shield.core.job.model import Job
from rugged_shield.core.result import Figure, Input
from rugged_shield.core.survey.drawings import part_letters
from rugged_shield.core.tables.profiles import PROFILE_SOURCE, PROFILES
from rugged_shield.core.weighup.coverage import COVERAGE_SOURCE, DIRECTIONS, CoverageResult
from rugged_shield.core.weighup.coverage_drawings import BARE_WORDS, cover_below, cover_front
from rugged_shield.core.weighup.map_drawings import FILLS
from rugged_shield.web.api import route
from rugged_shield.web.fields import field_view
from rugged_shield.web.jobs import row_of
from rugged_shield.web.stations.weighup.views import BareRow, CoverAsk, CoverView, Shade

blueprint = Blueprint("covering", __name__, url_prefix="/api/jobs/<job_id>/weigh-up/coverage")
SAID_BARE = 0.05


def _shares(result: CoverageResult, direction: str, profile: str) -> tuple[float, dict[str, float]]:
    """Share shielded of all vitals and of each, from a direction or for the mix."""
    if direction == MIX:
        return mixed(result, profile)
    own = {s.vital: s.share or 0.0 for s in result.shares if s.direction == direction}
    return result.weighted[direction], own


def _result(job: Job, key: str, stone: str) -> CoverageResult:
    folded = plate_pose(job.bike, job.candidate(key)).folded
    return cover(job.bike.vitals(), folded, 0.0 if stone == "point" else STONE_MM)


def _figure(key: str, label: str, share: float, direction: str, body: CoverAsk, job: Job) -> Figure:
    mix = PROFILES[job.use.profile].shares
    return figure(
        f"cover:{direction}:{key}",
        label,
        100 * share,
        "%",
        inputs=(
            Input("Direction", direction),
            Input("Stone", body.stone),
            *(
                (Input(d, 100 * s, "% of strikes") for d, s in mix.items())
                if direction == MIX
                else ()
            ),
        ),
        reasons=("Share of its face toward the stone that the plate shields.",),
        assumptions=(
            "Vitals are boxes; nothing but the plate shields.",
            f"A stone of {entered(STONE_MM, 'mm')} radius passes only where a cutout lets it.",
        ),
        sources=(COVERAGE_SOURCE, *((PROFILE_SOURCE,) if direction == MIX else ())),
    )


@route(blueprint, "POST", "", CoverView, CoverAsk)
def coverage(job_id: str, body: CoverAsk) -> CoverView:
    """What a plate shields from a direction or for the profile's mix; nothing is saved."""
    job = row_of(job_id).job
    direction = body.direction or MIX
    choose("direction", direction, (MIX, *DIRECTIONS), "direction")
    candidate = job.candidate(body.plate or job.in_hand.key)
    result = _result(job, candidate.key, body.stone)
    whole, shares = _shares(result, direction, job.use.profile)
    stock, _ = _shares(_result(job, job.stock.key, body.stone), direction, job.use.profile)
    folded = plate_pose(job.bike, candidate).folded
    letters, vitals = part_letters(job.bike), job.bike.vitals()
    ordered = sorted(vitals, key=lambda p: shares[p.key])
    return CoverView(
        plate=candidate.plate.name,
        plate_key=candidate.key,
        plates={c.key: c.plate.name for c in (job.stock, *job.candidates)},
        direction=direction,
        directions=(MIX, *DIRECTIONS),
        profile=field_view(job.use, "profile", "use"),
        below=cover_below(job.bike, folded, shares, direction),
        ahead=cover_front(job.bike, folded, shares, direction),
        shades=tuple(Shade(f, w) for f, w in zip(FILLS, BARE_WORDS, strict=True)),
        whole=_figure("all", "All vitals, by consequence", whole, direction, body, job),
        stock=_figure("stock", "With stock", stock, direction, body, job),
        vitals=tuple(
            BareRow(
                p.name, letters[p.key], _figure(p.key, p.name, shares[p.key], direction, body, job)
            )
            for p in ordered
        ),
        bare=tuple(
            f"Bare: {p.name}, {direction}, {percent(1 - shares[p.key])}"
            for p in ordered
            if 1 - shares[p.key] >= SAID_BARE
        ),
    )
