"""The one base of every value in the core: frozen, strict about unknown names."""

from typing import Any, Self

from pydantic import BaseModel, ConfigDict


class Value(BaseModel):
    """An immutable value. Unknown names are refused, so that a spelling mistake never passes silently."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)

    @classmethod
    def trusted(cls, **values: Any) -> Self:
        """A value from what was checked when it came in, every field given: for the thousands that are read from a table.

        Faster than the checked way by half, and than ``model_construct`` by far.
        """
        made = cls.__new__(cls)
        object.__setattr__(made, "__dict__", values)
        object.__setattr__(made, "__pydantic_fields_set__", set(values))
        object.__setattr__(made, "__pydantic_extra__", None)
        object.__setattr__(made, "__pydantic_private__", None)
        return made
