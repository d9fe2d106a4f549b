"""Where practitioners differ: the methods a pilot can follow, and why the others choose differently."""

from dataclasses import dataclass
from enum import StrEnum

from pydantic import model_validator

from walkround.core.base.errors import InputError
from walkround.core.base.value import Value


class MethodTopic(StrEnum):
    """Topics on which practitioners differ."""

    CHARGE = "charge"
    SATELLITES = "satellites"
    COMPASS = "compass"
    FIRMWARE = "firmware"
    ROUND = "round"
    PROPELLERS = "propellers"
    LAUNCH = "launch"
    LOST_LINK = "lost_link"
    VIDEO_POWER = "video_power"
    PAYLOAD_WIFI = "payload_wifi"
    PAPER = "paper"


@dataclass(frozen=True, slots=True, kw_only=True)
class Method:
    """One method: its name, what it does, why others choose differently, and (check, words) of what it judges otherwise."""

    id: str
    label: str
    does: str
    others: str
    alters: tuple[tuple[str, str], ...] = ()


METHODS: dict[MethodTopic, tuple[str, tuple[Method, ...]]] = {
    MethodTopic.CHARGE: (
        "Charge",
        (
            Method(
                id="full",
                label="Full or nearly, before every launch",
                does="A pack below 4.13 V a cell is charged again first.",
                alters=(("pack.cells", "a cell below 4.13 V is a caution, below 4.00 V grounds"),),
                others="Others say a half-hour hop does not need a full pack, and packs age when they wait full.",
            ),
            Method(
                id="plan",
                label="Enough for the plan",
                does="The planned flight may use at most half of what the pack holds now.",
                alters=(("pack.plan", "more than half of the pack grounds"),),
                others="Others top up every time, because the pack that only had to do a quick hop is the classic loss.",
            ),
            Method(
                id="volts",
                label="By volts",
                does="On three cells: 12.4 V flies, 12.0 to 12.4 V is recharged unless it is the second short hop, below 12.0 V stays down.",
                alters=(("pack.cells", "below 12.4 V on three cells it is recharged, but for the second short hop"),),
                others="Others trust per cent or the plan more than a resting voltage.",
            ),
        ),
    ),
    MethodTopic.SATELLITES: (
        "Satellites",
        (
            Method(
                id="ten",
                label="Ten, and dilution below 2",
                does="Ten satellites or more and a dilution below 2.0 before home is set.",
                alters=(("sensors.satellites", "at least 10 satellites"),),
                others="Others go with the published minimum of four, or with the aircraft's own ready state.",
            ),
            Method(
                id="four",
                label="Four, the published minimum",
                does="At least four satellites; dilution still below 2.0.",
                alters=(("sensors.satellites", "at least 4 satellites"),),
                others="Others want ten, because four can be lost behind one tree.",
            ),
            Method(
                id="ready",
                label="Ready state only",
                does="As many as the aircraft wants; only its ready state counts.",
                alters=(("sensors.satellites", "as many as the aircraft wants"),),
                others="Others do not trust a lamp and read the numbers.",
            ),
        ),
    ),
    MethodTopic.COMPASS: (
        "Compass calibration",
        (
            Method(
                id="due",
                label="When it is due",
                does="After far travel, firmware, a crash, or when the aircraft asks.",
                others="Others calibrate at every new site, because each place has its own iron.",
            ),
            Method(
                id="site",
                label="At every new site",
                does="Once at each field that differs from the last calibration's.",
                others="Others say needless calibrations near unseen metal do harm.",
            ),
            Method(
                id="day",
                label="Every day",
                does="First launch of each day.",
                others="Others say a good calibration is best left alone.",
            ),
        ),
    ),
    MethodTopic.FIRMWARE: (
        "Firmware",
        (
            Method(
                id="critical",
                label="Critical fixes only",
                does="Read the notes; apply what touches compass, inertial unit, vision or battery; else wait two weeks.",
                others="Others always run the latest, so that support and packs agree.",
            ),
            Method(
                id="latest",
                label="Latest always",
                does="Updated at home before flying.",
                others="Others say most fly-aways follow an update.",
                alters=(("bench.firmware", "a waiting update is a caution"),),
            ),
            Method(
                id="technician",
                label="By a technician, then recheck everything",
                does="Somebody trained puts it on; you recheck the work sheet and walk the whole list.",
                others="Others say nobody else knows how yours was set.",
            ),
        ),
    ),
    MethodTopic.ROUND: (
        "Second launch of the day",
        (
            Method(
                id="every",
                label="The whole launch list, every launch",
                does="All launch checks again; only the day's checks are left out.",
                others="Others keep the short list after the first launch, so that it is really walked.",
            ),
            Method(
                id="short",
                label="Once a day, then the short list",
                does="After the first launch only propellers, pack, controls, home point and the gates.",
                others="Others say the second launch is when the pack creeps out.",
            ),
        ),
    ),
    MethodTopic.PROPELLERS: (
        "Propellers at each launch",
        (
            Method(
                id="on",
                label="Feel and spin them, on the motor",
                does="Fingertip along each edge, then a turn by hand; off the motor at season start.",
                others="Others take them off each time, because hub and lugs crack where nobody sees.",
            ),
            Method(
                id="off",
                label="Take them off and look",
                does="Each propeller off, both sides to the light, back on its motor.",
                others="Others say every refitting is a chance to fit one wrongly.",
            ),
        ),
    ),
    MethodTopic.LAUNCH: (
        "Launch",
        (
            Method(
                id="mat",
                label="From a mat",
                does="A mat tells people, keeps dust away and gives the down camera a target.",
                others="Others say a mat that blows up into the blades is worse than dust.",
            ),
            Method(
                id="hard",
                label="From hard ground",
                does="Swept, level, firm ground.",
                others="Others carry their own clean ground with them.",
                alters=(("field.surface_rotor", "hard ground is what you look for"),),
            ),
            Method(
                id="hand",
                label="From the hand",
                does="Held from below with a stretched arm, with its own caution.",
                others="Others say no flight is worth a hand near running blades.",
            ),
        ),
    ),
    MethodTopic.LOST_LINK: (
        "Lost link, wing",
        (
            Method(
                id="circle",
                label="Cut and circle",
                does="Throttle off, gentle turn: it comes down near you.",
                alters=(("link.lost_action_wing", "a straight glide is a caution"),),
                others="Others let it glide straight, to keep the wing from spiralling.",
            ),
            Method(
                id="glide",
                label="Cut and glide",
                does="Throttle off, surfaces neutral.",
                alters=(("link.lost_action_wing", "a circle is a caution"),),
                others="Others circle, because a straight glide carries it out of sight.",
            ),
        ),
    ),
    MethodTopic.VIDEO_POWER: (
        "Video power",
        (
            Method(
                id="moderate",
                label="Moderate",
                does="About 600 to 700 mW where that is legal; more only overheats.",
                others="Others want every bit of range the law gives.",
                alters=(("power.video_power", "full power is a caution"),),
            ),
            Method(
                id="maximum",
                label="The most the law allows",
                does="As much as the law and the cooling allow.",
                others="Others say the control link outlives the picture anyway.",
                alters=(("power.video_power", "full power is clear"),),
            ),
        ),
    ),
    MethodTopic.PAYLOAD_WIFI: (
        "Payload with its own wireless network",
        (
            Method(
                id="off",
                label="Off",
                does="Nothing that transmits flies beside the receiver.",
                others="Others have tested theirs and want the live picture.",
                alters=(("power.payload_wifi", "a tested network is a caution"),),
            ),
            Method(
                id="trusted",
                label="Tested and trusted",
                does="On, once it has passed a range check with this link.",
                others="Others say it was tested on another day, with other phones about.",
                alters=(("power.payload_wifi", "a tested network is clear"),),
            ),
        ),
    ),
    MethodTopic.PAPER: (
        "List in hand",
        (
            Method(
                id="hand",
                label="Always the list in hand",
                does="Each check is read, done, answered; then the next.",
                others="Others walk from memory and use the list to catch what they left out.",
            ),
            Method(
                id="audit",
                label="From memory, the list as audit",
                does="Walk a station by heart, then go down its list and answer what you really did.",
                others="Others say memory skips under excitement, and an audit believes memory.",
            ),
        ),
    ),
}


class ChosenMethods(Value):
    """The methods this pilot follows, one id for each topic."""

    charge: str = "full"
    satellites: str = "ten"
    compass: str = "due"
    firmware: str = "critical"
    round: str = "every"
    propellers: str = "on"
    launch: str = "mat"
    lost_link: str = "circle"
    video_power: str = "moderate"
    payload_wifi: str = "off"
    paper: str = "hand"

    @model_validator(mode="after")
    def known(self) -> "ChosenMethods":
        """Refuse a method nobody follows."""
        for topic, (label, methods) in METHODS.items():
            if getattr(self, topic.value) not in {method.id for method in methods}:
                raise InputError(f"{label}: that method is not known.", topic.value)
        return self

    def method(self, topic: MethodTopic) -> Method:
        """The chosen method of a topic."""
        return next(s for s in METHODS[topic][1] if s.id == getattr(self, topic.value))
