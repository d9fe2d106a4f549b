"""What a judge may look at: the situation and the other answers of the round."""

from collections.abc import Mapping
from datetime import datetime
from functools import cached_property

from walkround.core.aircraft.traits import Trait
from walkround.core.answers.cells import CellsRead
from walkround.core.answers.charge import ChargeShown
from walkround.core.answers.choice import Chosen
from walkround.core.answers.flight import Planned
from walkround.core.answers.handover import Handover
from walkround.core.answers.number import Measured
from walkround.core.answers.weather import WeatherRead
from walkround.core.base.finding import Finding
from walkround.core.flight.estimate import USUAL_C, Endurance, endurance
from walkround.core.flight.flight_clock import ChargeRead, FlightClock, flight_clock
from walkround.core.flight.flight_plan import FlightNeeds, FlightPlan, needs, winds_at
from walkround.core.flight.return_to_home import Trip, TurnPoint, turn_backs
from walkround.core.packs.charge import FULL, ChargeRange, from_cells, from_percent
from walkround.core.packs.load import UnderLoad, under_load
from walkround.core.round.evidence import Evidence
from walkround.core.round.situation import Situation
from walkround.core.weather import atmosphere
from walkround.core.weather.weather import Weather

Answers = Mapping[str, Evidence]


class Context:
    """What a judge may look at: the situation, and the other answers of this round. It never changes, so what is worked out
    from it once is kept with it."""

    def __init__(
        self, situation: Situation, answers: Answers, plan: FlightPlan | None = None, held: ChargeRange | None = None
    ) -> None:
        """``plan``, ``held``: a plan and a charge (per cent) that are being tried out, in place of those known."""
        self.situation = situation
        self.answers = answers
        self._tried_plan = plan
        self._tried_charge = held
        self._endurance: dict[float, Endurance] = {}
        self.judged: dict[tuple[str, datetime, datetime], tuple[Finding, ...]] = {}
        """Findings of ``readiness`` by subject, begin and end: judged once."""

    def with_answer(self, piece: Evidence) -> "Context":
        """The same, with this answer to its check."""
        if self.answers.get(piece.check_id) is piece:
            return self
        return Context(self.situation, {**self.answers, piece.check_id: piece}, self._tried_plan, self._tried_charge)

    def with_plan(self, plan: FlightPlan, held: ChargeRange | None) -> "Context":
        """The same with a plan and a charge (per cent; None: as known) that are being tried out."""
        return Context(self.situation, self.answers, plan, held)

    @cached_property
    def weather(self) -> Weather | None:
        """The weather of this round if it was read, else that of the situation."""
        piece = self.answers.get("sky.weather")
        if piece is not None and isinstance(piece.answer, WeatherRead):
            return piece.answer.weather
        return self.situation.weather

    @property
    def charge(self) -> ChargeRange:
        """State of charge in per cent: the lower of what cells and gauge say in this round, else what is on record, else as
        a full pack: see ``charge_known``."""
        return self._charge or FULL

    @property
    def charge_known(self) -> bool:
        """Whether anything is known of the charge, from this round or from the record."""
        return self._charge is not None

    @property
    def pack_read(self) -> bool:
        """Whether the charge of the pack was read in this round."""
        return bool(self._read)

    @cached_property
    def _read(self) -> list[ChargeRange]:
        read = []
        cells = self.answers.get("pack.cells")
        if cells is not None and isinstance(cells.answer, CellsRead):
            read.append(from_cells(cells.answer.reading, self.situation.pack))
        shown = self.answers.get("pack.percent")
        if shown is not None and isinstance(shown.answer, ChargeShown):
            read.append(shown.answer.held)
        return read

    @cached_property
    def _charge(self) -> ChargeRange | None:
        if self._tried_charge is not None:
            return self._tried_charge
        if self.situation.aircraft.has(Trait.LIQUID_FUEL):
            return self.tank  # what flies the plan is the fuel; the pack drives only receiver and servos
        if self._read:
            return min(self._read, key=lambda held: held.mid)
        known = self.situation.history.pack_summary
        return None if known is None else known.charge_now(self.situation.pack, self.situation.now)

    @property
    def motorised_pack(self) -> bool:
        """Whether the pack is what drives the aircraft, not only its receiver."""
        return self.situation.aircraft.has(Trait.ELECTRIC)

    @property
    def tank(self) -> ChargeRange | None:
        """How full the tank is in per cent as read in this round, None where it was not."""
        piece = self.answers.get("pack.fuel_level")
        if piece is None or not isinstance(piece.answer, Measured):
            return None
        return from_percent(piece.answer.value)

    @property
    def airspace_asked(self) -> str | None:
        """What the pilot answered about the airspace in this round, None while it is open."""
        piece = self.answers.get("field.airspace")
        return piece.answer.option if piece is not None and isinstance(piece.answer, Chosen) else None

    @cached_property
    def pack_c(self) -> float:
        """Temperature of the pack in °C: as felt in this round, else that of the air, else mild."""
        felt = self.answers.get("pack.temperature")
        if felt is not None and isinstance(felt.answer, Measured):
            return felt.answer.value
        weather = self.weather
        return USUAL_C if weather is None or weather.temperature_c is None else weather.temperature_c

    @cached_property
    def density(self) -> float:
        """Density of the air in kg/m³ at the field, standard where no weather is known."""
        weather, site = self.weather, self.situation.site
        if weather is None or weather.temperature_c is None:
            return atmosphere.air_density(atmosphere.standard_pressure_hpa(site.elevation_m), 15)
        pressure = (
            atmosphere.standard_pressure_hpa(site.elevation_m)
            if weather.qnh_hpa is None
            else atmosphere.station_pressure_hpa(weather.qnh_hpa, site.elevation_m)
        )
        return atmosphere.air_density(pressure, weather.temperature_c, weather.dew_point_c)

    def endurance(self, pack_c: float | None = None) -> Endurance:
        """Minutes that a full pack gives this aircraft today, at this temperature of the pack in °C if given."""
        warm_c = self.pack_c if pack_c is None else pack_c
        if warm_c not in self._endurance:
            history = self.situation.history
            self._endurance[warm_c] = endurance(
                self.situation.aircraft,
                self.situation.pack,
                uses=history.uses,
                density=self.density,
                temperature_c=warm_c,
                state_of_health=history.pack_state_of_health,
            )
        return self._endurance[warm_c]

    @cached_property
    def top_m(self) -> float:
        """The highest point of the flight above ground in m: as said in this round, else the field's flying height."""
        said = self.answers.get("field.max_height")
        if said is not None and isinstance(said.answer, Measured):
            return said.answer.value
        return self.situation.site.flight_height_m

    @cached_property
    def highest_m(self) -> float:
        """The highest point of the flight above ground in m: as said, or as high as the plan goes."""
        return max(self.top_m, self.flight_plan.height_m)

    @cached_property
    def rth_altitude_m(self) -> float | None:
        """The return height set in the aircraft in m above launch: as read in this round, else as on record; None without
        return to home, and where it is not known."""
        if not self.situation.aircraft.has(Trait.RETURN_HOME):
            return None
        piece = self.answers.get("link.rth_altitude")
        if piece is not None and isinstance(piece.answer, Measured):
            return piece.answer.value
        done = self.situation.history.last_done("link.rth_altitude")
        return None if done is None or done.value is None else done.value.value

    @cached_property
    def home_height_m(self) -> float:
        """The greatest height in m at which it flies out or home."""
        return max(self.highest_m, self.rth_altitude_m or 0.0)

    @cached_property
    def turn_back_percent(self) -> float | None:
        """The charge in per cent at which it has to turn for home at the far end of this flight, reserve included; None:
        no charge is enough."""
        s, plan = self.situation, self.flight_plan
        place = TurnPoint(distance_m=plan.out_m or s.site.reach_m, height_m=self.highest_m)
        turn = turn_backs(self.trip, [place.distance_m], place, self.rth_altitude_m or self.highest_m)[0]
        return None if turn.percent is None else max(turn.percent, self.flight_needs().turn_back_percent)

    @cached_property
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

    @cached_property
    def handover(self) -> Handover | None:
        """Who flies in place of the pilot in command, as agreed in this round; None: nobody else."""
        piece = self.answers.get("first.handover")
        return piece.answer if piece is not None and isinstance(piece.answer, Handover) else None

    @cached_property
    def planned_answer(self) -> FlightPlan | None:
        """The plan of the flight as answered in this round, or None."""
        if self._tried_plan is not None:
            return self._tried_plan
        piece = self.answers.get("pack.plan")
        return piece.answer.plan if piece is not None and isinstance(piece.answer, Planned) else None

    @cached_property
    def flight_plan(self) -> FlightPlan:
        """The plan of the flight: as answered in this round, else the minutes that the situation says."""
        if self.planned_answer is not None:
            return self.planned_answer
        return FlightPlan(
            work_min=self.situation.planned_min, height_m=min(500.0, max(1.0, self.situation.site.flight_height_m))
        )

    def flight_needs(
        self, plan: FlightPlan | None = None, held: ChargeRange | None = None, known: Endurance | None = None
    ) -> FlightNeeds:
        """What the plan of this round asks of this pack today, with another charge or other minutes if given."""
        if plan is None and held is None and known is None:
            return self._needs
        return self._needs_of(plan, held, known)

    @cached_property
    def _needs(self) -> FlightNeeds:
        return self._needs_of(None, None, None)

    def _needs_of(self, plan: FlightPlan | None, held: ChargeRange | None, known: Endurance | None) -> FlightNeeds:
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

    def flight_clock(
        self,
        read: ChargeRead | None = None,
        plan: FlightPlan | None = None,
        held: ChargeRange | None = None,
        known: Endurance | None = None,
    ) -> FlightClock:
        """The clock of the flight, anew from a charge read in the air, or of another plan, charge or minutes if given."""
        s, plan = self.situation, plan or self.flight_plan
        wind_ms, strongest_ms = winds_at(self.weather, s.site, plan.height_m)
        return flight_clock(
            plan,
            s.aircraft,
            known or self.endurance(),
            held or self.charge,
            wind_ms=wind_ms,
            strongest_ms=strongest_ms,
            reserve_percent=s.limits.reserve_percent,
            read=read,
        )

    @property
    def planned_min(self) -> float:
        """Planned minutes in the air."""
        return self.flight_needs().planned_min

    @property
    def second_hop(self) -> bool:
        """Whether this would be the pack's second hop today, and a short one (at most half a full pack)."""
        return self.situation.history.pack_flights_today == 1 and self.flight_needs().planned_percent <= 50
