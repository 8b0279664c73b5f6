"""A job with its photos in one zip: comes back whole; what is none of ours is refused."""

from __future__ import annotations

import io
import zipfile

import pytest
from flask.testing import FlaskClient
from PIL import Image

from rugged_shield.core.errors import InputError
from rugged_shield.formats.bundle import read_brought, write_bundle
from rugged_shield.formats.jobfile import write_job_file
from tests.conftest import Client, demo_file

ID, OTHER = "0123456789abcdef0123", "f" * 20


def picture(color: str = "red") -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (60, 40), color).save(out, "JPEG")
    return out.getvalue()


def job_text() -> str:
    file = demo_file("half_fitted")
    return write_job_file(file.job, file.records)


def zipped(entries: dict[str, bytes], packed: bool = False) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED if packed else 0) as archive:
        for name, data in entries.items():
            archive.writestr(name, data)
    return out.getvalue()


def test_a_job_comes_back_with_its_record_and_its_photos() -> None:
    whole = write_bundle(job_text(), {OTHER: picture("blue"), ID: picture()})
    file, photos = read_brought(whole)
    assert file == demo_file("half_fitted")
    assert sorted(photos) == [ID, OTHER]
    with Image.open(io.BytesIO(photos[ID])) as back:
        assert back.size == (60, 40)
        red = back.getpixel((30, 20))
    assert red[0] > 200  # type: ignore[index]
    assert whole == write_bundle(job_text(), {ID: picture(), OTHER: picture("blue")})


def test_a_bare_job_file_is_taken_too() -> None:
    file, photos = read_brought(job_text().encode())
    assert file == demo_file("half_fitted")
    assert photos == {}


def test_another_program_can_look_inside() -> None:
    with zipfile.ZipFile(io.BytesIO(write_bundle(job_text(), {ID: picture()}))) as archive:
        assert archive.namelist() == ["job.json", f"photos/{ID}.jpg"]
        assert archive.testzip() is None
        assert archive.read("job.json").decode() == job_text()


@pytest.mark.parametrize(
    ("entries", "packed", "field"),
    [
        ({}, False, "file"),
        ({f"photos/{ID}.jpg": picture()}, False, "file"),
        ({"job.json": b"{}"}, False, "format"),
        ({"job.json": job_text().encode(), "../x": b"x"}, False, "photos"),
        ({"job.json": job_text().encode(), "photos/../x.jpg": b"x"}, False, "photos"),
        ({"job.json": job_text().encode(), f"photos/{ID}.jpg": b"no picture"}, False, "photo"),
        ({"job.json": job_text().encode()}, True, "photos"),
        ({"job.json": job_text().encode()} | {f"photos/{i:020x}.jpg": b"" for i in range(61)},
         False, "photos"),
    ],
)  # fmt: skip
def test_what_is_none_of_ours_is_refused(
    entries: dict[str, bytes], packed: bool, field: str
) -> None:
    with pytest.raises(InputError) as refused:
        read_brought(zipped(entries, packed))
    assert refused.value.field.split(".")[0] == field


def test_a_damaged_zip_is_said() -> None:
    with pytest.raises(InputError, match="zip"):
        read_brought(b"PK\x03\x04" + b"nonsense" * 20)


def test_it_goes_out_and_comes_in_over_http(client: Client) -> None:
    flask: FlaskClient = client.flask
    kept = flask.post("/api/jobs/half-fitted/photos", data=picture(), content_type="image/jpeg")
    photo = kept.get_json()["id"]
    out = flask.get("/api/jobs/half-fitted/bundle")
    assert out.headers["Content-Disposition"] == 'attachment; filename="job.zip"'
    back = flask.post("/api/jobs", data=out.data, content_type="application/zip")
    assert back.status_code == 200, back.get_data(as_text=True)[:300]
    new = back.get_json()["id"]
    assert flask.get(f"/api/jobs/{new}/photos/{photo}").status_code == 200
    was, now = (flask.get(f"/api/jobs/{i}/file").get_json() for i in ("half-fitted", new))
    assert now == was


def test_a_file_of_another_type_is_refused(client: Client) -> None:
    answer = client.flask.post("/api/jobs", data=b"PK", content_type="application/x-rar")
    assert answer.status_code == 422
