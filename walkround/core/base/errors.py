"""Errors that a pilot can read.

Two families exist in Walk Round. A person's mistake is a ``PilotError``: the page shows its words beside the
field, keeps what was typed and saves nothing. Everything else is a fault of ours and goes to the log.
"""


class PilotError(Exception):
    """A person's mistake, in words: what was wrong, where, and what would be right.

    Parameters
    ----------
    message: the sentence shown.
    field: name of the form field it belongs to, or "" for the whole form.
    offer: what the tool suggests instead, as {field name: text}; the page offers it with one tap.
    """

    def __init__(self, message: str, field: str = "", offer: dict[str, str] | None = None) -> None:
        super().__init__(message)
        self.message = message
        self.field = field
        self.offer = offer or {}

    def by_field(self) -> dict[str, str]:
        """The words for each field that needs another look; "" stands for the whole form."""
        return {self.field: self.message}


class InputError(PilotError):
    """Something typed or pasted cannot be what it says."""


class BlockedError(PilotError):
    """A gate stands before this step; the message says which and why."""


class SignedError(PilotError):
    """The round is signed and frozen; it can be read but not changed."""


class ConflictError(PilotError):
    """Somebody answered meanwhile, in another tab or on another screen."""


class MissingError(PilotError):
    """There is nothing under that number."""


class DeviceError(PilotError):
    """A device or service did not give a usable answer."""


class DiskError(PilotError):
    """The disk took nothing more."""

    def __init__(self, why: str) -> None:
        super().__init__(f"Not saved: {why}. Your answer is still in the form. Free some disk space, then try again.")


class BusyError(PilotError):
    """It took too long to get a turn at the book."""

    def __init__(self) -> None:
        super().__init__("Busy. Your answer is still in the form. Try again.")
