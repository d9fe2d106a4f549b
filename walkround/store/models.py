"""Tables as peewee models. They store; they judge nothing. The schema itself stands in migrations."""

from collections.abc import Iterator
from datetime import datetime
from typing import Any

from peewee import (
    AutoField,
    BlobField,
    BooleanField,
    CharField,
    CompositeKey,
    DatabaseProxy,
    FloatField,
    ForeignKeyField,
    IntegerField,
    Model,
    TextField,
)

from walkround.core.base.clock import utc_text

database = DatabaseProxy()


class MomentField(TextField):
    """An aware time, kept as ISO text in UTC so that text order is time order."""

    def db_value(self, value: datetime | None) -> str | None:
        """UTC text with microseconds."""
        return None if value is None else utc_text(value)

    def python_value(self, value: str | None) -> datetime | None:
        """Back to an aware time."""
        return None if value is None else datetime.fromisoformat(value)


class Base(Model):
    """All models share the one database."""

    class Meta:
        database = database
        legacy_table_names = False


class SettingRow(Base):
    """One setting, as JSON."""

    name = CharField(primary_key=True)
    value = TextField()

    class Meta:
        table_name = "setting"


class AircraftRow(Base):
    """One aircraft; ``spec`` is the core's value as JSON."""

    id = AutoField()
    name = CharField()
    spec = TextField()
    retired = BooleanField(default=False)
    created_at = MomentField()

    class Meta:
        table_name = "aircraft"


class PackRow(Base):
    """One pack; ``spec`` is the core's value as JSON, ``summary`` what is known of it in short, None: to be made anew."""

    id = AutoField()
    label = CharField()
    spec = TextField()
    retired = BooleanField(default=False)
    summary = TextField(null=True)
    created_at = MomentField()

    class Meta:
        table_name = "pack"


class SiteRow(Base):
    """One field; ``spec`` is the core's value as JSON."""

    id = AutoField()
    name = CharField()
    spec = TextField()
    created_at = MomentField()

    class Meta:
        table_name = "site"


class SitePastRow(Base):
    """A field as it was before a change, for undo."""

    site_id: int
    id = AutoField()
    site = ForeignKeyField(SiteRow, column_name="site_id")
    at = MomentField()
    what = TextField()
    name = TextField()
    spec = TextField()

    class Meta:
        table_name = "site_past"


class ZoneSetRow(Base):
    """Zones that came together: from the notice service or from one file; ``as_of`` is what the data says of itself."""

    id = AutoField()
    name = CharField()
    service = BooleanField(default=False)
    read_at = MomentField()
    as_of = MomentField(null=True)

    class Meta:
        table_name = "zone_set"


class ZoneRow(Base):
    """One zone; ``spec`` is the core's value as JSON. Its box stands in the index under the same number."""

    set_id: int
    id = AutoField()
    set = ForeignKeyField(ZoneSetRow, column_name="set_id")
    spec = TextField()

    class Meta:
        table_name = "zone"


class ZoneBoxRow(Base):
    """The box of a zone in degrees; a table of SQLite's R*Tree."""

    id = IntegerField(primary_key=True)
    min_lon = FloatField()
    max_lon = FloatField()
    min_lat = FloatField()
    max_lat = FloatField()

    class Meta:
        table_name = "zone_box"


class RoundRow(Base):
    """One walk round; ``situation`` as it was gathered at its start."""

    aircraft_id: int
    pack_id: int
    site_id: int
    id = AutoField()
    aircraft = ForeignKeyField(AircraftRow, column_name="aircraft_id")
    pack = ForeignKeyField(PackRow, column_name="pack_id")
    site = ForeignKeyField(SiteRow, column_name="site_id")
    started_at = MomentField()
    situation = TextField()
    state = CharField(default="open")
    signed_at = MomentField(null=True)
    level = IntegerField(null=True)

    class Meta:
        table_name = "round"


class EvidenceRow(Base):
    """One piece of evidence; triggers keep it as it is."""

    round_id: int
    id = AutoField()
    round = ForeignKeyField(RoundRow, column_name="round_id")
    check_id = CharField()
    at = MomentField()
    by = CharField()
    answer = TextField()

    class Meta:
        table_name = "evidence"


class RecordRow(Base):
    """One frozen record; triggers keep it as it is."""

    round_id: int
    round = ForeignKeyField(RoundRow, primary_key=True, column_name="round_id")
    text = TextField()
    sha256 = CharField()
    signed_by = CharField()
    signed_at = MomentField()

    class Meta:
        table_name = "record"


class FlightRow(Base):
    """One flight: a logbook line once ``logged_at`` is set. Flights from before this book have no round."""

    round_id: int | None
    aircraft_id: int
    pack_id: int
    site_id: int
    id = AutoField()
    round = ForeignKeyField(RoundRow, null=True, column_name="round_id")
    aircraft = ForeignKeyField(AircraftRow, column_name="aircraft_id")
    pack = ForeignKeyField(PackRow, column_name="pack_id")
    site = ForeignKeyField(SiteRow, column_name="site_id")
    took_off_at = MomentField()
    landed_at = MomentField(null=True)
    minutes = FloatField(null=True)
    left_percent = FloatField(null=True)
    left_v = FloatField(null=True)
    happened = TextField(default="")
    note = TextField(default="")
    logged_at = MomentField(null=True)
    mass_g = FloatField(null=True)

    class Meta:
        table_name = "flight"


class EventRow(Base):
    """One event of an aircraft."""

    aircraft_id: int
    evidence_id: int | None
    id = AutoField()
    aircraft = ForeignKeyField(AircraftRow, column_name="aircraft_id")
    kind = CharField()
    at = MomentField()
    detail = TextField(default="")
    part = CharField(default="")
    lat_deg = FloatField(null=True)
    lon_deg = FloatField(null=True)
    site = TextField(default="")
    evidence = ForeignKeyField(EvidenceRow, null=True, column_name="evidence_id")

    class Meta:
        table_name = "event"


class SnagRow(Base):
    """One snag, on an aircraft or on a pack."""

    aircraft_id: int | None
    pack_id: int | None
    opened_by_id: int | None
    closed_by_id: int | None
    id = AutoField()
    aircraft = ForeignKeyField(AircraftRow, null=True, column_name="aircraft_id")
    pack = ForeignKeyField(PackRow, null=True, column_name="pack_id")
    title = TextField()
    grounds = BooleanField()
    check_id = CharField(default="")
    parts = TextField(default="")
    opened_at = MomentField()
    opened_by = ForeignKeyField(EvidenceRow, null=True, column_name="opened_by")
    closed_at = MomentField(null=True)
    closed_how = TextField(default="")
    closed_by = ForeignKeyField(EvidenceRow, null=True, column_name="closed_by", backref="closings")

    class Meta:
        table_name = "snag"


class PhotoRow(Base):
    """The photo of a snag, re-encoded."""

    snag_id: int
    snag = ForeignKeyField(SnagRow, primary_key=True, column_name="snag_id", on_delete="CASCADE")
    jpeg = BlobField()
    width = IntegerField()
    height = IntegerField()
    taken_at = MomentField()

    class Meta:
        table_name = "photo"


class PartRow(Base):
    """One part of an aircraft, fitted or removed."""

    aircraft_id: int
    followed_by_id: int | None
    id = AutoField()
    aircraft = ForeignKeyField(AircraftRow, column_name="aircraft_id")
    kind = CharField()
    part_id = TextField(default="")
    name = TextField(default="")
    place = TextField(default="")
    rotation = TextField(default="")
    size = TextField(default="")
    firmware = TextField(default="")
    fitted_at = MomentField()
    removed_at = MomentField(null=True)
    why_removed = TextField(default="")
    followed_by = ForeignKeyField("self", null=True, column_name="followed_by")

    class Meta:
        table_name = "part"


class ImportRow(Base):
    """Rows that come in parts: ``coming`` while they do, ``here`` from the one moment on in which they all show."""

    id = AutoField()
    at = MomentField()
    name = TextField(default="")
    state = CharField(default="coming")

    class Meta:
        table_name = "import_run"


class ReadingRow(Base):
    """One reading of a pack; cells and resistances as JSON lists."""

    pack_id: int
    evidence_id: int | None
    come_with_id: int | None
    id = AutoField()
    pack = ForeignKeyField(PackRow, column_name="pack_id")
    at = MomentField()
    cells = TextField(default="")
    total_v = FloatField(null=True)
    percent = FloatField(null=True)
    lights = IntegerField(null=True)
    resistance = TextField(default="")
    temperature_c = FloatField(null=True)
    recharged_mah = FloatField(null=True)
    after = TextField(default="rest")
    since_min = FloatField(null=True)
    by = TextField(default="pilot")
    note = TextField(default="")
    looked_over = BooleanField(default=False)
    evidence = ForeignKeyField(EvidenceRow, null=True, column_name="evidence_id")
    come_with = ForeignKeyField(ImportRow, null=True, column_name="import_id")

    class Meta:
        table_name = "reading"


class PackChangeRow(Base):
    """One change of a pack's state, with its reason."""

    pack_id: int
    evidence_id: int | None
    id = AutoField()
    pack = ForeignKeyField(PackRow, column_name="pack_id")
    state = CharField()
    at = MomentField()
    reason = TextField()
    condemned = BooleanField(default=False)
    evidence = ForeignKeyField(EvidenceRow, null=True, column_name="evidence_id")

    class Meta:
        table_name = "pack_change"


class DoneRow(Base):
    """When a check was last passed on an aircraft in a signed round, and what was measured."""

    aircraft_id: int
    aircraft = ForeignKeyField(AircraftRow, column_name="aircraft_id")
    check_id = CharField()
    at = MomentField()
    value = TextField(null=True)

    class Meta:
        table_name = "done"
        primary_key = CompositeKey("aircraft", "check_id")


def tuples(query: Any) -> Iterator[Any]:
    """The rows of a query as plain tuples."""
    return iter(query.tuples())


ALL: tuple[Any, ...] = (
    SettingRow, AircraftRow, PackRow, SiteRow, SitePastRow, ZoneSetRow, ZoneRow, ZoneBoxRow, RoundRow, EvidenceRow,
    RecordRow, FlightRow, EventRow, SnagRow, PhotoRow, PartRow, ImportRow, ReadingRow, PackChangeRow, DoneRow,
)  # fmt: skip
