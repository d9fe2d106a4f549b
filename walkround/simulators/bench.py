"""Transmitter and receiver on the bench: what the outputs do once the signal is gone, right and wrong."""

from walkround.core.base.errors import DeviceError
from walkround.core.sensors.devices import BenchReading, LinkBench
from walkround.simulators.simulator import Simulator

CONDITIONS = {
    "right": "Failsafe acts as set",
    "slow": "Failsafe acts 4 s late",
    "silent": "Acts as set, the beeper stays silent",
    "on": "Motors keep running (fault)",
    "unplugged": "No receiver answers (fault)",
}
USUAL_DELAY_S, EVERY_S, BEEPS_AFTER_S = 1.2, 0.1, 1.0


class SimulatedLinkBench:
    """Implements ``core.devices.LinkBench``."""

    def __init__(self, condition: str = "right") -> None:
        self.condition = condition if condition in CONDITIONS else "right"

    def after_signal_loss(self, delay_s: float | None, seconds: float) -> tuple[BenchReading, ...]:
        """Readings after the signal is gone. Raises DeviceError when no receiver answers."""
        if self.condition == "unplugged":
            raise DeviceError("The receiver does not answer. Is its lead connected?")
        acts_s = (USUAL_DELAY_S if delay_s is None else delay_s) + (4.0 if self.condition == "slow" else 0.0)
        readings = []
        for i in range(int(seconds / EVERY_S) + 1):
            at_s = round(i * EVERY_S, 1)
            acted = self.condition != "on" and at_s >= acts_s
            beeps = acted and self.condition != "silent" and at_s >= acts_s + BEEPS_AFTER_S
            readings.append(BenchReading(at_s=at_s, acted=acted, beeper=beeps))
        return tuple(readings)


SIMULATOR = Simulator(
    interface=LinkBench,
    setting="link_bench",
    make=SimulatedLinkBench,
    title="Transmitter and receiver",
    use="Times the failsafe on the bench.",
    conditions=CONDITIONS,
    absent="No receiver is connected. Enter the seconds yourself.",
)
