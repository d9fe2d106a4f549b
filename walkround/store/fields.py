"""Fields being changed: every change can be taken back."""

import json
from datetime import datetime
from typing import Any

from peewee import Select

from walkround.core.base.clock import is_ahead
from walkround.core.base.errors import ConflictError
from walkround.core.field.site import Site
from walkround.store import hangar, upgrade
from walkround.store.models import SitePastRow, SiteRow
from walkround.store.statements import prepared

KEPT = 60
"""So many changes of a field can be taken back. Source: our choice."""


def change(site: Site, what: str, at: datetime) -> None:
    """Save a changed field; what it was before is kept under the words of the change. Raises MissingError, InputError."""
    row = SiteRow.get_or_none(SiteRow.id == site.id)
    if row is not None:
        SitePastRow.create(site=site.id, at=at, what=what, name=row.name, spec=row.spec)
        oldest = (
            SitePastRow.select(SitePastRow.id).where(SitePastRow.site == site.id).order_by(SitePastRow.id.desc())
        ).offset(KEPT)
        SitePastRow.delete().where(SitePastRow.id.in_(oldest)).execute()
    hangar.save(site, at)


def last_change(site_id: int) -> tuple[int, str]:
    """Number and words of the change that undo would take back; 0 and "" when there is none."""
    number, what = _newest.first(site_id) or (0, "")
    return number, what


@prepared
def _newest(site: Any) -> Select:
    of_it = SitePastRow.select(SitePastRow.id, SitePastRow.what).where(SitePastRow.site == site)
    return of_it.order_by(SitePastRow.id.desc()).limit(1)


def undo(site_id: int, at: datetime, seen: int) -> str:
    """Take the change number ``seen`` back, the last one; returns its words. What was walked since stays walked.

    A change that is taken back already stays so, however often it is asked: then "". Raises ConflictError when another
    change came after it.
    """
    row = SitePastRow.select().where(SitePastRow.site == site_id).order_by(SitePastRow.id.desc()).first()
    if row is None or row.id < seen:
        return ""
    if row.id != seen:
        raise ConflictError("The plan was changed in another tab. Check it before you undo.", "plan")
    now = hangar.get(Site, site_id)
    before = Site.model_validate({**upgrade.read("site", json.loads(row.spec)), "id": site_id, "name": row.name})
    hangar.save(before.model_copy(update={"walked_at": now.walked_at}), at)
    SitePastRow.delete().where(SitePastRow.id == row.id).execute()
    return str(row.what)


def walked(site_id: int, at: datetime, now: datetime) -> None:
    """Note that a field's path was walked at a time (aware); an earlier walk takes the place of a later one only where that
    is dated ahead of the clock."""
    site = hangar.get(Site, site_id)
    if site.walked_at is None or site.walked_at < at or is_ahead(site.walked_at, now):
        hangar.save(site.model_copy(update={"walked_at": at}), at)
