"""Lists of rounds: the one in progress, and those of before."""

from peewee import Select

from walkround.store.models import AircraftRow, PackRow, RoundRow, SiteRow
from walkround.store.statements import prepared


def open_round() -> RoundRow | None:
    """The newest open round, if any."""
    found: RoundRow | None = _open.one()
    return found


@prepared
def _open() -> Select:
    return RoundRow.select().where(RoundRow.state == "open").order_by(RoundRow.id.desc()).limit(1)


def recent(limit: int = 20, offset: int = 0) -> list[RoundRow]:
    """Newest rounds first, with aircraft, pack and field names loaded."""
    query = (
        RoundRow.select(
            RoundRow.id, RoundRow.state, RoundRow.started_at, RoundRow.signed_at, RoundRow.level,
            AircraftRow.name, PackRow.label, SiteRow.id, SiteRow.name,
        )
        .join(AircraftRow)
        .switch(RoundRow)
        .join(PackRow)
        .switch(RoundRow)
        .join(SiteRow)
        .order_by(RoundRow.id.desc())
    )  # fmt: skip
    return list(query.limit(limit).offset(offset))
