"""How the aircraft of the scenario work. Invented."""

from datetime import datetime, timedelta

from walkround.core.aircraft.how_it_works import ArmBy, HowItWorks, Lever, Means, Sign, SwitchUse
from walkround.core.aircraft.lights import Blink, Colour


def sandpiper(now: datetime) -> HowItWorks:
    """The card of the camera quad."""
    return HowItWorks(
        arm=ArmBy.STICKS_IN, arm_least_s=1, arm_most_s=4, disarm=ArmBy.STICKS_IN, disarm_s=2, idle_s=20, self_test_s=12,
        signs=(
            Sign(means=Means.STARTING, colour=Colour.AMBER, blink=Blink.FAST, tones="a rising scale"),
            Sign(means=Means.READY, colour=Colour.GREEN, blink=Blink.SLOW),
            Sign(means=Means.NO_FIX, colour=Colour.AMBER, blink=Blink.SLOW),
            Sign(means=Means.LOW, colour=Colour.RED, blink=Blink.SLOW, tones="three short beeps"),
            Sign(means=Means.LOST, colour=Colour.AMBER, blink=Blink.STEADY),
        ),
        switches=(
            SwitchUse(name="Mode", up="sport", middle="hold", down="tripod", start=Lever.MIDDLE, launch=Lever.MIDDLE, landing=Lever.DOWN),
            SwitchUse(name="Gear", up="legs up", down="legs down", start=Lever.DOWN, launch=Lever.DOWN, landing=Lever.DOWN),
        ),
        home_again=True, confirm="The pilot confirms a new home point on the screen.", noted_at=now - timedelta(days=60),
    )  # fmt: skip
