"""A PDF that someone brings, as plain pictures of its pages: nothing else of it is kept."""

from __future__ import annotations

import io

from rugged_shield.core.errors import InputError
from rugged_shield.formats.photos import LONG_SIDE, MAX_BYTES, QUALITY

MAX_PDF_PAGES = 8
MAX_SIDE_PT = 5000.0


def pdf_pages(data: bytes) -> tuple[bytes, ...]:
    """Each page as a JPEG of at most 1600 px; scripts, links, forms and attachments stay out.

    Raises InputError for what is no PDF, is locked, or has too many pages. Meant to be run where
    a fault in the reader ends no more than a process of its own.
    """
    import pypdfium2 as pdfium

    if len(data) > MAX_BYTES:
        raise InputError("pdf", f"{len(data)} bytes", f"at most {MAX_BYTES} bytes")
    try:
        with pdfium.PdfDocument(data) as document:
            _check_pages(len(document))
            return tuple(_page(document[i]) for i in range(len(document)))
    except pdfium.PdfiumError as error:
        raise InputError(
            "pdf", str(error), "a PDF without a password", "this cannot be read as a PDF"
        ) from error


def _check_pages(count: int) -> None:
    if not 1 <= count <= MAX_PDF_PAGES:
        raise InputError(
            "pdf",
            f"{count} pages",
            f"1 to {MAX_PDF_PAGES} pages",
            "this PDF has too many pages for a sheet" if count else "this PDF has no page",
            "Keep the pages that matter, or take pictures of them.",
        )


def _page(page: object) -> bytes:
    width, height = page.get_size()  # type: ignore[attr-defined]
    if not 1 <= max(width, height) <= MAX_SIDE_PT:
        raise InputError("pdf", f"{width:.0f} × {height:.0f} pt", f"at most {MAX_SIDE_PT:.0f} pt")
    drawn = page.render(scale=LONG_SIDE / max(width, height), may_draw_forms=False)  # type: ignore[attr-defined]
    out = io.BytesIO()
    drawn.to_pil().convert("RGB").save(out, "JPEG", quality=QUALITY)
    return out.getvalue()
