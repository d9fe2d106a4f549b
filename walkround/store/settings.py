"""Settings of the pilot: name, units, limits, methods, theme, and which condition each simulated device plays."""

import json
from functools import lru_cache
from typing import Annotated, Any, Literal

from msgspec import field
from peewee import Select

from walkround.core.base.units import Units
from walkround.core.base.value import Allowed, Value
from walkround.core.checklist.custom import CustomChecklist
from walkround.core.packs.charging import Charger
from walkround.core.packs.table import Columns
from walkround.core.pilot.dues import Paper
from walkround.core.pilot.limits import Limits
from walkround.core.pilot.methods import ChosenMethods
from walkround.store.models import SettingRow
from walkround.store.statements import prepared


class Settings(Value):
    """Everything a pilot sets for themselves."""

    pilot: Annotated[str, Allowed(max_length=60)] = ""
    theme: Literal["auto", "light", "dark"] = "auto"
    units: Units = field(default_factory=Units)
    stick_mode: Annotated[int, Allowed(ge=1, le=4)] = 2
    region: str = ""
    limits: Limits = field(default_factory=Limits)
    methods: ChosenMethods = field(default_factory=ChosenMethods)
    devices: dict[str, str] = {}
    """The chosen condition of each simulated device; one that is missing, as in a new book, is not connected."""
    custom_checklist: CustomChecklist = field(default_factory=CustomChecklist)
    charger: Charger = field(default_factory=Charger)
    columns: dict[str, Columns] = {}
    papers: Annotated[tuple[Paper, ...], Allowed(max_length=20)] = ()

    def connected(self, device: str) -> bool:
        """Whether a device plays something; what it says is invented, and pages say so."""
        return self.devices.get(device, "off") != "off"


def load() -> Settings:
    """The settings as saved; defaults for what was never set."""
    return _read(tuple(_saved()))


@prepared
def _saved() -> Select:
    return SettingRow.select(SettingRow.name, SettingRow.value).order_by(SettingRow.name)


@lru_cache(maxsize=8)
def _read(rows: tuple[tuple[str, str], ...]) -> Settings:
    """Settings from what is saved. Values never change, so the same rows may give the same value again."""
    return Settings.model_validate({name: json.loads(value) for name, value in rows})


def save(**changes: Any) -> None:
    """Save some settings by name; values are plain data or core values. Runs inside the caller's transaction."""
    for name, value in changes.items():
        plain = value.model_dump(mode="json") if isinstance(value, Value) else value
        SettingRow.replace(name=name, value=json.dumps(plain)).execute()  # type: ignore[no-untyped-call]
