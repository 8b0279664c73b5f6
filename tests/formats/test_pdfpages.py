"""A PDF becomes pictures of its pages, and nothing else of it is kept."""

from __future__ import annotations

import io

import pytest
from PIL import Image

from rugged_shield.core.errors import InputError
from rugged_shield.formats.pdfpages import MAX_PDF_PAGES, pdf_pages
from rugged_shield.formats.photos import LONG_SIDE
from tests.hostile import pdf


def test_each_page_is_a_picture_of_its_own() -> None:
    pages = pdf_pages(pdf(3, (300.0, 400.0)))
    assert len(pages) == 3
    for page in pages:
        with Image.open(io.BytesIO(page), formats=("JPEG",)) as picture:
            assert picture.size == (LONG_SIDE * 3 // 4, LONG_SIDE)
            dark = sum(1 for value in picture.convert("L").tobytes() if value < 100)
            assert dark > 20, "the text of the page is in the picture"


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "cannot be read as a PDF"),
        (b"GIF89a" + b"\0" * 100, "cannot be read as a PDF"),
        (pdf(MAX_PDF_PAGES + 1), "too many pages"),
    ],
)
def test_what_is_no_sheet_is_refused_in_words(data: bytes, words: str) -> None:
    with pytest.raises(InputError, match=words):
        pdf_pages(data)


def test_a_page_larger_than_a_wall_is_refused() -> None:
    with pytest.raises(InputError) as caught:
        pdf_pages(pdf(size=(9_000.0, 500.0)))
    assert caught.value.field == "pdf"
