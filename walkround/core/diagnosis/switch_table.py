"""Which switch position selects what, and in which of them it may arm."""

from walkround.core.aircraft.controller import ControllerProfile
from walkround.core.aircraft.how_it_works import HowItWorks
from walkround.core.base.struct import Struct


class SwitchRow(Struct, frozen=True, kw_only=True):
    """One place of a switch: what it selects, and whether it may arm there, in words; "" where this switch selects no mode at all."""

    switch: str
    place: str
    selects: str
    arms: str


def switch_table(card: HowItWorks, profile: ControllerProfile) -> tuple[SwitchRow, ...]:
    """Every place of every switch, with what it selects and whether that mode may arm. Source: the card and the profile."""
    rows = []
    for switch in card.switches:
        modes = any(profile.mode(selects) is not None for _, selects in switch.places)
        for lever, selects in switch.places:
            mode = profile.mode(selects)
            arms = (
                "not known"
                if mode is None and modes
                else ""
                if mode is None
                else "no"
                if not mode.arms
                else "with a position"
                if mode.position
                else "yes"
            )
            rows.append(SwitchRow(switch=switch.name, place=lever.value, selects=selects, arms=arms))
    return tuple(rows)


def where_selected(card: HowItWorks | None, mode: str) -> str:
    """Which switch selects a mode, in words; "" where no card says. Source: the card."""
    if card is None:
        return ""
    found = [
        f"switch {switch.name} {lever.value}"
        for switch in card.switches
        for lever, selects in switch.places
        if selects.lower() == mode.lower()
    ]
    return found[0] if found else ""
