"""One invented pilot with five aircraft, six packs, two fields, a past, and things left to mind."""

import json
from datetime import datetime, timedelta

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Action, Controls, Failsafe, HomeBy, LowBattery, StopBy
from walkround.core.aircraft.flaws import Damage, Place
from walkround.core.aircraft.link_trials import BenchTest, Rehearsal, Seen
from walkround.core.aircraft.parts import Part, PartKind
from walkround.core.aircraft.presets import PRESETS
from walkround.core.airspace.reading import read_zones
from walkround.core.base.geodesy import Position
from walkround.core.checklist.history import EventKind, SnagOn
from walkround.core.field.marks import Mark, MarkKind, Spot, mark_at
from walkround.core.field.site import Role, Site, Terrain
from walkround.core.inspection.damage import damage_words, rule
from walkround.core.inspection.touched import touched_part
from walkround.core.packs.charging import Charger
from walkround.core.pilot.accident import Occurrence
from walkround.core.round import record as core_record
from walkround.core.round.consequences import Happened
from walkround.core.round.situation import Situation
from walkround.core.round.walk import walk
from walkround.demo import cards
from walkround.demo.calibrations import fill_calibrations
from walkround.demo.packs import fill_box, fill_readings
from walkround.demo.walker import walked_evidence
from walkround.simulators.notices import SimulatedNotices
from walkround.store import done, hangar, link_trials, occurrences, parts
from walkround.store import settings as store_settings
from walkround.store import snags as store_snags
from walkround.store import zones as store_zones
from walkround.store.models import EvidenceRow, FlightRow, RecordRow, RoundRow
from walkround.store.settings import Settings
from walkround.store.situation import gather, situation_text

PILOT = "Tamsin Rook"


def _spots(*points: tuple[float, float]) -> tuple[Spot, ...]:
    return tuple(Spot(east_m=east, north_m=north) for east, north in points)


MEADOW = Site(
    name="Teasel Common",
    position=Position(lat_deg=48.2213, lon_deg=15.3318),
    elevation_m=243,
    timezone="Europe/Vienna",
    terrain=Terrain.GRASS,
    flight_radius_m=140,
    flight_height_m=45,
    strip_deg=250,
    pilot=Spot(east_m=0, north_m=-7),
    flight_area=_spots((-92, 12), (88, 12), (98, 80), (-86, 88)),
    spectator_line=_spots((-36, -25), (38, -25)),
    marks=(
        Mark(id=1, kind=MarkKind.TREES, spots=_spots((48, 101), (96, 95), (138, 77)), height_m=19),
        Mark(id=2, kind=MarkKind.WIRE, spots=_spots((92, -220), (186, -98), (262, 10)), height_m=24),
        Mark(id=3, kind=MarkKind.TREE, spots=_spots((-118, 40)), height_m=14, radius_m=6, name="old pear"),
        Mark(id=4, kind=MarkKind.BUILDING, spots=_spots((-60, -52), (-38, -52), (-38, -40), (-60, -40)), height_m=5, name="club hut"),
        Mark(id=5, kind=MarkKind.FENCE, spots=_spots((-80, -31), (82, -31)), height_m=1.3),
        Mark(id=6, kind=MarkKind.CARS, spots=_spots((44, -62), (84, -62), (84, -36), (44, -36)), height_m=2),
        Mark(id=7, kind=MarkKind.WATER, spots=_spots((-176, 92), (-138, 108), (-142, 152), (-188, 146)), name="mill pond"),
        Mark(id=8, kind=MarkKind.HAZARD, spots=_spots((150, 34)), radius_m=18, name="footpath gate: walkers"),
    ),
    rules="Club strip, members and guests, engines quiet between 12 and 14 h.",
    access="Gate on the mill lane, code with the club; ambulances come as far as the hut.",
    emergency="112. “Model flying strip on Teasel Common, gate on the mill lane, 48.2213 north 15.3318 east.”",
    crew=(
        Role(who="Tamsin Rook", does="Pilot in command: decides, flies, and says aloud what is done."),
        Role(who="Ilse Marlow", does="Spotter: eyes on the aircraft and on the sky, calls out people and birds."),
        Role(who="Jory Fenn", does="Line: keeps walkers at the gate and dogs held."),
    ),
    station="ZZTC",
)  # fmt: skip
QUAY = Site(
    name="Gull Staithe",
    position=Position(lat_deg=53.7062, lon_deg=8.1127),
    elevation_m=3,
    timezone="Europe/Berlin",
    terrain=Terrain.WATER,
    flight_radius_m=250,
    flight_height_m=40,
    over_water=True,
    marks=(
        mark_at(MarkKind.MAST, 210, 118, 31, number=1),
        mark_at(MarkKind.BUILDING, 165, 74, 9, number=2),
        Mark(id=3, kind=MarkKind.WATER, spots=_spots((-420, 18), (430, 26), (430, 520), (-420, 520)), name="bight"),
        Mark(id=4, kind=MarkKind.METAL, spots=_spots((-90, 4), (88, 12)), name="sheet piling"),
    ),
    rules="Harbour master asks for a call before flying: number on the shed.",
    emergency="112. “Old quay at Gull Staithe, seaward end, 53.7062 north 8.1127 east.”",
    station="ZZGS",
)


def fill(now: datetime) -> dict[str, int]:
    """Fill an empty book with the scenario as it stands at ``now`` (aware). Returns the numbers of things by name."""
    fetched = now
    # The past happened by daylight, whenever the demo is started.
    now = now.replace(hour=9, minute=40) if not 8 <= now.hour <= 14 else now
    store_settings.save(
        pilot=PILOT,
        devices={
            "weather": "breeze",
            "checker": "fresh",
            "receiver": "open",
            "notices": "quiet",
            "link_bench": "right",
            "controller": "good",
        },
    )
    store_settings.save(
        charger=Charger(name="Two outlets", channels=2, channel_a=6, channel_w=80, total_w=130, parallel=3)
    )
    quad = PRESETS["camera-quad"].model_copy(
        update={
            "name": "Sandpiper",
            "firmware": "2.3",
            "works": cards.sandpiper(now),
            "stop_words": "Throttle down and hold it there for three seconds.",
            "home_words": "Hold the button with the house for two seconds. Press it once to cancel.",
            "failsafe": Failsafe(
                action=Action.RETURN, delay_s=1.5, confirm_s=0, low=LowBattery.RETURN, low_percent=20, stop_air=StopBy.THROTTLE_DOWN,
                stop_hold_s=3, home_start=(HomeBy.BUTTON, HomeBy.SCREEN), home_cancel=(HomeBy.BUTTON,), read_by="aircraft's app",
                read_at=now - timedelta(days=9, hours=1), read_site="Teasel Common",
            ),
        }
    )  # fmt: skip
    trainer = PRESETS["foam-trainer"].model_copy(
        update={
            "name": "Haymaker",
            "failsafe": Failsafe(
                action=Action.CIRCLE, delay_s=1.0, throttle_percent=0, controls=Controls.TURN, read_by="transmitter",
                read_at=now - timedelta(days=26), read_site="Teasel Common",
            ),
        }
    )  # fmt: skip
    hexa = PRESETS["camera-hexa"].model_copy(update={"name": "Lapwing", "firmware": "4.1"})
    heli = PRESETS["heli-coaxial"].model_copy(update={"name": "Mayfly"})
    wing = PRESETS["flying-wing"].model_copy(update={"name": "Whinchat"})
    numbers = {thing.name: hangar.save(thing, now) for thing in (quad, trainer, hexa, heli, wing)}
    walked = MEADOW.model_copy(update={"walked_at": now - timedelta(days=9)})
    numbers |= {site.name: hangar.save(site, now) for site in (walked, QUAY)}
    for site in (MEADOW, QUAY):
        found = read_zones(SimulatedNotices("quiet").zones(site.position, fetched))
        store_zones.keep(f"Notices round {site.name}", found, fetched, service=True)
    numbers |= fill_box(now)
    _events(numbers, now)
    fill_calibrations(numbers, MEADOW, now)
    _snags(numbers, now)
    _flights(numbers, now)
    _parts(numbers, now)
    occurrences.keep(
        Occurrence.NEAR_MISS,
        aircraft_id=numbers["Sandpiper"],
        site_id=numbers["Gull Staithe"],
        at=now - timedelta(days=37, hours=2),
        what="A microlight came low round the shed. Landed at once.",
        witnesses="the spotter",
        now=now - timedelta(days=37),
    )
    _trials(numbers["Sandpiper"], now)
    _past_round(numbers, now)
    fill_readings(numbers, now)
    return numbers


def _events(numbers: dict[str, int], now: datetime) -> None:
    def ago(days: float) -> datetime:
        return now - timedelta(days=days)

    quad, trainer = numbers["Sandpiper"], numbers["Haymaker"]
    hangar.add_event(quad, EventKind.FIRMWARE, ago(52), detail="2.3")
    for kind in (EventKind.COMPASS_CALIBRATED, EventKind.ACCELEROMETER_CALIBRATED):
        hangar.add_event(quad, kind, ago(51), position=MEADOW.position, site=MEADOW.name)
    hangar.add_event(trainer, EventKind.HARD_LANDING, ago(12), detail="nose first on the strip")
    hangar.add_event(numbers["Mayfly"], EventKind.NEW_BUILD, ago(4))


def _snags(numbers: dict[str, int], now: datetime) -> None:
    opened = now - timedelta(days=12)
    store_snags.open_one(
        SnagOn.AIRCRAFT, numbers["Haymaker"], "Hairline crack beside the nose wheel block", grounds=False, at=opened
    )
    # An old mark and a new one on the hexacopter, a worn clevis on the flying wing, and a latch of the quad that was fixed twice.
    for aircraft, part_id, damage, place, days, how in (
        ("Lapwing", "body", Damage.CHAFE, Place.MIDDLE, 47, ""),
        ("Lapwing", "motor-3/shaft", Damage.BEND, None, 2, ""),
        ("Whinchat", "left-elevon/clevis", Damage.WORN, None, 31, ""),
        ("Sandpiper", "arm-4/latch", Damage.LOOSE, Place.LUG, 41, "Cleaned and tightened"),
        ("Sandpiper", "arm-4/latch", Damage.LOOSE, Place.LUG, 25, "Tightened again"),
    ):
        craft, at = hangar.get(Aircraft, numbers[aircraft]), now - timedelta(days=days)
        part = touched_part(craft, part_id)
        assert part is not None
        words, grounds = damage_words(part, damage, place), rule(part.does, damage, place).grounds
        number = store_snags.open_one(SnagOn.AIRCRAFT, craft.id, words, grounds=grounds, at=at, parts=(part_id,))
        if how:
            store_snags.close(number, how, at + timedelta(hours=2))


def _flights(numbers: dict[str, int], now: datetime) -> None:
    past = (
        ("Sandpiper", "S1", "Teasel Common", 58, 9.5, 54, None, ""),
        ("Sandpiper", "S2", "Teasel Common", 58, 10.2, 51, None, ""),
        ("Haymaker", "H1", "Teasel Common", 44, 6.0, None, 11.62, ""),
        ("Sandpiper", "S1", "Gull Staithe", 37, 8.4, 57, None, "gulls over the shed, came home early"),
        ("Haymaker", "H1", "Teasel Common", 26, 6.6, None, 11.55, ""),
        ("Sandpiper", "S2", "Teasel Common", 26, 9.8, 52, None, ""),
        ("Haymaker", "H1", "Teasel Common", 12, 4.1, None, 11.80, "nose first on the strip"),
        ("Lapwing", "L1", "Teasel Common", 40, 7.5, None, 23.10, ""),
        ("Whinchat", "H1", "Teasel Common", 33, 8.0, None, 11.60, ""),
    )
    for aircraft, pack, site, days, minutes, percent, volts, note in past:
        off = now - timedelta(days=days, hours=2)
        hard = note.startswith("nose")
        FlightRow.create(
            aircraft=numbers[aircraft],
            pack=numbers[pack],
            site=numbers[site],
            took_off_at=off,
            landed_at=off + timedelta(minutes=minutes),
            minutes=minutes,
            left_percent=percent,
            left_v=volts,
            happened=(Happened.HARD_LANDING if hard else Happened.NOTHING).value,
            note=note,
            logged_at=off + timedelta(minutes=minutes + 3),
        )


def _parts(numbers: dict[str, int], now: datetime) -> None:
    """Propellers, a motor and a receiver with their counts; one propeller was changed after a nick."""
    built = now - timedelta(days=70)
    for place, rotation, part_id in (
        ("front left", "clockwise", "propeller-4"),
        ("front right", "counter-clockwise", "propeller-1"),
    ):
        part = Part(
            kind=PartKind.PROPELLER, part_id=part_id, place=place, rotation=rotation, size="8 x 4.3", fitted_at=built
        )
        number = parts.fit(numbers["Sandpiper"], part)
    fresh = part.model_copy(update={"fitted_at": now - timedelta(days=55)})
    parts.replace(numbers["Sandpiper"], number, fresh, "a nick at the tip")
    receiver = Part(kind=PartKind.RECEIVER, name="six channels", firmware="1.4", fitted_at=built)
    parts.fit(numbers["Haymaker"], receiver)


def _trials(quad: int, now: datetime) -> None:
    """Three returns flown on purpose, and a bench test of last season."""
    for days, distance_m, seconds, used, offset_m in (
        (58, 80, 74, 6, 1.4),
        (26, 110, 81, 7, 0.9),
        (26, 60, 66, 5, 1.8),
    ):
        flown = Rehearsal(
            at=now - timedelta(days=days, hours=1),
            distance_m=distance_m,
            seconds=seconds,
            used_percent=used,
            expected_percent=6.0,
            offset_m=offset_m,
        )
        link_trials.keep(quad, flown)
    link_trials.keep(quad, BenchTest(at=now - timedelta(days=190), seen=Seen.ACTED, after_s=1.8))


def _past_round(numbers: dict[str, int], now: datetime) -> None:
    """A round of Sandpiper signed nine days ago, with its flight."""
    begun = now - timedelta(days=9, hours=1)
    situation = gather(
        numbers["Sandpiper"], numbers["S2"], numbers["Teasel Common"], now=begun, settings=Settings(pilot=PILOT)
    )
    zones = situation.airspace
    assert zones is not None
    situation = situation.model_copy(
        update={  # as it was that day: the zones fetched that morning, two packs charged
            "airspace": zones.model_copy(
                update={"sets": tuple((name, begun, service) for name, _, service in zones.sets)}
            ),
            "history": situation.history.model_copy(update={"packs_ready": 2}),
        }
    )
    number = keep_walked(situation, begun, PILOT)
    off = begun + timedelta(minutes=31)
    FlightRow.create(
        round=number,
        aircraft=situation.aircraft.id,
        pack=situation.pack.id,
        site=situation.site.id,
        took_off_at=off,
        landed_at=off + timedelta(minutes=10.1),
        minutes=10.1,
        left_percent=53,
        happened=Happened.NOTHING.value,
        note="",
        logged_at=off + timedelta(minutes=14),
    )


def keep_walked(situation: Situation, begun: datetime, pilot: str) -> int:
    """Keep a whole round that walked itself, signed; returns its number. For the demo and the benchmark."""
    number = int(
        RoundRow.insert(
            aircraft=situation.aircraft.id,
            pack=situation.pack.id,
            site=situation.site.id,
            started_at=begun,
            situation=situation_text(situation),
        ).execute()
    )
    last = EvidenceRow.select().order_by(EvidenceRow.id.desc()).first()
    pieces = walked_evidence(situation, begun, first_id=(last.id if last else 0) + 1)
    rows = [
        {
            "id": p.id,
            "round": number,
            "check_id": p.check_id,
            "at": p.at,
            "by": p.by,
            "answer": json.dumps(p.answer.model_dump(mode="json")),
        }
        for p in pieces
    ]
    for start in range(0, len(rows), 100):
        EvidenceRow.insert_many(rows[start : start + 100]).execute()
    signed_at = pieces[-1].at + timedelta(minutes=1)
    frozen = core_record.sign(walk(situation, pieces), number, pieces, pilot, signed_at, Settings().units)
    text = frozen.canonical()
    RecordRow.insert(
        round=number, text=text, sha256=core_record.content_hash(text), signed_by=pilot, signed_at=signed_at
    ).execute()
    RoundRow.update(state="signed", signed_at=signed_at, level=int(frozen.verdict.level)).where(
        RoundRow.id == number
    ).execute()
    done.note(walk(situation, pieces), signed_at)
    return number
