"""How deep a round goes, and what one tap confirms: asking more, and confirming the inspections of one part together."""

from fastapi import Request
from starlette.responses import Response

from walkround.core.base.finding import Level
from walkround.core.checklist.check import Depth
from walkround.core.round.groups import confirmed, group_of
from walkround.store import rounds
from walkround.web.app_context import AppContextDep, Number, SentForm
from walkround.web.forms import Typed
from walkround.web.pages import go
from walkround.web.rounds import finished, onward, pick, view
from walkround.web.routes import Router

router = Router()


@router.post("/rounds/{round_id}/group", name="confirm_group")
def confirm_group(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Confirm the inspections of one part together: exactly those that the button named, or none."""
    settings = ctx.settings()
    loaded = rounds.load(round_id, settings, ctx.now())
    ids = [str(given) for given in form.getlist("check")]
    state = loaded.walk.state(ids[0] if ids else "")
    group = group_of(loaded.walk, ids[0]) if loaded.takes(state) else None
    if group is None or list(group.ids) != ids:
        words = "This group has changed meanwhile. Confirm what is still open."
        return view(request, ctx, loaded, settings, state.planned.check.station, state, status=409, words=words)
    after = loaded
    with ctx.book.write():
        for check in (one.planned.check for one in group.states):
            given = confirmed(check)
            after = rounds.answer(round_id, check.id, given, at=ctx.now(), settings=settings, seen=0, loaded=after)
    answered = [after.walk.state(check_id) for check_id in ids]
    # Where the record has something against one of them, that is shown, and not what comes next.
    last = next((state for state in answered if state.level is not Level.CLEAR), answered[-1])
    if finished(after, last):
        return go(request, "verdict", round_id=round_id)
    current = onward(after, last)
    return view(request, ctx, after, settings, current.planned.check.station, current, said=f"{group.words}.")


@router.post("/rounds/{round_id}/deepen", name="deepen")
def deepen(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Ask one more check of today's round, or walk the longer list."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    wish, ask = typed.get("depth"), typed.get("ask")
    with ctx.book.write():
        rounds.deepen(round_id, wish=Depth(wish) if wish in set(Depth) else Depth.SHORT, ask=ask)
    loaded = rounds.load(round_id, settings, ctx.now())
    here, current = pick(loaded, typed.get("station"), ask)
    return view(request, ctx, loaded, settings, here, current, opened=bool(ask))


@router.post("/rounds/{round_id}/at-the-field", name="leave_at_home")
def leave_at_home(request: Request, ctx: AppContextDep, round_id: Number) -> Response:
    """Leave at home what can only be done there and does not ground."""
    settings = ctx.settings()
    with ctx.book.write():
        rounds.leave_at_home(round_id, at=ctx.now(), settings=settings)
    loaded = rounds.load(round_id, settings, ctx.now())
    here, current = pick(loaded, "", "")
    return view(request, ctx, loaded, settings, here, current)
