"""The one error a person can cause: it names the field, the value and what is allowed."""

from __future__ import annotations

from collections.abc import Iterable


class InputError(ValueError):
    """Bad input, refused.

    ``field`` is the path of the input, ``value`` what was given (as text),
    ``allowed`` the range or the choices, ``remedy`` what to do instead.
    """

    def __init__(
        self, field: str, value: object, allowed: str, message: str = "", remedy: str = ""
    ) -> None:
        self.field = field
        self.value = "" if value is None else str(value)[:200]
        self.allowed = allowed
        self.message = message or f"{self.value or 'nothing'} is not allowed here"
        self.remedy = remedy or f"Enter {allowed}."
        self.counterpart: InputError | None = None
        super().__init__(f"{field}: {self.message} (allowed: {allowed})")

    def __reduce__(self) -> tuple[type[InputError], tuple[str, ...]]:
        """An exception is copied by the arguments it was made with."""
        made = (self.field, self.value, self.allowed, self.message, self.remedy)
        return InputError, made

    def seen_from(self, field: str) -> InputError:
        """The refusal as it reads at this field, where two fields contradict each other."""
        other = self.counterpart
        return other if other is not None and other.field == field != self.field else self

    def at(self, prefix: str) -> InputError:
        """The same error seen from further out: its field under ``prefix``."""
        field = f"{prefix}.{self.field}" if self.field else prefix
        return InputError(field, self.value, self.allowed, self.message, self.remedy)


def choose(field: str, value: str, known: object, what: str) -> None:
    """Refuse ``value`` when it is not among ``known`` (anything iterable of text)."""
    names = [str(k) for k in known]  # type: ignore[attr-defined]
    if value not in names:
        allowed = "one of " + ", ".join(sorted(names))
        raise InputError(field, value, allowed, f"“{value}” is not a known {what}")


def once(field: str, given: Iterable[object], what: str) -> None:
    """Refuse a list in which a key or number stands twice; ``what`` it is that has it."""
    seen = set()
    for one in given:
        if one in seen:
            allowed = f"one that no other {what} has"
            raise InputError(field, one, allowed, f"{what} “{one}” is there already")
        seen.add(one)
