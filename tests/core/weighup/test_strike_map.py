"""Maps: the same as a single strike at a node, symmetric, and moved by what should move them."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from rugged_shield.core.assess.weighup.mount_springs import joint_springs, mount_supports
from rugged_shield.core.errors import InputError
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.shell.solve import ShellMount
from rugged_shield.core.survey.bike import Part
from rugged_shield.core.survey.plate import Apron, Cutout
from rugged_shield.core.tables.materials import weld_zone_share
from rugged_shield.core.tables.springs import isolator_springs
from rugged_shield.core.weighup.punch import punch_code
from rugged_shield.core.weighup.strike import StrikeInput, StrikePlace, strike
from rugged_shield.core.weighup.strike_field import StrikeMapInput, _spread_any, field_of
from rugged_shield.core.weighup.strike_linear import _model, factored_shell, linear_of, shell_panels
from rugged_shield.core.weighup.strike_map import strike_map
from rugged_shield.core.weighup.strike_places import ground_of
from rugged_shield.core.weighup.strike_point import StrikePointInput, strike_point
from tests.conftest import demo_file
from tests.core.weighup.flat_pan import MOUNTS, PLATE

SUMP = Part(
    key="sump",
    name="sump",
    kind="vital",
    shape="sump",
    x_min_mm=560,
    x_max_mm=760,
    y_min_mm=-60,
    y_max_mm=60,
    z_min_mm=300,
    z_max_mm=340,
)
GIVEN = StrikeMapInput(plate=PLATE, mounts=MOUNTS, parts=(SUMP,), mesh_mm=20.0)


def at(points: object, x: float, y: float):  # type: ignore[no-untyped-def]
    return min(points, key=lambda p: np.hypot(p.place_mm[0] - x, p.place_mm[1] - y))  # type: ignore[call-overload]


def test_inside_a_point_of_the_map_and_the_closed_form_agree() -> None:
    """Two forms made apart: far from edges neither leaves the other's band."""
    from rugged_shield.core.survey.geometry import fold

    result = strike_map(GIVEN).result
    point = at(result.points, 650, 10)
    single = strike(
        StrikeInput(
            panels=shell_panels(fold(PLATE)),
            thickness_mm=4.0,
            youngs_modulus_mpa=70_300.0,
            poisson=0.33,
            yield_mpa=193.0,
            mounts=MOUNTS,
            strike=StrikePlace("belly", (point.place_mm[0] - 500, point.place_mm[1]), (0, 0, 1)),
            energies_j=(60.0,),
            mesh_mm=20.0,
        )
    ).result.energies[0]
    assert point.deflection_mm == pytest.approx(single.w_max_mm, rel=0.15)
    assert point.peak_force_n == pytest.approx(single.peak_force_n, rel=0.30)


def test_left_and_right_are_alike_and_the_middle_is_deepest_between_mounts() -> None:
    points = strike_map(GIVEN).result.points
    for x, y in ((560, 40), (700, 70)):
        left, right = at(points, x, y), at(points, x, -y)
        assert left.deflection_mm == pytest.approx(right.deflection_mm, rel=0.10)
    assert at(points, 660, 0).deflection_mm > 1.5 * at(points, 520, 100).deflection_mm


def test_what_should_move_a_map_moves_it() -> None:
    base = strike_map(GIVEN).result
    middle = at(base.points, 660, 0)
    assert middle.near == "sump"
    assert middle.standoff_mm == pytest.approx(16.0, abs=0.01)
    thick = strike_map(replace(GIVEN, plate=replace(PLATE, thickness_mm=6.0))).result
    assert at(thick.points, 660, 0).deflection_mm < middle.deflection_mm
    hard = strike_map(replace(GIVEN, energy_j=200.0))
    assert at(hard.result.points, 660, 0).deflection_mm > middle.deflection_mm
    assert hard.result.first_touch_j == pytest.approx(base.first_touch_j, rel=2e-3), (
        "not of the energy"
    )
    soft = tuple(replace(m, stiffness_n_per_mm=(20.0, 20.0, 80.0)) for m in MOUNTS)
    rubber = strike_map(replace(GIVEN, mounts=soft))
    assert at(rubber.result.points, 660, 0).deflection_mm > 1.5 * middle.deflection_mm
    assert "soft in plane" in {f.code for f in rubber.findings}
    assert at(rubber.result.points, 660, 0).worst_mount_n < middle.worst_mount_n
    window = Cutout(
        key="w",
        panel="belly",
        shape="rectangle",
        purpose="vent",
        u_mm=160,
        v_mm=0,
        width_mm=90,
        height_mm=120,
    )
    holed = strike_map(replace(GIVEN, plate=replace(PLATE, cutouts=(window,)))).result
    assert holed.area_mm2 == pytest.approx(base.area_mm2 - 90 * 120, rel=1e-6)
    assert at(holed.points, 600, 0).deflection_mm > at(base.points, 600, 0).deflection_mm


@pytest.mark.parametrize(
    "other",
    [
        {"contact_radius_mm": 30.0},
        {"direction": "from ahead 20° upward"},
        {"mounts": tuple(replace(m, at_mm=(m.at_mm[0] + 4, *m.at_mm[1:])) for m in MOUNTS)},
        {"plate": replace(PLATE, thickness_mm=6.0)},
    ],
)
def test_what_is_remembered_of_another_question_changes_no_answer(other: dict[str, Any]) -> None:
    """Mesh, ground and factors are kept apart: each is that of its own question."""
    strike_map(GIVEN)
    after = strike_map(replace(GIVEN, **other)).result
    for remembered in (_spread_any, ground_of, linear_of, factored_shell, _model):
        remembered.cache_clear()
    alone = strike_map(replace(GIVEN, **other)).result
    assert after == alone


def test_touching_and_what_gets_past_go_together() -> None:
    outcome = strike_map(replace(GIVEN, energy_j=400.0))
    for point in outcome.result.points:
        assert point.touches_j is not None
        reaches = point.touches_j <= 400.0
        assert (point.past_share > 0) == (point.touches_j < 400.0)
        deep = point.deflection_mm >= (point.standoff_mm or 0.0) - 1e-6
        assert reaches == deep
    assert "touches under a strike" in {f.code for f in outcome.findings}
    assert strike_map(replace(GIVEN, parts=())).result.first_touch_j is None


@pytest.mark.parametrize("mounts", [(), MOUNTS[:2]])
def test_too_few_mounts_are_said(mounts: tuple[ShellMount, ...]) -> None:
    bare = tuple(replace(m, rotational_nmm_per_rad=0.0) for m in mounts)
    with pytest.raises(InputError, match=r"nothing holds|mechanism"):
        strike_map(replace(GIVEN, mounts=bare))


def test_a_direction_that_meets_no_face_is_said() -> None:
    with pytest.raises(InputError, match="no panel"):
        strike_map(replace(GIVEN, direction="level from ahead"))


@pytest.mark.parametrize("name", ["choosing", "kit_open", "in_service"])
def test_every_plate_of_the_demo_has_its_map(name: str) -> None:
    job = demo_file(name).job
    parts = tuple(p for p in job.bike.parts if p.kind != "low")
    for candidate in (job.stock, *job.candidates):
        own = job.candidate(candidate.key)
        mounts = mount_supports(own.plate, mounted(job.bike, own)).mounts
        if len(mounts) < 3:
            continue
        result = strike_map(
            StrikeMapInput(plate=own.plate, mounts=mounts, parts=parts, mesh_mm=25.0)
        ).result
        assert result.first_touch_j is not None
        assert 1.0 < result.deepest_mm < 250.0


def test_rubber_stands_in_series_with_its_mount(choosing: Job) -> None:
    own = choosing.candidate("hdpe10")
    plain, rubber = own.joints[0], own.joints[2]
    hard, soft = (joint_springs(j, choosing.bike.mount(j.mount)) for j in (plain, rubber))
    assert soft[0] < hard[0]
    assert soft[2] == 0.0
    pressed, sheared = isolator_springs(25.0, 20.0)
    assert (pressed, sheared) == pytest.approx((70.0, 17.0))
    assert isolator_springs(25.0, 10.0)[0] > 2 * pressed, "thin rubber is stiffer than its height"


def test_a_narrow_stone_may_go_through_by_map_and_place() -> None:
    hard = replace(GIVEN, energy_j=300.0, contact_radius_mm=5.0, parts=())
    outcome = strike_map(hard)
    assert "punches through" in {f.code for f in outcome.findings}
    worst = max(outcome.result.points, key=lambda p: p.punch_share)
    assert worst.punch_share >= 1.0
    point = strike_point(StrikePointInput(hard, worst.place_mm[0], worst.place_mm[1]))
    assert {"may punch through", "punches through"} & {f.code for f in point.findings}
    assert point.verdict != "sound"
    soft = strike_map(replace(hard, energy_j=5.0, contact_radius_mm=30.0))
    assert not {"may punch through", "punches through"} & {f.code for f in soft.findings}


@pytest.mark.parametrize(
    ("share", "places", "code"),
    [
        (0.99, 1.0, None),
        (1.0, 1.0, "may punch through"),
        (1.49, 1.0, "may punch through"),
        (1.5, 0.05, "punches through"),
        (5.1, 0.01, "may punch through"),
    ],
)
def test_grave_is_told_from_trivial(share: float, places: float, code: str | None) -> None:
    assert punch_code(share, places) == code


def test_a_weld_takes_strength_from_hardened_aluminium_beside_its_folds() -> None:
    """Within 25 mm of a fold a place bears what EN 1999-1-1 leaves of it; elsewhere all."""
    apron = Apron(slope_height_mm=120.0, rise_deg=45.0, top_width_mm=200.0)
    pressed = replace(GIVEN, parts=(), plate=replace(PLATE, form="pressed", apron=apron))
    welded = replace(pressed, plate=replace(pressed.plate, form="welded"))
    _, whole = field_of(pressed)
    linear, weak = field_of(welded)
    fold_x = PLATE.belly.start_x_mm
    belly = next(i for i, p in enumerate(linear.mesh.panels) if p.name == "belly")
    own = weak.panel == belly
    beside = linear.mesh.nodes[weak.nodes][:, 0] - fold_x <= 25.0
    share = weld_zone_share(PLATE.material)
    assert share < 1.0
    assert (own & beside).any()
    folds = weak.forms.form.folds_n / whole.forms.form.folds_n
    assert folds[own & beside] == pytest.approx(share)
    assert folds[own & ~beside] == pytest.approx(1.0)
    # It folds sooner there, so the same blow goes deeper and presses less.
    deeper = weak.impact.total_mm / whole.impact.total_mm
    assert (deeper[own & beside] > 1.001).all()
    assert deeper[own & ~beside] == pytest.approx(1.0)
    pressed_by = weak.impact.force_n / whole.impact.force_n
    assert (weak.punch_share / whole.punch_share)[own & beside] == pytest.approx(
        pressed_by[own & beside] / share
    )
    steel = replace(welded, plate=replace(welded.plate, material="mild steel S235"))
    assert (field_of(steel)[1].forms.form.strength == 1.0).all()


def test_room_that_is_left_only_by_the_estimate_is_minded() -> None:
    free = strike_map(replace(GIVEN, parts=()))
    deep = max(
        (p for p in free.result.points if 570 < p.place_mm[0] < 750 and abs(p.place_mm[1]) < 50),
        key=lambda p: p.deflection_mm,
    )
    room = 1.1 * deep.deflection_mm
    above = replace(SUMP, z_min_mm=284.0 + room, z_max_mm=400.0)
    outcome = strike_map(replace(GIVEN, parts=(above,)))
    assert outcome.result.first_touch_j is not None
    assert outcome.result.first_touch_j > GIVEN.energy_j
    assert "may touch under a strike" in {f.code for f in outcome.findings}
    far = replace(above, z_min_mm=284.0 + 2 * room)
    assert strike_map(replace(GIVEN, parts=(far,))).findings == free.findings


@pytest.mark.parametrize(("material", "cold"), [("polypropylene", -5.0), ("HDPE", -15.0)])
def test_cold_plastic_is_brittle_in_words(material: str, cold: float) -> None:
    plate = replace(PLATE, material=material, thickness_mm=10.0)
    asked = replace(GIVEN, plate=plate, temperature_c=cold)
    found = {f.code for f in strike_map(asked).findings}
    assert "brittle in the cold" in found
    warm = strike_map(replace(asked, temperature_c=20.0))
    assert "brittle in the cold" not in {f.code for f in warm.findings}
    point = strike_point(StrikePointInput(asked, 660.0, 0.0))
    assert "brittle in the cold" in {f.code for f in point.findings}


def test_a_place_from_its_own_shape_is_near_the_map_and_within_its_band() -> None:
    for x, y in ((660.0, 0.0), (520.0, 60.0), (800.0, -90.0)):
        point = strike_point(StrikePointInput(GIVEN, x, y)).result
        assert point.form_mm == pytest.approx(point.deflection_mm, rel=0.10)
        assert point.least_mm < point.deflection_mm < point.most_mm
        assert point.worst_mount_n == pytest.approx(
            max(float(np.linalg.norm(load.force_n)) for load in point.loads)
        )


def test_a_flat_plate_on_soft_mounts_draws_them_less() -> None:
    """Finite stiffness in the plane: what stretches the sheet is what its mounts take."""
    hard = strike_point(StrikePointInput(GIVEN, 660.0, 0.0)).result
    loose = tuple(replace(m, stiffness_n_per_mm=(200.0, 200.0, 8000.0)) for m in MOUNTS)
    soft = strike_point(StrikePointInput(replace(GIVEN, mounts=loose), 660.0, 0.0)).result
    assert soft.worst_in_plane_n < 0.5 * hard.worst_in_plane_n
    assert soft.deflection_mm > hard.deflection_mm
    assert hard.worst_in_plane_n > 0.1 * hard.peak_force_n, "the pull is no trifle"
