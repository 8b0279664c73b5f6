"""Photos in: re-encoded, turned upright, stripped of all that is not picture; and as a zip."""

from __future__ import annotations

import io
import re
import struct
import warnings
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager

from rugged_shield.core.errors import InputError

MAX_BYTES = 12_000_000
MAX_PIXELS = 40_000_000
MAX_SIDE = 20_000
LONG_SIDE = 1600
QUALITY = 82
MAX_PHOTOS = 60
LARGEST_KEPT = 950_000
"""A kept photo is never larger: all of a job's go into a zip that comes in again, bytes."""
LEAST_QUALITY = 22
MAX_ZIP_BYTES = MAX_PHOTOS * (LARGEST_KEPT + 1000)
_DAMAGED = (RuntimeError, EOFError, ValueError, OSError, LookupError, struct.error)
"""What the standard reader raises for offsets, sizes and texts that cannot be."""
_NAME = re.compile(r"^([0-9a-f]{20})\.jpg\Z")


def clean_photo(data: bytes) -> bytes:
    """A JPEG of at most 1600 px without any metadata (no place, no time, no camera).

    Reads JPEG and PNG only. Raises InputError for anything else, for pictures
    that are too large and for damaged ones.
    """
    from PIL import Image, ImageOps

    if len(data) > MAX_BYTES:
        raise InputError("photo", f"{len(data)} bytes", f"at most {MAX_BYTES} bytes")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=("JPEG", "PNG")) as picture:
                _check_pixels(picture.width, picture.height)
                # A JPEG is decoded at an eighth to the whole of its size: what is needed of it.
                picture.draft("RGB", (LONG_SIDE, LONG_SIDE))
                upright = ImageOps.exif_transpose(picture).convert("RGB")
                upright.thumbnail((LONG_SIDE, LONG_SIDE))
                plain = Image.new("RGB", upright.size)
                plain.paste(upright)
    except (OSError, SyntaxError, ValueError, Image.DecompressionBombError, Warning) as error:
        if isinstance(error, InputError):
            raise
        raise InputError(
            "photo",
            type(error).__name__,
            "a JPEG or PNG picture",
            "this cannot be read as a picture",
        ) from error
    for quality in range(QUALITY, LEAST_QUALITY - 1, -10):
        out = io.BytesIO()
        plain.save(out, "JPEG", quality=quality)
        if out.tell() <= LARGEST_KEPT:
            return out.getvalue()
    raise InputError(
        "photo",
        f"{out.tell()} bytes at the least",
        f"at most {LARGEST_KEPT} bytes once it is made small",
        "this picture is nothing but noise",
    )


def _check_pixels(width: int, height: int) -> None:
    """Refuse a picture by what its head says, before anything of it is decoded."""
    if width * height > MAX_PIXELS or max(width, height) > MAX_SIDE:
        raise InputError(
            "photo",
            f"{width} × {height}",
            f"at most {MAX_PIXELS // 1_000_000} million pixels, no side over {MAX_SIDE}",
            "this picture is too large",
            "Make it smaller, and try again.",
        )


def as_handed_out(jpeg: bytes) -> bytes:
    """A stored photo as it leaves: one from when larger ones were kept is made small enough."""
    return jpeg if len(jpeg) <= LARGEST_KEPT else clean_photo(jpeg)


def photos_zip(photos: dict[str, bytes]) -> bytes:
    """All photos of a job as a zip, each named by its id."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as archive:
        for key, jpeg in photos.items():
            archive.writestr(zipfile.ZipInfo(f"{key}.jpg"), as_handed_out(jpeg))
    return out.getvalue()


@contextmanager
def opened_zip(data: bytes, field: str, what: str) -> Iterator[zipfile.ZipFile]:
    """A zip from outside; whatever is damaged in it is refused in words, wherever it shows."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            yield archive
    except InputError:
        raise
    except (zipfile.BadZipFile, *_DAMAGED) as error:
        raise InputError(
            field, type(error).__name__, what, "this cannot be read as a zip"
        ) from error


def read_stored(archive: zipfile.ZipFile, info: zipfile.ZipInfo, most: int | None = None) -> bytes:
    """An entry of a zip that is stored as it is: nothing is unpacked, so nothing can swell."""
    if info.compress_type != zipfile.ZIP_STORED or info.file_size > (most or MAX_BYTES):
        raise InputError("photos", info.filename, "stored files of their size, not packed ones")
    return archive.read(info)


def read_photos_zip(data: bytes) -> dict[str, bytes]:
    """Photos from a zip of ours: stored, not packed; names are ids; each is cleaned again."""
    if len(data) > MAX_ZIP_BYTES:
        raise InputError("photos", f"{len(data)} bytes", f"at most {MAX_ZIP_BYTES} bytes")
    found: dict[str, bytes] = {}
    with opened_zip(data, "photos", "a zip of photos") as archive:
        for info in archive.infolist():
            name = _NAME.match(info.filename)
            if name is None:
                raise InputError("photos", info.filename, "names that are ids of photos")
            found[name[1]] = clean_photo(read_stored(archive, info))
    return found
