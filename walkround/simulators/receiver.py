"""A positioning receiver that speaks sentences under a chosen sky."""

from datetime import datetime, timedelta

from walkround.core.base.errors import DeviceError
from walkround.core.base.geodesy import Position
from walkround.core.sensors.devices import PositionReceiver
from walkround.core.sensors.nmea import checksum
from walkround.simulators.simulator import Simulator

CONDITIONS: dict[str, tuple[str, dict[str, float]]] = {
    "open": ("Open sky", {"quality": 1, "used": 14, "hdop": 0.9, "pdop": 1.6, "knots": 0.05, "age_s": 1}),
    "hedge": ("Close to a hedge", {"quality": 1, "used": 10, "hdop": 1.6, "pdop": 2.4, "knots": 0.2, "age_s": 1}),
    "thin": ("Half the sky hidden", {"quality": 1, "used": 6, "hdop": 2.7, "pdop": 3.9, "knots": 0.4, "age_s": 2}),
    "drifting": ("Reflections: drifting", {"quality": 1, "used": 11, "hdop": 1.4, "pdop": 2.2, "knots": 1.6, "age_s": 1}),
    "cold": ("No fix yet", {"quality": 0, "used": 3, "hdop": 9.9, "pdop": 12, "knots": 0, "age_s": 1}),
    "garbled": ("Garbled line (fault)", {"quality": 1, "used": 12, "hdop": 1.0, "pdop": 1.8, "knots": 0.1, "age_s": 1}),
    "silent": ("No answer (fault)", {}),
}  # fmt: skip
"""Condition: words, and what the receiver reports."""
SECONDS = 3


def _line(body: str) -> str:
    return f"${body}*{checksum(body)}"


def _degrees(value: float, width: int, letters: str) -> str:
    """Degrees and decimal minutes as sentences write them: ddmm.mmmm and the hemisphere."""
    size = abs(value)
    whole = int(size)
    return f"{whole:0{width}d}{(size - whole) * 60:07.4f},{letters[0] if value >= 0 else letters[1]}"


class SimulatedReceiver:
    """Implements ``core.devices.PositionReceiver``."""

    def __init__(self, condition: str = "open") -> None:
        self.condition = condition if condition in CONDITIONS else "open"

    def nmea(self, place: Position, now: datetime) -> str:
        """Three seconds of GGA, GSA and RMC at a place, the last one just before ``now`` (aware).

        Raises DeviceError when the condition is the silent fault.
        """
        state = CONDITIONS[self.condition][1]
        if not state:
            raise DeviceError("The receiver does not answer. Is it switched on? You can paste NMEA data instead.")
        lines = []
        for ago in range(SECONDS - 1, -1, -1):
            moment = now - timedelta(seconds=state["age_s"] + ago)
            lines += one_second(place, moment, state)
        text = "\r\n".join(lines) + "\r\n"
        if self.condition == "garbled":
            text = text.replace("A*", "B*", 1)
        return text


def one_second(place: Position, moment: datetime, state: dict[str, float]) -> list[str]:
    """The sentences of one second at a place and an aware moment, under a sky of ``CONDITIONS``."""
    clock = f"{moment:%H%M%S}.00"
    fixed = state["quality"] >= 1
    where = f"{_degrees(place.lat_deg, 2, 'NS')},{_degrees(place.lon_deg, 3, 'EW')}" if fixed else ",,,"
    used = int(state["used"])
    satellites = [f"{number:02d}" for number in range(3, 3 + used)][:12]
    checklist_of = ",".join(satellites + [""] * (12 - len(satellites)))
    mode = 3 if fixed else 1
    gga = f"GNGGA,{clock},{where},{int(state['quality'])},{used:02d},{state['hdop']:.1f},12.0,M,45.0,M,,"
    gsa = f"GNGSA,A,{mode},{checklist_of},{state['pdop']:.1f},{state['hdop']:.1f},1.2"
    valid = "A" if fixed else "V"
    rmc = f"GNRMC,{clock},{valid},{where},{state['knots']:.2f},,{moment:%d%m%y},,,A"
    return [_line(gga), _line(gsa), _line(rmc)]


SIMULATOR = Simulator(
    interface=PositionReceiver,
    setting="receiver",
    make=SimulatedReceiver,
    title="GNSS receiver",
    use="Gives NMEA data where you stand.",
    conditions={key: words for key, (words, _) in CONDITIONS.items()},
    absent="No receiver is connected. Paste NMEA data or choose a file.",
)
