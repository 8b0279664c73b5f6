"""A job with its photos as one file: a zip of its job file and a JPEG for each photo."""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Mapping
from pathlib import Path

from rugged_shield.core.errors import InputError
from rugged_shield.formats.jobfile import MAX_BYTES as MAX_JOB_BYTES
from rugged_shield.formats.jobfile import JobFile, read_job_file
from rugged_shield.formats.photos import (
    MAX_PHOTOS,
    as_handed_out,
    clean_photo,
    opened_zip,
    read_stored,
)
from rugged_shield.formats.photos import MAX_ZIP_BYTES as MAX_PHOTO_BYTES

JOB_NAME = "job.json"
MAX_BUNDLE_BYTES = MAX_PHOTO_BYTES + MAX_JOB_BYTES
_PHOTO = re.compile(r"^photos/([0-9a-f]{20})\.jpg\Z")
_BEGINS = b"PK"


def write_bundle(text: str, photos: Mapping[str, bytes]) -> bytes:
    """A job file's text and the job's photos by id, as a zip; the same bytes for the same job."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as archive:
        archive.writestr(zipfile.ZipInfo(JOB_NAME), text)
        for key, jpeg in sorted(photos.items()):
            archive.writestr(zipfile.ZipInfo(f"photos/{key}.jpg"), as_handed_out(jpeg))
    return out.getvalue()


def read_brought(data: bytes) -> tuple[JobFile, dict[str, bytes]]:
    """What a person brings along: a job file, or a zip with one and its photos, each cleaned again.

    Raises InputError for names that are none of ours, packed entries, and what a job file or a
    photo would be refused for.
    """
    if not data.startswith(_BEGINS):
        return read_job_file(data), {}
    if len(data) > MAX_BUNDLE_BYTES:
        raise InputError("file", f"{len(data)} bytes", f"at most {MAX_BUNDLE_BYTES} bytes")
    with opened_zip(data, "file", "a zip of ours") as archive:
        names = archive.namelist()
        if names.count(JOB_NAME) != 1 or len(set(names)) != len(names):
            raise InputError("file", len(names), f"a zip with one {JOB_NAME}, each name once")
        if len(names) - 1 > MAX_PHOTOS:
            raise InputError("photos", len(names) - 1, f"at most {MAX_PHOTOS} photos a job")
        found = {name: _entry(archive, name) for name in names}
    file = read_job_file(found.pop(JOB_NAME))
    return file, {_id(name): clean_photo(jpeg) for name, jpeg in found.items()}


def _id(name: str) -> str:
    photo = _PHOTO.match(name)
    if photo is None:
        raise InputError("photos", name, f"{JOB_NAME}, and photos named by their ids")
    return photo[1]


def _entry(archive: zipfile.ZipFile, name: str) -> bytes:
    if name != JOB_NAME:
        _id(name)
    return read_stored(archive, archive.getinfo(name), MAX_JOB_BYTES if name == JOB_NAME else None)


def load_brought(path: Path) -> tuple[JobFile, dict[str, bytes]]:
    """The same from disk, never more of it than such a file may have."""
    with path.open("rb") as file:
        return read_brought(file.read(MAX_BUNDLE_BYTES + 1))
