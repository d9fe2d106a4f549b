"""What a judge may look at: the situation and the other answers of the round."""

from collections.abc import Mapping

from walkround.core.aircraft.traits import Trait
from walkround.core.flight.estimate import USUAL_C, Endurance, endurance
from walkround.core.flight.home import Trip
from walkround.core.flight.plan_of_flight import FlightPlan, Needs, needs, winds_at
from walkround.core.packs.charge import FULL, ChargeRange, from_cells, from_percent
from walkround.core.packs.load import UnderLoad, under_load
from walkround.core.round import evidence as ev
from walkround.core.round.evidence import Evidence
from walkround.core.round.situation import Situation
from walkround.core.weather import atmosphere
from walkround.core.weather.weather import Weather

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
    def charge(self) -> ChargeRange:
        """State of charge in per cent as far as this round knows: cells first, then what a smart pack shows, else full."""
        cells = self.answers.get("pack.cells")
        if cells is not None and isinstance(cells.answer, ev.CellsRead):
            return from_cells(cells.answer.reading, self.situation.pack)
        shown = self.answers.get("pack.percent")
        if shown is not None and isinstance(shown.answer, ev.Measured):
            return from_percent(shown.answer.value)
        return FULL

    @property
    def pack_c(self) -> float:
        """Temperature of the pack in °C: as felt in this round, else that of the air, else mild."""
        felt = self.answers.get("pack.temperature")
        if felt is not None and isinstance(felt.answer, ev.Measured):
            return felt.answer.value
        weather = self.weather
        return USUAL_C if weather is None or weather.temperature_c is None else weather.temperature_c

    @property
    def density(self) -> float:
        """Density of the air in kg/m³ at the field, standard where no weather is known."""
        weather, site = self.weather, self.situation.site
        if weather is None or weather.temperature_c is None:
            return atmosphere.air_density(atmosphere.standard_pressure_hpa(site.elevation_m), 15)
        pressure = (
            atmosphere.standard_pressure_hpa(site.elevation_m)
            if weather.pressure_hpa is None
            else atmosphere.station_pressure_hpa(weather.pressure_hpa, site.elevation_m)
        )
        return atmosphere.air_density(pressure, weather.temperature_c, weather.dew_point_c)

    def endurance(self, pack_c: float | None = None) -> Endurance:
        """Minutes that a full pack gives this aircraft today, at this temperature of the pack in °C if given."""
        history = self.situation.history
        return endurance(
            self.situation.aircraft,
            self.situation.pack,
            uses=history.uses,
            density=self.density,
            temperature_c=self.pack_c if pack_c is None else pack_c,
            capacity_share=history.pack_capacity_share,
        )

    @property
    def top_m(self) -> float:
        """The highest point of the flight above ground in m: as said in this round, else the field's flying height."""
        said = self.answers.get("field.ceiling")
        if said is not None and isinstance(said.answer, ev.Measured):
            return said.answer.value
        return self.situation.site.flight_height_m

    @property
    def trip(self) -> Trip:
        """What every way home of this round depends on."""
        s = self.situation
        return Trip(site=s.site, aircraft=s.aircraft, known=self.endurance(), weather=self.weather, limits=s.limits)

    def load(self, pack_c: float | None = None, held: ChargeRange | None = None) -> UnderLoad | None:
        """What the cells show in flight today, at this temperature of the pack in °C and this charge if given; None
        without an electric motor."""
        if not self.situation.aircraft.has(Trait.ELECTRIC):
            return None
        known = self.endurance(pack_c)
        return under_load(
            self.situation.pack,
            power_w=known.power_w,
            charge_percent=(held or self.charge).mid,
            temperature_c=known.temperature_c,
            measured_mohm=self.situation.history.pack_mohm,
            reserve_percent=self.situation.limits.reserve_percent,
        )

    @property
    def flight_plan(self) -> FlightPlan:
        """The plan of the flight: as answered in this round, else the minutes that the situation says."""
        piece = self.answers.get("pack.plan")
        if piece is not None and isinstance(piece.answer, ev.Planned):
            return piece.answer.plan
        return FlightPlan(
            work_min=self.situation.planned_min, height_m=min(500.0, max(1.0, self.situation.site.flight_height_m))
        )

    def flight_needs(
        self, plan: FlightPlan | None = None, held: ChargeRange | None = None, known: Endurance | None = None
    ) -> Needs:
        """What the plan of this round asks of this pack today, with another charge or other minutes if given."""
        plan = plan or self.flight_plan
        wind_ms, strongest_ms = winds_at(self.weather, self.situation.site, plan.height_m)
        return needs(
            plan,
            self.situation.aircraft,
            known or self.endurance(),
            held or self.charge,
            wind_ms=wind_ms,
            strongest_ms=strongest_ms,
            reserve_percent=self.situation.limits.reserve_percent,
        )

    @property
    def planned_min(self) -> float:
        """Planned minutes in the air."""
        return self.flight_needs().planned_min

    @property
    def second_hop(self) -> bool:
        """Whether this would be the pack's second hop today, and a short one (at most half a full pack)."""
        return self.situation.history.pack_flights_today == 1 and self.flight_needs().planned_percent <= 50
