"""Tables of the flight itself: what was noted in the air, accidents and near misses, charges of the gear, trials of a lost link."""

from typing import Any

from peewee import AutoField, BlobField, CharField, FloatField, ForeignKeyField, IntegerField, TextField

from walkround.store.models import AircraftRow, Base, MomentField, RoundRow, SiteRow


class AirNoteRow(Base):
    """What was noted in the air on a device, by the id that it gave; sent twice it is there once."""

    round_id: int
    id = AutoField()
    round = ForeignKeyField(RoundRow, column_name="round_id")
    uid = CharField(unique=True)
    kind = CharField()
    at = MomentField()
    received_at = MomentField()
    percent = FloatField(null=True)
    bearing_deg = FloatField(null=True)
    words = TextField(default="")

    class Meta:
        table_name = "air_note"


class OccurrenceRow(Base):
    """An accident or near miss as it was written down."""

    aircraft_id: int
    site_id: int | None
    id = AutoField()
    aircraft = ForeignKeyField(AircraftRow, column_name="aircraft_id")
    site = ForeignKeyField(SiteRow, null=True, column_name="site_id")
    kind = CharField()
    at = MomentField()
    what = TextField()
    witnesses = TextField(default="")
    created_at = MomentField()

    class Meta:
        table_name = "occurrence"


class OccurrencePhotoRow(Base):
    """A photo of an accident or near miss, re-encoded."""

    id = AutoField()
    occurrence = ForeignKeyField(OccurrenceRow, column_name="occurrence_id")
    jpeg = BlobField()
    width = IntegerField()
    height = IntegerField()
    taken_at = MomentField()

    class Meta:
        table_name = "occurrence_photo"


class GearReadingRow(Base):
    """A charge of gear that was read, as a range in per cent."""

    id = AutoField()
    gear = CharField()
    at = MomentField()
    low = FloatField()
    high = FloatField()

    class Meta:
        table_name = "gear_reading"


ALL: tuple[Any, ...] = (AirNoteRow, OccurrenceRow, OccurrencePhotoRow, GearReadingRow)


class LinkTrialRow(Base):
    """A bench test of the failsafe, or a return flown on purpose."""

    aircraft_id: int
    id = AutoField()
    aircraft = ForeignKeyField(AircraftRow, column_name="aircraft_id")
    kind = CharField()
    at = MomentField()
    body = TextField()

    class Meta:
        table_name = "link_trial"
