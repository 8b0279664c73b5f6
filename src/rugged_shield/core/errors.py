"""The one error a person can cause: it names the field, the value and what is allowed."""

from __future__ import annotations


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
        super().__init__(f"{field}: {self.message} (allowed: {allowed})")

    def __reduce__(self) -> tuple[type[InputError], tuple[str, ...]]:
        """An exception is copied by the arguments it was made with."""
        made = (self.field, self.value, self.allowed, self.message, self.remedy)
        return InputError, made

    def at(self, prefix: str) -> InputError:
        """The same error seen from further out: its field under ``prefix``."""
        field = f"{prefix}.{self.field}" if self.field else prefix
        return InputError(field, self.value, self.allowed, self.message, self.remedy)


def choose(field: str, value: str, known: object, what: str) -> None:
    """Refuse ``value`` when it is not among ``known`` (anything iterable of text)."""
    names = sorted(str(k) for k in known)  # type: ignore[attr-defined]
    if value not in names:
        raise InputError(
            field, value, "one of " + ", ".join(names), f"“{value}” is not a known {what}"
        )
