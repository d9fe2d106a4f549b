"""Forty odd flights, each with what is known of it and the cause that has to rank among the first two. The first twenty were written before the ranking.

Sources: facts of the trade, common practice, no source, except where a case names one.
"""

from walkround.core.aircraft.traits import Kind
from walkround.core.diagnosis.symptoms import Cause as C
from walkround.core.diagnosis.symptoms import Facts
from walkround.core.diagnosis.symptoms import Symptom as S

QUAD = Facts(kind=Kind.MULTIROTOR, compass=True, satnav=True, levels=True, electric=True, rotors=4, flown=20)
RACER = Facts(kind=Kind.MULTIROTOR, levels=True, electric=True, rotors=4, flown=50)
WING = Facts(kind=Kind.WING, electric=True, rotors=1, flown=30)
HELI = Facts(kind=Kind.HELICOPTER, levels=True, electric=True, rotors=1, flown=40)
GLIDER = Facts(kind=Kind.WING, flown=12)


def of(base: Facts, **known: object) -> Facts:
    """A flight with these facts."""
    import msgspec

    return msgspec.structs.replace(base, **known)


FIRST_TWENTY = (
    ((S.CIRCLES,), of(QUAD, compass_days=400), C.COMPASS),
    ((S.CIRCLES,), of(QUAD, compass_days=3, iron_m=4.0), C.IRON),
    ((S.CIRCLES,), of(QUAD, compass_days=200, carried_km=600), C.COMPASS),
    ((S.CIRCLES, S.OFF_COURSE), of(QUAD, compass_days=20, new_parts=("motor",)), C.COMPASS),
    ((S.DRIFTS,), of(QUAD, compass_days=5, wind_share=0.9), C.WIND),
    ((S.DRIFTS,), of(QUAD, compass_days=5, level_days=None, hard_landing_days=1), C.LEVEL),
    ((S.DRIFTS,), of(QUAD, compass_days=5, satellites=6, hdop=3.5), C.FIX),
    ((S.DRIFTS,), of(RACER, level_days=400), C.LEVEL),
    ((S.VIBRATES,), of(QUAD, hard_landing_days=1), C.PROPELLER),
    ((S.VIBRATES, S.NOISE), of(QUAD, motor_hours=90), C.MOTOR),
    ((S.NOISE,), of(QUAD, fixed_often=("rear left arm latch",)), C.LOOSE),
    ((S.SHORT_FLIGHT,), of(QUAD, pack_health=0.68), C.PACK_AGED),
    ((S.SHORT_FLIGHT,), of(QUAD, pack_health=0.97, pack_c=2.0), C.PACK_COLD),
    ((S.SHORT_FLIGHT, S.WEAK_LIFT), of(HELI, pack_health=0.95, motor_hours=60), C.HEAD),
    ((S.WEAK_LIFT,), of(QUAD, added_g=400), C.LOAD),
    ((S.TWITCHY,), of(QUAD, firmware_days=1), C.SETTINGS),
    ((S.TWITCHY,), of(WING, cg_known=False, new_parts=("pack",)), C.BALANCE),
    ((S.NO_LINK,), of(QUAD, antenna_hurt=True), C.ANTENNA),
    ((S.NO_LINK,), of(QUAD, transmitter_percent=12), C.TRANSMITTER),
    ((S.WILL_NOT_ARM,), of(QUAD, compass_days=None), C.COMPASS),
)
"""Symptoms, facts, cause."""
SECOND_TWENTY = (
    ((S.OFF_COURSE,), of(WING, crash_days=2), C.SURFACE),
    ((S.OFF_COURSE,), of(QUAD, compass_days=10, level_days=10, wind_share=0.8), C.WIND),
    ((S.CLIMBS,), of(QUAD, level_days=20, compass_days=20), C.HEIGHT_SENSOR),
    ((S.CLIMBS,), of(WING, level_days=20, cg_known=False, new_parts=("pack",)), C.BALANCE),
    ((S.TWITCHY,), of(WING, new_parts=("servo",)), C.SURFACE),
    ((S.TWITCHY,), of(RACER, new_parts=("flight controller",)), C.SETTINGS),
    ((S.VIBRATES,), of(HELI, motor_hours=70), C.HEAD),
    ((S.VIBRATES,), of(RACER, fixed_often=("front left motor screw",)), C.LOOSE),
    ((S.NOISE,), of(WING, motor_hours=55), C.MOTOR),
    ((S.SHORT_FLIGHT,), of(QUAD, pack_health=0.95, minutes_share=0.6, motor_hours=80), C.MOTOR),
    ((S.SHORT_FLIGHT,), of(QUAD, pack_health=0.95, added_g=300), C.LOAD),
    ((S.SHORT_FLIGHT,), of(QUAD, pack_health=0.95, wind_share=0.9), C.WIND),
    ((S.WEAK_LIFT,), of(QUAD, new_parts=("propeller",), pack_health=0.96), C.PROPELLER),
    ((S.WEAK_LIFT, S.SHORT_FLIGHT), of(QUAD, pack_health=0.6), C.PACK_AGED),
    ((S.NO_LINK,), of(QUAD, radio_m=60), C.RADIO),
    ((S.NO_LINK,), of(RACER, new_parts=("receiver",)), C.ANTENNA),
    ((S.WILL_NOT_ARM,), of(RACER, idle_days=200), C.THROTTLE),
    ((S.WILL_NOT_ARM,), of(QUAD, compass_days=10, level_days=10, satellites=5), C.FIX),
    ((S.DRIFTS, S.CIRCLES), of(QUAD, compass_days=30, level_days=30, crash_days=3), C.COMPASS),
    ((S.DRIFTS,), of(GLIDER, cg_known=False), C.BALANCE),
)
"""Written after the ranking stood, and not looked at while it was made."""
