"""The decision on one page, and the table of all plates as CSV."""

from __future__ import annotations

import csv
import io
import itertools
from dataclasses import replace

from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import (
    Flowable,
    KeepInFrame,
    PageBreak,
    Paragraph,
    Spacer,
    Table,
    TableStyle,
)

from rugged_shield.core.amounts import either, entered, in_system
from rugged_shield.core.assess.fitup.pose import plate_pose
from rugged_shield.core.assess.weighup.answer import against, answer_of
from rugged_shield.core.assess.weighup.coverage import MIX, cover, mixed
from rugged_shield.core.assess.weighup.protection import figures_of, struck_all_round
from rugged_shield.core.assess.weighup.ranking import (
    criteria_of,
    order_of,
    something_matters,
)
from rugged_shield.core.assess.weighup.scorecard import Weighed, weigh
from rugged_shield.core.assess.weighup.strike import strike_asked, strike_of
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job
from rugged_shield.core.weighup.coverage_drawings import cover_below
from rugged_shield.core.weighup.map_drawings import map_drawing
from rugged_shield.formats.drawn import DrawingBox
from rugged_shield.formats.kitlist import safe_cell
from rugged_shield.formats.paper import BOLD, PLAIN, SMALL, TITLE, as_pdf, marked_text
from rugged_shield.formats.stepsheet import CAUTION

ESTIMATES = (
    "Strike and heat results are estimates for comparing plates, not a promise of what holds. "
    "No plate is a jacking point: the bike maker's lifting points are the rule."
)
_KEYS = (
    "bundle_mass",
    "thickness",
    "coverage",
    "protected",
    "clearance_lost",
    "standoff",
    "heat_idling",
    "service",
    "effort",
    "ring",
    "corrosion",
    "money",
)
_MOST_COLUMNS = 6


def _plates(job: Job, keys: list[str]) -> list[Weighed]:
    """Plates weighed, with what the ranking takes from their strikes among the figures."""
    return [replace(w, figures=figures_of(job, w)) for w in (weigh(job, key) for key in keys)]


def decision_csv(job: Job) -> str:
    """Every quantity of every plate (RFC 4180): one row each, value and unit as numbers."""
    out = io.StringIO()
    writer = csv.writer(out)
    weighed = _plates(job, [job.stock.key, *(c.key for c in job.candidates)])
    names = [safe_cell(job.as_entered(w.key).plate.name) for w in weighed]
    writer.writerow(["quantity", "unit", *names])
    writer.writerow(["verdict", "", *(w.verdict for w in weighed)])
    for i, gate in enumerate(weighed[0].gates):
        writer.writerow([f"gate: {gate.label}", "", *(w.gates[i].verdict for w in weighed)])
    struck = [struck_all_round(job, w.key, "from below") for w in weighed]
    for at, found in enumerate(struck):
        for said in found.findings:
            cells = ["" for _ in names]
            cells[at] = safe_cell(in_system(said.text))
            writer.writerow([f"strike: {said.code}", "", *cells])
    for key, first in weighed[0].figures.items():
        label = first.label
        if key.startswith("cover:"):
            label = f"{first.label} {key.split(':')[1]}"
        cells = []
        for w in weighed:
            value = w.figures[key].value
            text = safe_cell(w.figures[key].metric)
            cells.append(text if value is None else f"{value:.6g}")
        writer.writerow([safe_cell(label), safe_cell(first.unit), *cells])
    return out.getvalue()


def _chosen(job: Job) -> str:
    """The picked plate, else the one that ranks first, else the one in the ledger."""
    if job.picked or not job.candidates or not something_matters(job):
        return job.in_hand.key
    return order_of(job)[0]


def _columns(job: Job, chosen: str) -> list[list[str]]:
    """Stock and the plate beside its rivals in their order, as many to a table as a page bears."""
    both = list(dict.fromkeys((job.stock.key, chosen)))
    others = [c.key for c in job.candidates if c.key not in both]
    rank = {key: i for i, key in enumerate(order_of(job))}
    others.sort(key=lambda key: rank.get(key, len(rank)))
    step = _MOST_COLUMNS - len(both)
    return [both + others[i : i + step] for i in range(0, len(others), step)] or [both]


def _table(job: Job, keys: list[str]) -> Table:
    weighed = _plates(job, keys)
    head: list[object] = [Paragraph("", BOLD)]
    head += [Paragraph(marked_text(job.as_entered(k).plate.name), BOLD) for k in keys]
    rows: list[list[object]] = [head]
    rows.append([Paragraph("Verdict", SMALL), *(Paragraph(w.verdict, SMALL) for w in weighed)])
    for key in _KEYS:
        cells = [Paragraph(marked_text(w.figures[key].metric), SMALL) for w in weighed]
        rows.append([Paragraph(marked_text(weighed[0].figures[key].label), SMALL), *cells])
    width = (182 - 36) / len(keys)
    table = Table(rows, colWidths=[36 * mm, *([width * mm] * len(keys))])
    table.setStyle(
        TableStyle(
            [
                ("LINEBELOW", (0, 0), (-1, 0), 1.2, colors.black),
                ("LINEBELOW", (0, 1), (-1, -1), 0.3, colors.grey),
                ("BACKGROUND", (2, 0), (2, -1), colors.Color(0.93, 0.93, 0.93)),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("TOPPADDING", (0, 0), (-1, -1), 1),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 1),
            ]
        )
    )
    return table


def _pictures(job: Job, key: str) -> Table:
    """What it leaves bare, and where a strike reaches through."""
    candidate = job.candidate(key)
    folded = plate_pose(job.bike, candidate).folded
    point = cover(job.bike.vitals(), folded)
    shares = mixed(point, job.use.profile)[1]
    left: Flowable = DrawingBox(cover_below(job.bike, folded, shares, MIX), 88 * mm, 82 * mm)
    right: Flowable
    try:
        asked = strike_asked(job, key)
        right = DrawingBox(map_drawing(asked, strike_of(asked).result), 88 * mm, 82 * mm)
        words = (
            "Energy at which a strike from below reaches something; "
            f"{entered(asked.energy_j, 'J')} asked"
        )
    except InputError as error:
        right = Paragraph(marked_text(f"No strike map: {error.message}"), PLAIN)
        words = "Strike map"
    captions = [
        Paragraph(
            "Shielded share of each vital, %, over the profile's mix; darker is barer", SMALL
        ),
        Paragraph(marked_text(f"{words}; darker is less"), SMALL),
    ]
    return Table([[left, right], captions], colWidths=[91 * mm, 91 * mm])


def _answer(job: Job, key: str) -> list[str]:
    """What the answer page says, in its words; of another plate than the chosen one, its name."""
    found = answer_of(job)
    if not found.key:
        return [found.missing]
    lines = []
    if found.key != key:
        lines.append(f"By the priorities {found.name} stands first:")
    reasons = " ".join(reason.words for reason in found.reasons)
    lines.append(f"Beside {found.beside}: {reasons}")
    if found.gives_away is not None:
        lines.append(f"But: {found.gives_away.words}")
    sure = found.runner_up
    if found.sure is not None:
        share = either(found.sure.metric, found.sure.us)
        sure = f"First in {share} of slightly different priorities and numbers. {found.runner_up}"
    return [line for line in (*lines, sure, found.bare) if line]


_MOST_FINDINGS = 10


def decision_pdf(job: Job) -> bytes:
    """The pick with its reason, numbers, pictures, gates, assumptions, cautions on one page.

    Plates that the first table has no room for follow on pages of their own.
    """
    key = _chosen(job)
    tables = _columns(job, key)
    (weighed,), plate = _plates(job, [key]), job.as_entered(key).plate
    first = "Ranks first" if something_matters(job) else "In the ledger"
    state = "Picked" if job.picked else f"{first}, not picked yet"
    why = job.pick_reason or "no reason noted"
    shut = [g for g in weighed.gates if g.verdict != "sound"]
    gates = (
        "; ".join(f"{g.label} ({g.verdict}): {g.reason.rstrip('.')}" for g in shut) or "all open"
    )
    assumed = dict.fromkeys(
        itertools.chain.from_iterable(weighed.figures[k].assumptions for k in _KEYS)
    )
    found = against(job, weighed)[:_MOST_FINDINGS]
    priorities = ", ".join(f"{c.name} {c.weight:g}" for c in criteria_of(job) if c.weight)
    story: list[Flowable] = [
        Paragraph(marked_text(f"{job.title}"), TITLE),
        Paragraph(f"{state}: <b>{marked_text(plate.name)}</b>", PLAIN),
        Paragraph(marked_text(f"{job.bike.name} · {job.use.profile} · why: {why}"), PLAIN),
        *(Paragraph(marked_text(words), PLAIN) for words in _answer(job, key)),
        Spacer(1, 1.5 * mm),
        _table(job, tables[0]),
        Spacer(1, 1.5 * mm),
        _pictures(job, key),
        Paragraph(marked_text(f"Priorities: {priorities}. Gates: {gates}."), PLAIN),
        *(Paragraph(marked_text(f"{f.verdict}: {f.text}"), SMALL) for f in found),
        Spacer(1, 1 * mm),
        Paragraph(marked_text("Assumed: " + " ".join(assumed)), SMALL),
        Paragraph(marked_text(f"{ESTIMATES} {CAUTION}"), SMALL),
    ]
    pages: list[Flowable] = [KeepInFrame(182 * mm, 270 * mm, story, mode="shrink")]
    for keys in tables[1:]:
        heading = Paragraph("The other plates weighed", BOLD)
        rest: list[Flowable] = [heading, Spacer(1, 2 * mm), _table(job, keys)]
        pages += [PageBreak(), KeepInFrame(182 * mm, 270 * mm, rest, mode="shrink")]
    return as_pdf(pages, f"Decision: {job.title}", top_mm=11.0, bottom_mm=10.0)
