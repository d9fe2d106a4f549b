"""Lists of rounds: the one in progress, and those of before."""

from walkround.store.models import AircraftRow, PackRow, RoundRow, SiteRow


def open_round() -> RoundRow | None:
    """The newest open round, if any."""
    found: RoundRow | None = RoundRow.select().where(RoundRow.state == "open").order_by(RoundRow.id.desc()).first()
    return found


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
