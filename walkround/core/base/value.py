"""The one base of every value in the core: frozen, strict about unknown names."""

from pydantic import BaseModel, ConfigDict


class Value(BaseModel):
    """An immutable value. Unknown names are refused, so that a spelling mistake never passes silently."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)
