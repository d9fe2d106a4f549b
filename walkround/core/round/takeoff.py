"""May it take off now: a signature is for this launch, and light, weather and pack are judged again at the moment."""

import math
from datetime import datetime

from walkround.core.base.finding import Finding, Level, measured
from walkround.core.base.phrase import Phrase, minute
from walkround.core.round.context import Context
from walkround.core.round.evidence import Evidence, current
from walkround.core.round.readiness import Subject, readiness
from walkround.core.round.situation import Situation

AGAIN = (Subject.WEATHER, Subject.HOME, Subject.LIGHT, Subject.PACK)
"""What is judged again at take-off: it may have changed since the round was signed."""


def judge_takeoff(
    situation: Situation, evidence: tuple[Evidence, ...], *, level: Level, signed_at: datetime, now: datetime
) -> tuple[Finding, ...]:
    """What keeps a signed round from taking off at an aware moment, worst first; empty when it may.

    ``level``: of the signed verdict; ``situation``: as signed, with the pack and the open snags of now. Inside units.
    Source: a signature is for this launch; how long it holds is the pilot's limit.
    """
    found: list[Finding] = []
    if level is Level.GROUNDED:
        words = "The verdict is Stay down."
        remedy = "Fix the grounding items, then start a new round."
        found.append(Finding(name="Verdict", level=Level.GROUNDED, reason=Phrase(text=words), remedy=remedy))
    for snag in situation.history.snags:
        if snag.grounds:
            words = f"An open snag grounds it: {snag.title}."
            remedy = "Close it by entering what was done, then start a new round."
            found.append(Finding(name="Snag", level=Level.GROUNDED, reason=Phrase(text=words), remedy=remedy))
    age_min = (now - signed_at).total_seconds() / 60
    most_min = situation.limits.signature_min
    if age_min > most_min or age_min < 0:
        found.append(
            measured(
                "Signature",
                minute(math.ceil(abs(age_min))),
                minute(most_min),
                sense="max",
                level=Level.GROUNDED,
                words="This round was signed {value} ago (max {limit}). A signature is for one launch."
                if age_min >= 0
                else "This round is signed {value} in the future: the clock was set back.",
                remedy="Start a new round. Checks done today are not asked again.",
                source="a signature is for this launch; our choice",
            )
        )
    context = Context(situation, current(evidence))
    again = readiness(context, now, only=AGAIN)
    found += [f for f in again if f.level is Level.GROUNDED]
    return tuple(found)
