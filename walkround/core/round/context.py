"""What a judge may look at: the situation and the other answers of the round."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from functools import cached_property

from walkround.core.aircraft.failsafe import Failsafe
from walkround.core.aircraft.traits import Trait
from walkround.core.answers.cells import CellsRead
from walkround.core.answers.charge import ChargeShown
from walkround.core.answers.choice import Chosen
from walkround.core.answers.fix import FixRead
from walkround.core.answers.flight import Planned
from walkround.core.answers.handover import Handover
from walkround.core.answers.number import Measured
from walkround.core.answers.weather import WeatherRead
from walkround.core.base.finding import Finding
from walkround.core.flight.estimate import USUAL_C, Endurance, endurance
from walkround.core.flight.flight_clock import ChargeRead, FlightClock, flight_clock, latest_turn_s
from walkround.core.flight.flight_plan import FlightNeeds, FlightPlan, needs, winds_at
from walkround.core.flight.return_to_home import Trip, TurnBack, TurnPoint, turn_backs, way_home
from walkround.core.lost_link.landing_circle import LandingSpread, landing_spread
from walkround.core.lost_link.rehearsals import OwnReturn, own_return
from walkround.core.packs.charge import FULL, ChargeRange, from_cells, from_percent
from walkround.core.packs.load import UnderLoad, under_load
from walkround.core.round.evidence import Evidence
from walkround.core.round.failsafe_answers import FAILSAFE_CHECKS, action_of
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
        done, settings = self.situation.history.last_done("link.rth_altitude"), self.situation.aircraft.failsafe
        read_m = None if settings is None else settings.rth_altitude_m
        if done is None or done.value is None:
            return read_m
        newer = settings is not None and settings.read_at is not None and settings.read_at >= done.at
        return read_m if newer and read_m is not None else done.value.value

    @cached_property
    def failsafe(self) -> Failsafe:
        """The settings of the failsafe as this round read them, else as on record; nothing known where they never were read."""
        settings = self.situation.aircraft.failsafe or Failsafe()
        changes: dict[str, object] = {"rth_altitude_m": self.rth_altitude_m}
        for check_id in FAILSAFE_CHECKS:
            piece = self.answers.get(check_id)
            if piece is not None and isinstance(piece.answer, Chosen):
                changes["action"] = action_of(check_id, piece.answer.option, self.situation.aircraft)
        return settings.model_copy(update=changes)

    @cached_property
    def own_return(self) -> OwnReturn:
        """What its rehearsals say of this aircraft's returns."""
        return own_return(self.situation.history.rehearsals)

    @cached_property
    def landing_spread(self) -> LandingSpread:
        """How far its landings spread, by the fix of this round and its own returns."""
        piece = self.answers.get("sensors.satellites")
        read = piece.answer if piece is not None and isinstance(piece.answer, FixRead) else None
        fix = read.fix if read is not None and read.screen is None else None
        return landing_spread(fix, read.screen if read is not None else None, self.own_return)

    @property
    def paced_clear_m(self) -> float | None:
        """The clear radius round the launch point in m as paced in this round, None where it was not."""
        piece = self.answers.get("field.launch_circle")
        return piece.answer.value if piece is not None and isinstance(piece.answer, Measured) else None

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
    def turn_percent(self) -> float | None:
        """The charge in per cent at which this flight is called back: as computed, or the pilot's own figure of this round where that is earlier; None: no
        charge is enough."""
        own = self.answers.get("link.turn_back")
        computed = self.turn_back_percent
        if computed is None or own is None or not isinstance(own.answer, Measured):
            return computed
        return max(computed, own.answer.value)

    @cached_property
    def trip(self) -> Trip:
        """What every way home of this round depends on."""
        s = self.situation
        return Trip(
            site=s.site, aircraft=s.aircraft, known=self.endurance(), weather=self.weather, limits=s.limits,
            use_times=self.own_return.use_times,
        )  # fmt: skip

    def turn_table(
        self, distances_m: Sequence[float], place: TurnPoint, return_m: float
    ) -> tuple[tuple[TurnBack, float | None], ...]:
        """The last charge to turn at for distances in m, and the latest second after take-off for it with this charge and the weakest of the other gear;
        None where there is no way home."""
        known, table = self.endurance(), []
        for turn in turn_backs(self.trip, distances_m, place, return_m):
            at_s = None
            if turn.percent is not None and turn.minutes is not None:
                at_s = latest_turn_s(known, self.charge, turn.percent)
                if self.gear_s is not None:
                    at_s = min(at_s, max(0.0, self.gear_s - 60 * turn.minutes))
            table.append((turn, at_s))
        return tuple(table)

    def percent_home(self, distance_m: float) -> float | None:
        """What a return from a distance in m at flying height is computed to use, in per cent of a full pack, without what rehearsals added; None: no way home."""
        place = TurnPoint(distance_m=distance_m, height_m=self.situation.site.flight_height_m)
        way = way_home(self.trip, place, self.rth_altitude_m or place.height_m)
        return min(100.0, way.percent / self.trip.use_times) if way.home else None

    @cached_property
    def gear_s(self) -> float | None:
        """Seconds that the weakest of transmitter and the rest lasts; None where no charge of them is known."""
        known = [one.minutes for one in self.situation.history.gear if one.minutes is not None]
        return 60 * min(known) if known else None

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
        s, flown = self.situation, plan or self.flight_plan
        wind_ms, strongest_ms = winds_at(self.weather, s.site, flown.height_m)
        clock = flight_clock(
            flown,
            s.aircraft,
            known or self.endurance(),
            held or self.charge,
            wind_ms=wind_ms,
            strongest_ms=strongest_ms,
            reserve_percent=s.limits.reserve_percent,
            read=read,
        )
        if self.gear_s is not None:
            clock = clock.turning_by(self.gear_s - (clock.land_s - clock.turn_s), "gear")
        if flown.out_m > 0 and plan is None and held is None and known is None:
            clock = clock.turning_by(self._turn_by_s(read), "charge")
        return clock

    def _turn_by_s(self, read: ChargeRead | None) -> float:
        """The latest second after take-off at which the charge to turn at is still there; where no charge is enough, at once."""
        percent = self.turn_percent
        if percent is None:
            return 0.0 if read is None else read.at_s
        if read is None:
            return latest_turn_s(self.endurance(), self.charge, percent)
        return read.at_s + latest_turn_s(self.endurance(), from_percent(read.percent), percent)

    @property
    def planned_min(self) -> float:
        """Planned minutes in the air."""
        return self.flight_needs().planned_min

    @property
    def second_hop(self) -> bool:
        """Whether this would be the pack's second hop today, and a short one (at most half a full pack)."""
        return self.situation.history.pack_flights_today == 1 and self.flight_needs().planned_percent <= 50
