"""A count on the pages."""

from walkround.core.answers.kind import Answer
from walkround.core.answers.timer import Counted
from walkround.core.base.units import parse_number
from walkround.web.answers.kind import AnswerPage, Sent


def _read(sent: Sent) -> tuple[Answer, str]:
    return Counted(seconds=parse_number(sent.typed.get("seconds"), "Count", "seconds")), "pilot"


PAGE = AnswerPage("timer", "a count that runs by itself", _read, advances=True)
