"""What the proving programme allows of a flight that is planned."""

from walkround.core.base.finding import OUR_CHOICE, Finding, Level, measured
from walkround.core.base.phrase import Phrase, height, minute
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.proving.stages import Progress

NAME = "Proving"


def judge_proving(now: Progress | None, plan: FlightPlan) -> tuple[Finding, ...]:
    """Judge a plan against the stage that an aircraft is at: nothing flies before the stages on the ground are passed, and each stage in the air caps distance and height (m) and minutes.

    Source: stages and caps of ``stages``; our choice. Nothing for an aircraft that is in no programme.
    """
    stage = None if now is None else now.current
    if now is None or stage is None:
        return ()
    step = f"stage {now.number} of {len(now.stages)}, {stage.title.lower()}"
    if stage.caps is None:
        reason = Phrase(text=f"It has not flown yet. Next is {step}; nothing flies before it.")
        return (
            Finding(
                name=NAME,
                level=Level.GROUNDED,
                reason=reason,
                remedy="Open its proving programme and do the next stage.",
                source=OUR_CHOICE,
            ),
        )
    rows = (
        ("height", height(plan.height_m), height(stage.caps.height_m)),
        ("distance", height(plan.out_m), height(stage.caps.distance_m)),
        ("time", minute(plan.hover_min + plan.work_min), minute(stage.caps.minutes)),
    )
    over = [
        measured(
            f"{NAME}: {what}", value, limit, sense="max", level=Level.GROUNDED, words=f"At {step}, the {what} is {{limit}} at most; planned is {{value}}.",
            remedy="Plan a flight within this stage.", source=OUR_CHOICE,
        )
        for what, value, limit in rows
        if value.value > limit.value
    ]  # fmt: skip
    if over:
        return tuple(over)
    words = f"It is being proved: {step}. Up to {{high}} high, {{far}} away, {{long}}."
    reason = Phrase.of(
        words, high=height(stage.caps.height_m), far=height(stage.caps.distance_m), long=minute(stage.caps.minutes)
    )
    return (
        Finding(
            name=NAME,
            level=Level.CAUTION,
            reason=reason,
            remedy="Enter what came of it on the proving page after landing.",
            source=OUR_CHOICE,
        ),
    )
