"""What cutting makes of a plate: a trim, a hole or slot, a field of vents."""

from __future__ import annotations

import math
from dataclasses import replace

from shapely import LineString, Point, Polygon, box, get_coordinates
from shapely.ops import split

from rugged_shield.core.amounts import entered
from rugged_shield.core.errors import InputError, choose
from rugged_shield.core.fitup.vent_field import Rim, VentFieldInput, vent_field
from rugged_shield.core.job.edits.asked import Made, Modify, named, number, taken_keys
from rugged_shield.core.job.edits.keys import free_key
from rugged_shield.core.job.model import Candidate, Job, mounted
from rugged_shield.core.mechanics.frames import Vec2
from rugged_shield.core.survey.flat import flat_pattern, flat_place, flat_places
from rugged_shield.core.survey.geometry import fold
from rugged_shield.core.survey.plate import Cutout, Plate, Trim
from rugged_shield.core.tables.materials import SHEET_MATERIALS


def _regions(plate: Plate, asked: Modify) -> list[tuple[str, Polygon]]:
    """What goes, panel by panel, in each panel's own u, v."""
    places = flat_places(plate)
    out = []
    for panel in fold(plate).panels:
        place = places.get(panel.name)
        if place is None:
            continue
        ring = [place.back(p) for p in asked.points_mm]
        if len(ring) > 2:
            region = Polygon(ring)
            if not region.is_valid:
                raise InputError("points_mm", "crossed", "corners in turn around what goes")
        elif not LineString(ring).intersects(panel.outline):
            continue  # the line runs on beside it: only what it is drawn across is cut
        else:
            region = _cut_side(ring, place.back(_middle(plate)), panel.outline)
        if region.intersection(panel.outline).area > 1.0:
            out.append((panel.name, region))
    return out


def _middle(plate: Plate) -> Vec2:
    """The middle of the flat sheet: the part of a cut that holds it stays."""
    rings = [Polygon(p.outline_mm) for p in flat_pattern(plate).panels if not p.piece]
    whole = sum(r.area for r in rings)
    return (
        sum(r.centroid.x * r.area for r in rings) / whole,
        sum(r.centroid.y * r.area for r in rings) / whole,
    )


def _cut_side(line: list[Vec2], stays: Vec2, outline: Polygon) -> Polygon:
    """The side of a line that goes, as far as the panel reaches and a little beyond."""
    (ax, ay), (bx, by) = line
    size = math.hypot(bx - ax, by - ay)
    if size < 1.0:
        raise InputError("points_mm", f"{size:.1f} mm", "two ends at least 1 mm apart")
    x0, y0, x1, y1 = outline.bounds
    frame = box(x0 - 5.0, y0 - 5.0, x1 + 5.0, y1 + 5.0)
    reach = 10_000.0 / size
    long = LineString(
        [
            (ax - (bx - ax) * reach, ay - (by - ay) * reach),
            (bx + (bx - ax) * reach, by + (by - ay) * reach),
        ]
    )
    side = (bx - ax) * (stays[1] - ay) - (by - ay) * (stays[0] - ax)
    if abs(side) < size:  # within 1 mm of the middle
        raise InputError(
            "points_mm",
            "through the middle",
            "a line beside the plate's middle",
            "this line goes through the middle of the plate: either side could be meant",
            "Tap round what comes off.",
        )
    gone = Polygon()
    for part in split(frame, long).geoms:
        middle = part.representative_point()
        own = (bx - ax) * (middle.y - ay) - (by - ay) * (middle.x - ax)
        if own * side < 0 and isinstance(part, Polygon):
            gone = part
    return gone


def trim(job: Job, candidate: Candidate, asked: Modify) -> Made:
    """What lies beyond a line, or within a region, comes off."""
    if len(asked.points_mm) < 2:
        raise InputError("points_mm", len(asked.points_mm), "two ends of a line, or a region")
    plate, taken = candidate.plate, taken_keys(candidate)
    regions = _regions(plate, asked)
    if not regions:
        raise InputError("points_mm", "beside the plate", "a cut that meets the sheet")
    trims, places = [], []
    frames = flat_places(plate)
    outlines = {p.name: p.outline for p in fold(plate).panels}
    for panel, region in regions:
        gone = get_coordinates(region.intersection(outlines[panel])).tolist()
        places += [frames[panel].at((u, v)) for u, v in gone]
        key = free_key("trim", taken)
        taken.add(key)
        corners = tuple((x, y) for x, y in get_coordinates(region)[:-1].tolist())
        trims.append(Trim(key=key, panel=panel, points_mm=corners))
    trimmed = replace(plate, trims=(*plate.trims, *trims))
    off = fold(plate).area_mm2 - fold(trimmed).area_mm2
    _check_joints_stay(job, candidate, trimmed)
    made = named(
        "trim",
        where=", ".join(panel for panel, _ in regions),
        area_mm2=off,
        made=tuple(t.key for t in trims),
    )
    return Made(replace(candidate, plate=trimmed), made, tuple(places))


def _check_joints_stay(job: Job, candidate: Candidate, plate: Plate) -> None:
    """Refuses a cut through, or past, the place of a screw that holds the sheet."""
    for at in mounted(job.bike, job.candidate(candidate.key)):
        if not at.joint.clamps_plate:
            continue
        was = flat_place(candidate.plate, at.x_mm, at.y_mm)
        if was is not None and flat_place(plate, at.x_mm, at.y_mm) is None:
            raise InputError(
                "points_mm",
                f"joint {at.joint.number}",
                "a cut beside the screws",
                f"this cut takes away the sheet that joint {at.joint.number} holds",
                "Take the joint out first, or cut beside it.",
            )


def _panel_at(plate: Plate, at: Vec2) -> tuple[str, Vec2]:
    """The panel that a place in the flat lies on, and where on it."""
    places = flat_places(plate)
    for panel in fold(plate).panels:
        place = places.get(panel.name)
        if place is not None:
            uv = place.back(at)
            if panel.outline.covers(Point(uv)):
                return panel.name, uv
    raise InputError("points_mm", "beside the plate", "a place on the sheet")


def opening(job: Job, candidate: Candidate, asked: Modify) -> Made:
    """A hole or a slot where it was asked for."""
    del job
    if len(asked.points_mm) != 1:
        raise InputError("points_mm", len(asked.points_mm), "one place")
    wide = number(asked.wide_mm, "wide_mm")
    panel, (u, v) = _panel_at(candidate.plate, asked.points_mm[0])
    key = free_key(asked.kind, taken_keys(candidate))
    long = number(asked.long_mm, "long_mm") if asked.kind == "slot" else wide
    if long < wide:
        raise InputError("long_mm", entered(long, "mm"), f"at least {entered(wide, 'mm')}")
    along, across = (long, wide) if asked.lengthwise else (wide, long)
    cutout = Cutout(
        key=key,
        panel=panel,
        shape="round" if asked.kind == "hole" else "slot",
        purpose="mount",
        u_mm=u,
        v_mm=v,
        width_mm=along,
        height_mm=across,
    )
    plate = replace(candidate.plate, cutouts=(*candidate.plate.cutouts, cutout))
    made = named(
        asked.kind,
        where=panel,
        wide_mm=wide,
        long_mm=long if asked.kind == "slot" else None,
        made=(key,),
    )
    return Made(replace(candidate, plate=plate), made, asked.points_mm)


def vents_of(job: Job, candidate: Candidate, asked: Modify) -> tuple[VentFieldInput, str]:
    """The question for a field of vents on one panel, with all that it must keep clear of."""
    plate = candidate.plate
    folded, places = fold(plate), flat_places(plate)
    choose("panel", asked.panel, list(places), "panel of the main piece")
    panel = next(p for p in folded.panels if p.name == asked.panel)
    own = places[asked.panel]
    folds = [
        (own.back(f.start_mm), own.back(f.end_mm))
        for f in flat_pattern(plate).folds
        if asked.panel in (f.panel, "belly")
    ]
    mounts = []
    for at in mounted(job.bike, job.candidate(candidate.key)):
        place = flat_place(plate, at.x_mm, at.y_mm) if at.joint.clamps_plate else None
        if place is not None:
            u, v = own.back(place)
            rim = max(layer.hole_mm for layer in at.joint.present() if layer.clamps_plate) / 2
            mounts.append(Rim(x_mm=u, y_mm=v, radius_mm=rim))
    wide = number(asked.wide_mm, "wide_mm")
    given = VentFieldInput(
        panel=tuple((x, y) for x, y in get_coordinates(panel.outline)[:-1].tolist()),
        hole_diameter_mm=wide,
        pitch_mm=number(asked.pitch_mm, "pitch_mm"),
        thickness_mm=panel.thickness_mm,
        density_kg_m3=SHEET_MATERIALS[plate.material].density_kg_m3,
        pattern="staggered" if asked.staggered else "square",
        bends=tuple(folds),
        mounts=tuple(mounts),
        openings=tuple(
            tuple((x, y) for x, y in get_coordinates(o.exterior)[:-1].tolist())
            for _, o in panel.openings
        ),
    )
    return given, panel.name


def vents(job: Job, candidate: Candidate, asked: Modify) -> Made:
    """A field of vents on one panel."""
    given, panel = vents_of(job, candidate, asked)
    field = vent_field(given).result
    if not field.centres_mm:
        raise InputError("pitch_mm", given.pitch_mm, "a field with room for one hole at least")
    taken = taken_keys(candidate)
    cutouts = []
    for u, v in field.centres_mm:
        key = free_key("vent", taken)
        taken.add(key)
        cutouts.append(
            Cutout(
                key=key,
                panel=panel,
                shape="round",
                purpose="vent",
                u_mm=u,
                v_mm=v,
                width_mm=given.hole_diameter_mm,
                height_mm=given.hole_diameter_mm,
            )
        )
    plate = replace(candidate.plate, cutouts=(*candidate.plate.cutouts, *cutouts))
    own = flat_places(candidate.plate)[panel]
    places = tuple(own.at(c) for c in field.centres_mm)
    made = named(
        "vent field",
        where=panel,
        count=field.count,
        wide_mm=given.hole_diameter_mm,
        area_mm2=field.open_area_mm2,
        made=tuple(c.key for c in cutouts),
    )
    return Made(replace(candidate, plate=plate), made, places)
