"""Photos: re-encoded without a trace of where or when; what is no picture is refused."""

from __future__ import annotations

import io
import zipfile

import pytest
from PIL import Image

from rugged_shield.core.errors import InputError
from rugged_shield.core.survey.found import StripItem
from rugged_shield.formats.labels import BagHead, bag_labels
from rugged_shield.formats.photos import (
    LONG_SIDE,
    MAX_BYTES,
    clean_photo,
    photos_zip,
    read_photos_zip,
)

ID = "0123456789abcdef0123"


def picture(
    size: tuple[int, int] = (64, 32), kind: str = "JPEG", exif: Image.Exif | None = None
) -> bytes:
    out = io.BytesIO()
    image = Image.new("RGB", size, (200, 30, 30))
    image.paste((20, 20, 200), (0, 0, size[0] // 2, size[1]))
    image.save(out, kind, **({"exif": exif} if exif else {}))
    return out.getvalue()


def test_place_time_and_camera_are_gone() -> None:
    exif = Image.Exif()
    exif[0x010F] = "SECRETCAM"
    exif.get_ifd(0x8825)[2] = ((59.0, 1.0, 2.0),)[0]
    raw = picture(exif=exif)
    assert b"SECRETCAM" in raw
    cleaned = clean_photo(raw)
    assert b"SECRETCAM" not in cleaned
    assert b"Exif" not in cleaned
    with Image.open(io.BytesIO(cleaned)) as seen:
        assert len(seen.getexif()) == 0
        assert seen.format == "JPEG"


def test_it_is_turned_upright_and_made_smaller() -> None:
    exif = Image.Exif()
    exif[0x0112] = 6
    with Image.open(io.BytesIO(clean_photo(picture((64, 32), exif=exif)))) as seen:
        assert seen.size == (32, 64)
    with Image.open(io.BytesIO(clean_photo(picture((4000, 1000), "PNG")))) as seen:
        assert max(seen.size) == LONG_SIDE


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"not a picture",
        b"<svg xmlns='http://www.w3.org/2000/svg'/>",
        b"GIF89a" + bytes(40),
        b"\x89PNG\r\n\x1a\n" + bytes(100),
        bytes(MAX_BYTES + 1),
    ],
    ids=["empty", "text", "svg", "gif", "damaged png", "too large"],
)
def test_what_is_no_picture_is_refused(data: bytes) -> None:
    with pytest.raises(InputError) as refused:
        clean_photo(data)
    assert refused.value.field == "photo"


def test_a_cut_and_a_giant_picture_are_refused() -> None:
    whole = picture((800, 600))
    with pytest.raises(InputError):
        clean_photo(whole[: len(whole) // 3])
    out = io.BytesIO()
    Image.new("1", (30_000, 30_000)).save(out, "PNG")
    assert len(out.getvalue()) < MAX_BYTES, "a small file of very many pixels"
    with pytest.raises(InputError):
        clean_photo(out.getvalue())


def test_a_zip_of_photos_comes_back() -> None:
    one = clean_photo(picture())
    back = read_photos_zip(photos_zip({ID: one}))
    assert list(back) == [ID]
    with Image.open(io.BytesIO(back[ID])) as seen:
        assert seen.size == (64, 32)


@pytest.mark.parametrize("name", ["../../evil.jpg", "x.jpg", f"{ID}.exe", f"/tmp/{ID}.jpg"])
def test_names_that_are_no_ids_are_refused(name: str) -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr(name, picture())
    with pytest.raises(InputError):
        read_photos_zip(out.getvalue())


def test_a_zip_bomb_is_not_unpacked() -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(f"{ID}.jpg", bytes(200_000_000))
    with pytest.raises(InputError, match="stored"):
        read_photos_zip(out.getvalue())
    with pytest.raises(InputError):
        read_photos_zip(b"PK\x03\x04 nonsense")


def test_labels_hold_what_goes_into_the_bag() -> None:
    head = BagHead("Own bike", "stock guard", "2026-05-02")
    kept = StripItem(
        key="a",
        kind="hidden screw",
        name="behind the flap",
        count=2,
        thread="M6",
        where="",
        keeping="into the stock bag",
    )
    other = StripItem(key="b", kind="hose or clip", name="breather clip", keeping="worn out")
    one, none = bag_labels(head, (kept, other)), bag_labels(head, (other,))
    assert one.startswith(b"%PDF-")
    assert one != none
    assert bag_labels(head, (kept, other)) == one, "the same list gives the same file"
    many = tuple(
        StripItem(
            key=f"k{i}",
            kind="hidden screw",
            name="x" * 60,
            note="y" * 190,
            keeping="into the stock bag",
        )
        for i in range(41)
    )
    assert bag_labels(head, many).count(b"/Type /Page\n") > 1
