"""What the core raises. Every error is a code with values; `wording` makes the sentence."""

from __future__ import annotations

Value = float | int | str | bool | None


class CoreError(Exception):
    """Base of everything the core raises on purpose."""


class InvalidInput(CoreError):
    """A value that cannot be worked with.

    Parameters
    ----------
    field : dotted path of the input, list places as numbers (`segments.0.diameter_mm`)
    code : key into `wording.sentences.ERRORS`
    given, allowed : what was given and what would have been accepted
    values : anything else that the sentence needs
    """

    def __init__(
        self,
        field: str,
        code: str,
        *,
        given: Value = None,
        allowed: Value = None,
        **values: Value,
    ) -> None:
        self.field = field
        self.code = code
        self.given = given
        self.allowed = allowed
        self.values = values
        super().__init__(f"{field}: {code} (given {given!r}, allowed {allowed!r})")

    def under(self, prefix: str) -> InvalidInput:
        """The same error with its field placed below `prefix`."""
        field = f"{prefix}.{self.field}" if self.field else prefix
        return InvalidInput(field, self.code, given=self.given, allowed=self.allowed, **self.values)
