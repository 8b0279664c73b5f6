"""The table of the choice: quantities in rows, plates in columns, best and worst by word."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.assess.weighup.scorecard import Weighed
from rugged_shield.core.assess.weighup.strike import StruckPlate
from rugged_shield.core.result import Figure
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.weighup.coverage import DIRECTIONS

GROUPS: tuple[tuple[str, tuple[str, ...]], ...] = (
    (
        "Weight and stiffness",
        (
            "mass",
            "bundle_mass",
            "added",
            "claimed_mass",
            "weighed_mass",
            "thickness",
            "thickness_ratio",
            "stiffness_ratio",
        ),
    ),
    ("Shielding", ("coverage", *(f"coverage:{d}" for d in DIRECTIONS))),
    (
        "Room under the bike",
        ("clearance", "clearance_lost", "breakover", "lean", "sag", "standoff"),
    ),
    ("Heat and air", ("heat_idling", "heat_moving", "heat_stopped", "heat_gap", "air")),
    ("Effort", ("oil_screws", "service", "effort")),
    ("Money", ("money", "money_a_year")),
    ("Nature", ("ring", "slide", "corrosion", "school")),
)
STRIKE_GROUP = "Under a strike"
_LESS = (
    "mass",
    "bundle_mass",
    "added",
    "clearance_lost",
    "sag",
    "heat_idling",
    "heat_moving",
    "heat_stopped",
    "air",
    "oil_screws",
    "service",
    "effort",
    "money",
    "money_a_year",
    "ring",
    "slide",
    "corrosion",
    "strike:deepest",
    "strike:dent",
    "strike:mount",
    "strike:casting",
    "strike:punch",
)
_MORE = (
    "stiffness_ratio",
    "clearance",
    "breakover",
    "lean",
    "standoff",
    "coverage",
    "strike:touch",
    "strike:scars",
    *(f"coverage:{d}" for d in DIRECTIONS),
)
BETTER: dict[str, int] = {**dict.fromkeys(_LESS, -1), **dict.fromkeys(_MORE, 1)}
"""+1 where more of a quantity is better, −1 where less is; neither for what does not stand here."""


@dataclass(frozen=True)
class QuantityRow:
    """One quantity over all plates; ``group`` gathers rows.

    ``best`` and ``worst`` name the plates, stock apart; empty where nothing is better.
    """

    key: str
    group: str
    label: str
    cells: tuple[Figure, ...]
    best: tuple[str, ...] = ()
    worst: tuple[str, ...] = ()


def quantity_row(
    group: str, cells: tuple[Figure, ...], plates: tuple[str, ...], better: int
) -> QuantityRow:
    """A row with its best and worst plates, stock (the first) apart and only where they differ."""
    first = cells[0]
    known = [
        (better * c.value, c.metric, plate)
        for c, plate in zip(cells[1:], plates[1:], strict=True)
        if c.value is not None
    ]
    if not better or len({text for _, text, _ in known}) < 2:
        return QuantityRow(first.key, group, first.label, cells)
    top, low = max(known), min(known)
    return QuantityRow(
        first.key,
        group,
        first.label,
        cells,
        tuple(p for _, text, p in known if text == top[1]),
        tuple(p for _, text, p in known if text == low[1]),
    )


def quantity_rows(vitals: tuple[Part, ...], weighed: list[Weighed]) -> tuple[QuantityRow, ...]:
    """Every row of the table, then each vital from each direction."""
    plates = tuple(w.key for w in weighed)

    def made(key: str, group: str, better: int) -> QuantityRow:
        return quantity_row(group, tuple(w.figures[key] for w in weighed), plates, better)

    rows = [made(key, group, BETTER.get(key, 0)) for group, keys in GROUPS for key in keys]
    for direction in DIRECTIONS:
        rows += [
            made(f"cover:{direction}:{part.key}", f"Each vital, {direction}", 1) for part in vitals
        ]
    return tuple(rows)


def strike_rows(struck: tuple[StruckPlate, ...]) -> tuple[QuantityRow, ...]:
    """The rows of the strike maps for the plates struck so far."""
    if not struck:
        return ()
    plates = tuple(one.key for one in struck)
    columns = [one.figures for one in struck]
    return tuple(
        quantity_row(STRIKE_GROUP, cells, plates, BETTER.get(cells[0].key, 0))
        for cells in zip(*columns, strict=True)
    )


def change_word(before: Figure, after: Figure) -> str:
    """Whether a quantity became better or worse; nothing where it did not change or has no way."""
    better = BETTER.get(before.key, 0)
    if not better or before.value is None or after.value is None:
        return ""
    if before.metric == after.metric:
        return ""
    return "better" if better * (after.value - before.value) > 0 else "worse"
