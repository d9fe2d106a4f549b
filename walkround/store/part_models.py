"""Tables of the parts: how a hand left them in a round, the spares that took their place, and how their sensors were calibrated."""

from typing import Any

from peewee import AutoField, BlobField, BooleanField, CharField, CompositeKey, ForeignKeyField, IntegerField, TextField

from walkround.store.models import AircraftRow, Base, MomentField, RoundRow


class TouchRow(Base):
    """One part as it was left in a round; with no part, that the pack is unplugged."""

    round_id: int
    aircraft_id: int
    round = ForeignKeyField(RoundRow, column_name="round_id")
    part_id = CharField()
    aircraft = ForeignKeyField(AircraftRow, column_name="aircraft_id")
    state = CharField()
    at = MomentField()

    class Meta:
        table_name = "touch"
        primary_key = CompositeKey("round", "part_id")


class SpareUsedRow(Base):
    """A spare of the bag that was fitted."""

    aircraft_id: int
    id = AutoField()
    aircraft = ForeignKeyField(AircraftRow, column_name="aircraft_id")
    thing = CharField()
    part_id = CharField()
    at = MomentField()

    class Meta:
        table_name = "spare_used"


class CalibrationRow(Base):
    """A calibration as measured and judged: compass or level."""

    aircraft_id: int
    id = AutoField()
    aircraft = ForeignKeyField(AircraftRow, column_name="aircraft_id")
    kind = CharField()
    at = MomentField()
    body = TextField()

    class Meta:
        table_name = "calibration"


class RecordingRow(Base):
    """What a flight controller wrote, as it came, compressed; with what it was told to be, "" where that is not known."""

    aircraft_id: int
    id = AutoField()
    aircraft = ForeignKeyField(AircraftRow, column_name="aircraft_id")
    at = MomentField()
    name = CharField()
    kind = CharField()
    sensors = CharField()
    total = IntegerField()
    simulated = BooleanField()
    body = BlobField()

    class Meta:
        table_name = "recording"


ALL: tuple[Any, ...] = (TouchRow, SpareUsedRow, CalibrationRow, RecordingRow)
"""The tables of this module, for whoever goes through all of them."""
