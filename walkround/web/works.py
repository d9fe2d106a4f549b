"""How an aircraft works, on one card: shown, entered by tapping drawings, printed, and asked as a quiz."""

from typing import Any

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.controller import ControllerProfile
from walkround.core.aircraft.emergency import emergency_card
from walkround.core.aircraft.how_it_works import (
    WHEN,
    ArmBy,
    HowItWorks,
    Lever,
    Means,
    Sign,
    SwitchUse,
    home_set,
    switches_at,
    switches_for,
    words_at,
)
from walkround.core.aircraft.lights import Blink, Colour
from walkround.core.aircraft.quiz import CHECK, mistakes, questions
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import PilotError
from walkround.core.base.plain import whole
from walkround.core.base.units import Measure
from walkround.core.diagnosis.arming import usual_profile
from walkround.core.diagnosis.switch_table import switch_table
from walkround.store import hangar, link_trials
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router
from walkround.web.stale import refuse_stale

router = Router()
AT = "/hangar/aircraft/{aircraft_id}/works"
SWITCH_ROWS, MOST_SWITCHES = 6, 8
TIMES = (
    ("arm_least_s", "Held for at least", 30), ("arm_most_s", "and never longer than", 60), ("disarm_s", "Disarming, held for", 30), ("idle_s", "Disarms by itself at idle after", 600),
    ("self_test_s", "Self-test takes", 600), ("warm_up_s", "Warm-up takes", 1_800),
)  # fmt: skip
"""Times of the card in s: field, words, largest."""
BY_CARD = {"power.self_test": "Compare LEDs and tones with its card. Check that no warning stays."}
"""What is to be done at a check where the card is at hand, in place of the manual."""


def works_here(aircraft: Aircraft, check_id: str, mode: int) -> dict[str, Any] | None:
    """What the card of an aircraft shows at a check of a walk, in a stick mode; None where it has nothing to show there."""
    card = aircraft.works
    if card is None:
        return None
    words = words_at(card, check_id, aircraft.features())
    when, switches = switches_at(card, check_id)
    figures: tuple[drawings.sticks.SticksDrawn, ...] = ()
    if check_id in ("power.arming_known", "controls.arm_disarm", "power.ready_to_arm"):
        figures = drawings.sticks.draw_arms(card, mode)
    how = BY_CARD.get(check_id, "") if words else ""
    if not words and not switches and not figures:
        return None
    return {
        "how": how,
        "words": words,
        "when": when,
        "levers": [drawings.levers.draw_lever(*pair) for pair in switches],
        "figures": figures,
    }


def _levers(card: HowItWorks | None) -> "list[tuple[str, list[drawings.levers.LeverDrawn]]]":
    """The switches for each of the three moments that any has a place for."""
    if card is None:
        return []
    found = [
        (words, [drawings.levers.draw_lever(*pair) for pair in switches_for(card, when)])
        for when, words in WHEN.items()
    ]
    return [(words, levers) for words, levers in found if levers]


def _show(request: Request, ctx: AppContext, aircraft: Aircraft, status: int = 200, **extra: Any) -> Response:
    settings, card = ctx.settings(), aircraft.works
    switches = () if card is None else card.switches
    profile: ControllerProfile = aircraft.controller or usual_profile(aircraft)
    return page(
        request, "works/page.html", settings, status,
        aircraft=aircraft, card=card or HowItWorks(), entered=card is not None, emergency=emergency_card(aircraft),
        figures=(*drawings.sticks.draw_arms(card, settings.stick_mode), *drawings.sticks.draw_stops(aircraft.failsafe, settings.stick_mode)), levers=_levers(card),
        home=home_set(aircraft.features()).value if aircraft.has(Trait.RETURN_HOME) else "", switch_rows=list(enumerate((*switches, *[None] * (SWITCH_ROWS - len(switches))))), times=TIMES, colours=list(Colour), blinks=list(Blink),
        arms=[(by, drawings.sticks.draw_arm("", by, "", settings.stick_mode)) for by in ArmBy], all_means=list(Means), all_levers=list(Lever), when=list(WHEN.items()),
        table=switch_table(card, profile) if card is not None and aircraft.has(Trait.FLIGHT_CONTROLLER) else (), quiz=len(questions(aircraft)), **extra,
    )  # fmt: skip


@router.get(AT, name="works")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The card of an aircraft."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id))


@router.post(AT, name="save_works")
def save(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Keep the card."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    typed = Typed(form, ctx.settings().units)
    try:
        card = _card(typed, ctx)
        with ctx.book.write():
            now = hangar.get(Aircraft, aircraft_id)
            wanted = now.model_copy(update={"works": card})
            refuse_stale(typed, now, wanted, "works")
            hangar.save(wanted, ctx.now())
    except PilotError as error:
        return _show(request, ctx, aircraft, status_of(error), errors=error.by_field(), typed=typed.raw(), editing=True)
    return go(request, "works", query="saved=1", aircraft_id=aircraft_id)


def _card(typed: Typed, ctx: AppContext) -> HowItWorks:
    """The card as typed and tapped. Raises FormErrors."""
    times = {name: typed.number(name, words, Measure.SECOND, 0, most, optional=True) for name, words, most in TIMES}
    arm, disarm = (_one(typed, name, words, ArmBy) for name, words in (("arm", "Armed by"), ("disarm", "Disarmed by")))
    again = typed.choice("home_again", "Home set again in flight", ["", "yes", "no"])
    confirm = typed.text("confirm", "Who confirms", longest=120)
    signs = [sign for means in Means if (sign := _sign(typed, means)) is not None]
    switches = [switch for row in range(MOST_SWITCHES) if (switch := _switch(typed, row)) is not None]
    return typed.build(
        HowItWorks, arm=arm, disarm=disarm, signs=tuple(signs), switches=tuple(switches), home_again={"yes": True, "no": False}.get(again), confirm=confirm,
        noted_at=ctx.now(), **times,
    )  # fmt: skip


def _one(typed: Typed, name: str, words: str, kinds: type[ArmBy]) -> ArmBy | None:
    chosen = typed.choice(name, words, ["", *(kind.name for kind in kinds)])
    return kinds[chosen] if chosen else None


def _sign(typed: Typed, means: Means) -> Sign | None:
    """A sign by its row; None where nothing was entered."""
    key = means.name.lower()
    colour = typed.choice(f"colour_{key}", "Colour", ["", *(colour.value for colour in Colour)])
    tones = typed.text(f"tones_{key}", "Tones", longest=40)
    blink = (
        Blink(typed.choice(f"blink_{key}", "How it shines", [one.value for one in Blink]) or Blink.STEADY)
        if colour
        else Blink.STEADY
    )
    if not colour and not tones:
        return None
    return Sign(means=means, colour=Colour(colour) if colour else None, blink=blink, tones=tones)


def _switch(typed: Typed, row: int) -> SwitchUse | None:
    """A switch by its row; None where it has no name and nothing else."""
    name = typed.text(f"switch_{row}", "Switch", longest=20)
    places = {lever.value: typed.text(f"{lever.value}_{row}", lever.value, longest=30) for lever in Lever}
    if not name and not any(places.values()):
        return None
    if not name:
        typed.errors[f"switch_{row}"] = "Enter the name of this switch."
        return None
    moments = {
        when: typed.choice(f"{when}_{row}", words, ["", *(lever.value for lever in Lever)])
        for when, words in WHEN.items()
    }
    if typed.errors:
        return None
    return typed.try_(
        f"switch_{row}", lambda: SwitchUse.model_validate({"name": name, **places, **{when: value or None for when, value in moments.items()}}), None
    )  # fmt: skip


@router.get(f"{AT}/quiz", name="works_quiz")
def quiz(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """A few questions on the card."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    return page(
        request, "works/quiz.html", ctx.settings(), aircraft=aircraft, asked=questions(aircraft), wrong=None, given=()
    )


@router.post(f"{AT}/quiz", name="answer_quiz")
def answer_quiz(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Mark the answers; without a mistake the card counts as read."""
    aircraft = hangar.get(Aircraft, aircraft_id)
    asked = questions(aircraft)
    given = tuple(whole(str(form.get(f"q{i}") or ""), 9) for i in range(len(asked)))
    missed = mistakes(asked, given)
    if asked and not missed:
        with ctx.book.write():
            link_trials.passed(aircraft_id, CHECK, ctx.now())
    return page(request, "works/quiz.html", ctx.settings(), aircraft=aircraft, asked=asked, wrong=missed, given=given)
