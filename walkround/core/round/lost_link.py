"""If the signal is lost here: the situation of a round turned into a case that can be flown, and what is said about it besides."""

import math

from walkround.core.aircraft.failsafe import Action, actions
from walkround.core.aircraft.traits import Kind
from walkround.core.base.finding import PRACTICE, Finding, Level
from walkround.core.base.phrase import Phrase, height, minute
from walkround.core.base.struct import Struct
from walkround.core.field.site import LaunchPlatform
from walkround.core.flight.power import usual_cruise_ms
from walkround.core.flight.rth_altitude import rth_altitude
from walkround.core.flight.speed_home import judge_getting_home
from walkround.core.lost_link.air import air_of
from walkround.core.lost_link.flown import USUAL_DELAY_S, Lost, Plan
from walkround.core.lost_link.proposals import Setup
from walkround.core.round.context import Context

NEEDS_FIX = (Action.RETURN, Action.HOVER, Action.LOITER)
"""What cannot be done without a fix."""
USUAL_CHARGE = 60.0
"""Charge in per cent where nothing is known of it. Source: our choice."""


class Moves(Struct, frozen=True, kw_only=True):
    """A launch point that moves: speed in m/s, after so many minutes of flight, and so how far it may be then in m."""

    speed_ms: float
    minutes: float

    @property
    def reach_m(self) -> float:
        """How far it may have moved, in m. Source: speed times time."""
        return self.speed_ms * self.minutes * 60


def usual_action(context: Context) -> Action:
    """What it does: as set, else the usual for such an aircraft, which is said."""
    aircraft = context.situation.aircraft
    return context.failsafe.action or actions(aircraft.kind, aircraft.features())[0]


def setup_of(
    context: Context, *, action: Action | None = None, rth_altitude_m: float | None = None, height_m: float | None = None, speed_ms: float | None = None,
    charge_percent: float | None = None,
) -> Setup:  # fmt: skip
    """The setup of a round: the failsafe as set, today's air, the planned height; each in its place if given (m, m/s, per cent)."""
    s, settings, own = context.situation, context.failsafe, context.own_return
    lowest = rth_altitude(s.site, s.aircraft, s.limits, context.weather).lowest_m
    plan = Plan(
        action=action or usual_action(context),
        home=s.site.launch.xy,
        delay_s=USUAL_DELAY_S if settings.delay_s is None else settings.delay_s,
        rth_altitude_m=rth_altitude_m or context.rth_altitude_m or lowest,
        climb=settings.climb,
        landing_m=own.landing_m,
    )
    usual_ms = 0.0 if s.aircraft.kind is not Kind.WING else usual_cruise_ms(s.aircraft)
    return Setup(
        site=s.site, aircraft=s.aircraft, known=context.endurance(), air=air_of(context.weather, s.site, context.density), plan=plan,
        height_m=height_m or s.site.flight_height_m, speed_ms=usual_ms if speed_ms is None else speed_ms,
        charge_percent=usual_charge(context) if charge_percent is None else charge_percent,
        home_ms=settings.rth_speed_ms, throttle_percent=settings.throttle_percent,
    )  # fmt: skip


def usual_charge(context: Context) -> float:
    """The charge in whole per cent with which it may lose the link at the latest: that at the turn, where anything is known of the charge."""
    return float(round(context.flight_clock().turn_percent)) if context.charge_known else USUAL_CHARGE


def lost_at(setup: Setup, bearing_deg: float, distance_m: float, heading_deg: float | None = None) -> Lost:
    """The link lost at a bearing (degrees true) and distance (m) from the launch point; flying away from it where no heading is given."""
    east, north = setup.site.launch.xy
    angle = math.radians(bearing_deg)
    return Lost(
        east_m=east + distance_m * math.sin(angle), north_m=north + distance_m * math.cos(angle), height_m=setup.height_m,
        speed_ms=setup.speed_ms, heading_deg=bearing_deg if heading_deg is None else heading_deg, charge_percent=setup.charge_percent,
    )  # fmt: skip


def besides(context: Context, setup: Setup, moves: Moves | None) -> tuple[Finding, ...]:
    """What is said besides the runs: where the launch point moves or lies under cover, whether it gets home, what is only assumed. Heights in m."""
    s, plan, said = context.situation, setup.plan, []
    platform = s.site.launch_platform
    if platform is LaunchPlatform.COVER:
        words = Phrase(text="Under cover: it would return through the roof.")
        said.append(
            Finding(name="Launch", level=Level.GROUNDED, reason=words, remedy="Do not launch here.", source=PRACTICE)
        )
    if platform is LaunchPlatform.MOVING and plan.action is Action.RETURN:
        words = Phrase(text="The home point stays behind when the boat or vehicle moves.")
        if moves is not None:
            words = Phrase.of(
                "After {time} the boat or vehicle may be {away} from the home point.", time=minute(moves.minutes), away=height(moves.reach_m)
            )  # fmt: skip
        said.append(
            Finding(
                name="Home point",
                level=Level.GROUNDED,
                reason=words,
                remedy="Set the failsafe to hover, and stay close.",
                source=PRACTICE,
            )
        )
    if plan.action is Action.RETURN:
        at_m = max(setup.height_m, plan.rth_altitude_m)
        said += [f for f in judge_getting_home(s.aircraft, context.weather, s.site, at_m) if f.level is not Level.CLEAR]
    if s.site.indoors and plan.action in NEEDS_FIX:
        words = Phrase(text="In a hall there is no GPS fix: it cannot do that.")
        said.append(
            Finding(
                name="Fix",
                level=Level.GROUNDED,
                reason=words,
                remedy="Set it to land or to stop the motors.",
                source=PRACTICE,
            )
        )
    if not s.site.marks and not s.site.indoors:
        words = Phrase(text="Nothing is on the plan of this field: what it may hit is not known.")
        said.append(
            Finding(
                name="Plan",
                level=Level.CAUTION,
                reason=words,
                remedy="Walk the field and add what you see.",
                source=PRACTICE,
            )
        )
    if not s.site.spectator_line:
        words = Phrase(text="No spectator line is on the plan: people are not counted.")
        said.append(Finding(name="People", level=Level.CLEAR, reason=words, source=PRACTICE))
    unknown = _not_on_record(context, plan)
    if unknown:
        words = Phrase(text=f"Not on record for this aircraft: {', '.join(unknown)}. Flown here: {plan.action.value}.")
        remedy = "Read it, and enter it on its failsafe page."
        said.append(Finding(name="Failsafe", level=Level.CAUTION, reason=words, remedy=remedy, source=PRACTICE))
    return tuple(said)


def _not_on_record(context: Context, plan: Plan) -> list[str]:
    """What a case takes as usual because nobody entered it."""
    settings = context.failsafe
    lacks = [
        ("failsafe action", settings.action is None),
        ("delay", settings.delay_s is None),
        ("RTH altitude", plan.action is Action.RETURN and context.rth_altitude_m is None),
    ]
    return [words for words, missing in lacks if missing]
