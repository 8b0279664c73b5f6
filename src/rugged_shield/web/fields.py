"""Editable fields made from the core's dataclasses: label, both systems, allowed range."""

from __future__ import annotations

from typing import Any, Literal, get_args, get_origin

from rugged_shield.core.amounts import System, difference_unit, plain_number, shown_unit
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.fitup.layer import Layer
from rugged_shield.core.job.edits.path import label_of
from rugged_shield.core.judgement.known import band_of, fact_of
from rugged_shield.core.quantity import hints_of, ranges_of
from rugged_shield.core.survey.sketches import PLACE_AXES
from rugged_shield.core.survey.thread_sketch import DEPTHS
from rugged_shield.web.views import FieldView

_TAKES = ("mm", "kg", "N·m")


def _knowledge(owner: Any, name: str, unit: str) -> tuple[str, str, str]:
    """How a number is known, and its band in words in both systems."""
    graded = {Layer: "thickness_mm", Joint: "length_mm"}.get(type(owner))
    if graded is not None:
        known = owner.known if name == graded and getattr(owner, name) is not None else ""
        return known, known, known
    if not hasattr(owner, "facts") or getattr(owner, name) is None:
        return "", "", ""
    band = band_of(owner, name)
    if not band:
        return "", "", ""
    fact = fact_of(owner, name)
    by = f", {fact.instrument}" if fact.instrument else ""

    def words(system: System) -> str:
        number = plain_number(band, difference_unit(unit), system)
        return f"{fact.known}{by} ± {number} {shown_unit(difference_unit(unit), system)}"

    return fact.known, words("metric"), words("us")


def field_view(
    owner: Any, name: str, prefix: str, label: str = "", choices: tuple[str, ...] = ()
) -> FieldView:
    """The field ``name`` of a dataclass instance that stands at ``prefix``."""
    value = getattr(owner, name)
    allowed = ranges_of(type(owner)).get(name)
    hint = hints_of(type(owner))[name]
    path = f"{prefix}.{name}" if prefix else name
    words = label or label_of(name)
    if allowed is not None:
        metric = us = ""
        if value is not None:
            metric = plain_number(float(value), allowed.unit, "metric")
            us = plain_number(float(value), allowed.unit, "us")
        known, note, note_us = _knowledge(owner, name, allowed.unit)
        return FieldView(
            path=path,
            name=name,
            label=words,
            kind="number",
            metric=metric,
            us=us,
            unit_metric=shown_unit(allowed.unit, "metric"),
            unit_us=shown_unit(allowed.unit, "us"),
            allowed_metric=allowed.words(),
            allowed_us=allowed.words("us"),
            choices=(),
            known=known,
            note_metric=note,
            note_us=note_us,
            takes=allowed.unit if allowed.unit in _TAKES else "",
            axis=PLACE_AXES.get(name, "depth" if name in DEPTHS else ""),
        )
    if get_origin(hint) is Literal:
        choices = tuple(str(a) for a in get_args(hint))
    kind: Literal["text", "choice", "yes or no"] = "choice" if choices else "text"
    text = "" if value is None else str(value)
    if isinstance(value, bool):
        kind, text = "yes or no", "true" if value else "false"
    limit = "one of the list" if choices else "up to 200 letters"
    return FieldView(
        path=path,
        name=name,
        label=words,
        kind=kind,
        metric=text,
        us=text,
        unit_metric="",
        unit_us="",
        allowed_metric=limit,
        allowed_us=limit,
        choices=choices,
    )


def field_views(owner: Any, names: tuple[str, ...], prefix: str) -> tuple[FieldView, ...]:
    """Several fields of one owner."""
    return tuple(field_view(owner, name, prefix) for name in names)
