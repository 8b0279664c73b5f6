"""Which drive a recess lets in: socket diameters against the room around the head."""

from __future__ import annotations

from dataclasses import replace

import pytest

from rugged_shield.core.amounts import in_system
from rugged_shield.core.errors import InputError
from rugged_shield.core.fitup.joint import Joint
from rugged_shield.core.fitup.presets import PresetRequest, joint_from_preset
from rugged_shield.core.tables.sockets import SOCKET_OUTER_MM, socket_outer_mm
from rugged_shield.core.tighten.tools import held_side, turned_side


def joint(preset: str = "through nut", thread: str = "M8") -> Joint:
    return joint_from_preset(
        PresetRequest(
            preset=preset,
            key="j",
            number=1,
            thread=thread,
            plate_thickness_mm=4,
            plate_material="aluminium 5052-H32",
            x_mm=600,
            y_mm=0,
            stage="locate",
        )
    )


def test_sockets_grow_with_their_hexagon() -> None:
    flats = sorted(SOCKET_OUTER_MM)
    widths = [SOCKET_OUTER_MM[f] for f in flats]
    assert widths == sorted(widths)
    assert all(wide > flat * 1.15 for flat, wide in zip(flats, widths, strict=True))
    assert socket_outer_mm(13) == 18.5
    with pytest.raises(InputError):
        socket_outer_mm(32)


@pytest.mark.parametrize(
    ("room", "fits"),
    [
        (None, ("13 mm socket", "six-lobe T45")),
        (20.0, ("13 mm socket", "six-lobe T45")),
        # the socket stays out of the recess, the bit gets in
        (17.0, ("six-lobe T45",)),
        (8.0, ()),
    ],
)
def test_a_head_with_two_drives_in_a_recess(room: float | None, fits: tuple[str, ...]) -> None:
    two = replace(
        joint(), turned="head", head="ISO 4017", second_drive="six-lobe T45", room_mm=room
    )
    use = turned_side(two)
    assert use.tools == ("13 mm socket", "six-lobe T45")
    assert use.fits == fits
    assert ("stays out" in use.words) is (len(fits) < 2)
    assert use.known is (room is not None)


def test_a_deep_recess_asks_room_for_the_body_of_the_bit() -> None:
    deep = replace(joint("tapped boss"), room_mm=12.0, room_deep_mm=60.0)
    assert turned_side(deep).fits == ()
    assert turned_side(replace(deep, room_deep_mm=10.0)).fits == ("6 mm hex key",)
    assert "12.0 mm" in in_system(turned_side(deep).words)


@pytest.mark.parametrize("odd", ["1/0 in socket", "32 mm socket", "something odd"])
def test_sizes_that_are_none_or_beyond_the_table_are_not_known(odd: str) -> None:
    use = turned_side(replace(joint("tapped boss"), second_drive=odd, room_mm=30.0))
    assert not use.known
    assert odd not in use.fits
    assert odd in use.words


def test_which_of_two_drives_gets_in_is_not_known_without_the_room() -> None:
    two = replace(joint(), turned="head", second_drive="six-lobe T45")
    assert not turned_side(two).known
    assert "not entered" in turned_side(two).words
    assert turned_side(replace(two, second_drive="")).known


def test_what_holds_the_other_side() -> None:
    through = joint()
    held = held_side(replace(through, turned="head"))
    assert held is not None
    assert held.tools == ("13 mm spanner",)
    other = held_side(replace(through, turned="nut"))
    assert other is not None
    assert other.tools == ("13 mm socket",)
    assert turned_side(replace(through, turned="nut")).tools == ("13 mm spanner",)
    assert held_side(joint("tapped boss")) is None
