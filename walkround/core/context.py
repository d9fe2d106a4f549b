"""What a judge may look at: the situation and the other answers of the round."""

from collections.abc import Mapping

from walkround.core import evidence as ev
from walkround.core import packs
from walkround.core.evidence import Evidence
from walkround.core.situation import Situation
from walkround.core.weather import Weather

Answers = Mapping[str, Evidence]


class Context:
    """What a judge may look at: the situation, and the other answers of this round."""

    def __init__(self, situation: Situation, answers: Answers) -> None:
        self.situation = situation
        self.answers = answers

    @property
    def weather(self) -> Weather | None:
        """The weather of this round if it was read, else that of the situation."""
        piece = self.answers.get("sky.weather")
        if piece is not None and isinstance(piece.answer, ev.WeatherRead):
            return piece.answer.weather
        return self.situation.weather

    @property
    def charge_percent(self) -> float:
        """State of charge in per cent as far as this round knows: cells first, then what a smart pack shows, else full."""
        cells = self.answers.get("pack.cells")
        pack = self.situation.pack
        if cells is not None and isinstance(cells.answer, ev.CellsRead):
            return packs.charge_percent(cells.answer.reading.mean_v(pack.cells), pack.chemistry)
        shown = self.answers.get("pack.percent")
        if shown is not None and isinstance(shown.answer, ev.Measured):
            return shown.answer.value
        return 100.0

    @property
    def planned_min(self) -> float:
        """Planned minutes: as answered in this round, else as the situation says."""
        piece = self.answers.get("pack.plan")
        if piece is not None and isinstance(piece.answer, ev.Measured):
            return piece.answer.value
        return self.situation.planned_min

    @property
    def flight_min(self) -> float:
        """Minutes a full pack gives this aircraft, as its description says."""
        return self.situation.aircraft.flight_min

    @property
    def second_hop(self) -> bool:
        """Whether this would be the pack's second hop today, and a short one (at most half a full pack)."""
        short = self.planned_min <= self.flight_min / 2
        return self.situation.history.pack_flights_today == 1 and short
