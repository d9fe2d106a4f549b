"""The emergency card drawn: the two sticks of the pilot's mode with the way they go, a switch, a button or the screen; to stop, to start RTH, to cancel it."""

from walkround.core.aircraft.failsafe import Failsafe, HomeBy, StopBy
from walkround.core.aircraft.how_it_works import ArmBy, HowItWorks, held_words
from walkround.core.base.struct import Struct

LEFT_X, RIGHT_X, MIDDLE_Y, REACH = 62.0, 158.0, 66.0, 30.0
THROTTLE_RIGHT, YAW_RIGHT = (1, 3), (3, 4)
"""Stick modes with the throttle, and with yaw, on the right. Source: the four modes of model flying; common practice, no source."""
BUTTON, SWITCH, SCREEN = (110.0, 100.0), (34.0, 22.0), (110.0, 26.0)
"""Where these are drawn; on the pilot's own they are elsewhere."""


class SticksDrawn(Struct, frozen=True):
    """One figure: its title, the ways of the sticks as paths, the ends of these ways, what else is used (kind, x, y), and its words."""

    title: str
    ways: tuple[str, ...]
    ends: tuple[tuple[float, float], ...]
    acts: tuple[tuple[str, float, float], ...]
    words: str


def _ways(by: StopBy, mode: int) -> list[tuple[float, float, float]]:
    """The sticks that move: middle x, then how far they go to the right and down."""
    throttle = RIGHT_X if mode in THROTTLE_RIGHT else LEFT_X
    if by is StopBy.THROTTLE_DOWN:
        return [(throttle, 0.0, REACH)]
    if by in (StopBy.STICKS_IN, StopBy.STICKS_OUT):
        inward = REACH if by is StopBy.STICKS_IN else -REACH
        return [(LEFT_X, inward, REACH), (RIGHT_X, -inward, REACH)]
    return []


def _drawn(
    title: str, ways: list[tuple[float, float, float]], acts: list[tuple[str, float, float]], words: str
) -> SticksDrawn:
    return SticksDrawn(
        title=title,
        ways=tuple(f"M{x:g},{MIDDLE_Y:g} l{dx:g},{dy:g}" for x, dx, dy in ways),
        ends=tuple((x + dx, MIDDLE_Y + dy) for x, dx, dy in ways),
        acts=tuple(acts),
        words=words,
    )


def draw_stop(title: str, by: StopBy, hold_s: float | None, mode: int) -> SticksDrawn:
    """How motors are stopped in a stick mode (1 to 4); ``hold_s``: held so many s."""
    held = f", held for {hold_s:g} s" if hold_s else ""
    words = f"{by.value}{held}" + (f", mode {mode}" if by is StopBy.THROTTLE_DOWN else "")
    acts = {StopBy.SWITCH: [("switch", *SWITCH)], StopBy.BUTTON: [("button", *BUTTON)]}.get(by, [])
    return _drawn(title, _ways(by, mode), acts, words)


def draw_arm(title: str, by: ArmBy, held: str, mode: int) -> SticksDrawn:
    """How it is armed or disarmed in a stick mode (1 to 4); ``held``: for how long, in words."""
    throttle, yaw = (RIGHT_X if mode in THROTTLE_RIGHT else LEFT_X), (RIGHT_X if mode in YAW_RIGHT else LEFT_X)
    ways: list[tuple[float, float, float]] = []
    if by in (ArmBy.YAW_RIGHT, ArmBy.YAW_LEFT):
        aside = REACH if by is ArmBy.YAW_RIGHT else -REACH
        ways = [(throttle, aside, REACH)] if throttle == yaw else [(throttle, 0.0, REACH), (yaw, aside, 0.0)]
    elif by in (ArmBy.STICKS_IN, ArmBy.STICKS_OUT):
        ways = _ways(StopBy.STICKS_IN if by is ArmBy.STICKS_IN else StopBy.STICKS_OUT, mode)
    acts = {
        ArmBy.SWITCH: [("switch", *SWITCH)],
        ArmBy.BUTTON: [("button", *BUTTON)],
        ArmBy.SCREEN: [("screen", *SCREEN)],
    }.get(by, [])
    return _drawn(title, ways, acts, f"{by.value}, {held}" if held else by.value)


def draw_arms(card: HowItWorks | None, mode: int) -> tuple[SticksDrawn, ...]:
    """Arming and disarming of a card, as far as they are on it."""
    if card is None:
        return ()
    figures = []
    if card.arm is not None:
        figures.append(draw_arm("Arm", card.arm, held_words(card.arm_least_s, card.arm_most_s), mode))
    if card.disarm is not None:
        figures.append(draw_arm("Disarm", card.disarm, held_words(card.disarm_s, None) if card.disarm_s else "", mode))
    return tuple(figures)


def draw_stops(settings: Failsafe | None, mode: int) -> tuple[SticksDrawn, ...]:
    """The emergency card of an aircraft as far as it is recorded: stopping in the air and on the ground, once where both are the same; starting and cancelling RTH."""
    if settings is None:
        return ()
    figures = []
    if settings.stop_air is not None:
        ground = settings.stop_ground or settings.stop_air
        if ground is settings.stop_air:
            figures.append(
                draw_stop("Stop, in the air and on the ground", settings.stop_air, settings.stop_hold_s, mode)
            )
        else:
            figures.append(draw_stop("Stop in the air", settings.stop_air, settings.stop_hold_s, mode))
            figures.append(draw_stop("Stop on the ground", ground, settings.stop_hold_s, mode))
    for title, ways in (("Start RTH", settings.home_start), ("Cancel RTH", settings.home_cancel)):
        if ways:
            figures.append(draw_home(title, ways))
    return tuple(figures)


def draw_home(title: str, ways: tuple[HomeBy, ...]) -> SticksDrawn:
    """How RTH is started or cancelled, every way of it in one figure."""
    where = {HomeBy.BUTTON: ("button", *BUTTON), HomeBy.SWITCH: ("switch", *SWITCH), HomeBy.SCREEN: ("screen", *SCREEN)}
    moved = [(LEFT_X, 0.0, -REACH), (RIGHT_X, 0.0, -REACH)] if HomeBy.STICKS in ways else []
    return _drawn(title, moved, [where[by] for by in ways if by in where], " or ".join(by.value for by in ways))
