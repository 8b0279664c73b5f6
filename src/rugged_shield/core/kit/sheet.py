"""The plate's sheet: which revision, of when, and its pages kept with the job."""

from __future__ import annotations

from dataclasses import dataclass

from rugged_shield.core.errors import InputError

MAX_PAGES = 12


@dataclass(frozen=True)
class Sheet:
    """A sheet's revision and date as printed, and its pages: keys of pictures beside the job."""

    revision: str = ""
    date: str = ""
    pages: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        if len(self.pages) > MAX_PAGES:
            raise InputError("sheet.pages", len(self.pages), f"at most {MAX_PAGES} pages")


NO_SHEET = Sheet()
