"""Where practitioners differ: the methods a pilot can follow, and why the others choose differently."""

from enum import StrEnum

from walkround.core.base.errors import InputError
from walkround.core.base.struct import Struct
from walkround.core.base.value import Value, whole


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
    FAILSAFE_TEST = "failsafe_test"
    VIDEO_POWER = "video_power"
    PAYLOAD_WIFI = "payload_wifi"
    PAPER = "paper"


class Method(Struct, frozen=True, kw_only=True):
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
                label="Full or nearly full before every launch",
                does="Recharge a pack below 4.13 V per cell first.",
                alters=(("pack.cells", "a cell below 4.13 V is a caution, below 4.00 V it grounds"),),
                others="Others say a short flight does not need a full pack, and full packs age faster.",
            ),
            Method(
                id="plan",
                label="Enough for the plan",
                does="The planned flight may use at most half of the present charge.",
                alters=(("pack.plan", "more than half of the pack grounds"),),
                others="Others top up every time, because most losses begin with a pack “good for one more hop”.",
            ),
            Method(
                id="volts",
                label="By voltage",
                does="On three cells: fly from 12.4 V, below that only for a second short hop, and never below 12.0 V.",
                alters=(("pack.cells", "below 12.4 V on three cells recharge, except for the second short hop"),),
                others="Others trust the percentage or the plan more than a resting voltage.",
            ),
        ),
    ),
    MethodTopic.SATELLITES: (
        "Satellites",
        (
            Method(
                id="ten",
                label="Ten, and HDOP below 2",
                does="Ten satellites or more and an HDOP below 2.0 before home is set.",
                alters=(("sensors.satellites", "at least 10 satellites"),),
                others="Others go with the published minimum of four, or with the aircraft's own ready state.",
            ),
            Method(
                id="four",
                label="Four, the published minimum",
                does="At least four satellites, and HDOP still below 2.0.",
                alters=(("sensors.satellites", "at least 4 satellites"),),
                others="Others want ten, because one tree can hide four.",
            ),
            Method(
                id="ready",
                label="Ready state only",
                does="As many as the aircraft needs. Only its ready state counts.",
                alters=(("sensors.satellites", "as many as the aircraft needs"),),
                others="Others do not trust an LED and read the numbers.",
            ),
        ),
    ),
    MethodTopic.COMPASS: (
        "Compass calibration",
        (
            Method(
                id="due",
                label="When it is due",
                does="After a long journey, a firmware update or a crash, or when the aircraft asks for it.",
                others="Others calibrate at every new field, because the Earth's field differs.",
            ),
            Method(
                id="site",
                label="At every new site",
                does="Once at each field other than that of the last calibration.",
                others="Others say an unnecessary calibration near hidden metal does harm.",
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
                does="Read the notes. Install fixes for compass, IMU, vision or battery; otherwise wait two weeks.",
                others="Others always run the latest version, so that all parts match.",
            ),
            Method(
                id="latest",
                label="Latest always",
                does="Update at home before flying.",
                others="Others say most fly-aways follow an update.",
                alters=(("bench.firmware", "a waiting update is a caution"),),
            ),
            Method(
                id="technician",
                label="By a technician, then recheck everything",
                does="A technician installs it. You recheck the work sheet and do every check.",
                others="Others say nobody else knows your settings.",
            ),
        ),
    ),
    MethodTopic.ROUND: (
        "Length of the list",
        (
            Method(
                id="every",
                label="The full list, every launch",
                does="Every check that is due, whatever the day. After the first launch only the checks of the day are left out.",
                others="Others walk a list as long as the risk deserves, so that it really gets done.",
            ),
            Method(
                id="short",
                label="As long as the risk deserves",
                does="Mass, people, events, faults found and your flights with it decide. What is left out is listed with its reason.",
                others="Others say packs come loose on the second launch.",
            ),
        ),
    ),
    MethodTopic.PROPELLERS: (
        "Propellers at each launch",
        (
            Method(
                id="on",
                label="Check them on the motor",
                does="Run a fingertip along each edge and turn it by hand. Remove them at season start.",
                others="Others remove them each time, because hub and lugs crack where you cannot see it.",
            ),
            Method(
                id="off",
                label="Remove and check them",
                does="Remove each propeller, check both sides and refit it on its motor.",
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
                does="A mat shows people where it will land, and keeps dust away.",
                others="Others say a mat that blows into the blades is worse than dust.",
            ),
            Method(
                id="hard",
                label="From hard ground",
                does="Use clean, level, firm ground.",
                others="Others bring a mat.",
                alters=(("field.surface_rotor", "hard ground is the first choice"),),
            ),
            Method(
                id="hand",
                label="From the hand",
                does="Hold it from below with a stretched arm. A caution of its own applies.",
                others="Others say no flight is worth a hand near running propellers.",
            ),
        ),
    ),
    MethodTopic.LOST_LINK: (
        "Failsafe, fixed wing",
        (
            Method(
                id="circle",
                label="Cut and circle",
                does="Throttle off and a gentle turn: it comes down near you.",
                alters=(("link.lost_action_wing", "a straight glide is a caution"),),
                others="Others let it glide straight, so that it does not spiral.",
            ),
            Method(
                id="glide",
                label="Cut and glide",
                does="Throttle off and surfaces neutral.",
                alters=(("link.lost_action_wing", "a circle is a caution"),),
                others="Others circle, because a straight glide carries it out of sight.",
            ),
        ),
    ),
    MethodTopic.FAILSAFE_TEST: (
        "Failsafe test",
        (
            Method(
                id="daily",
                label="Short test on each flying day",
                does="Transmitter off once before the first launch, or RTH started and cancelled close by.",
                others="Others test on the bench only, because a motor may start beside you.",
            ),
            Method(
                id="bench",
                label="On the bench only",
                does="Propellers off, at season start and after every change.",
                others="Others have seen a receiver lose its settings over night.",
            ),
        ),
    ),
    MethodTopic.VIDEO_POWER: (
        "Video power",
        (
            Method(
                id="moderate",
                label="Moderate",
                does="About 600 to 700 mW where that is legal. More power mainly overheats it.",
                others="Others want all the range that the law allows.",
                alters=(("power.video_power", "full power is a caution"),),
            ),
            Method(
                id="maximum",
                label="The most the law allows",
                does="As much as the law and the cooling allow.",
                others="Others say the radio link lasts longer than the picture anyway.",
                alters=(("power.video_power", "full power is clear"),),
            ),
        ),
    ),
    MethodTopic.PAYLOAD_WIFI: (
        "Payload with its own Wi-Fi",
        (
            Method(
                id="off",
                label="Off",
                does="Nothing transmits close to the receiver.",
                others="Others have tested theirs and want the live picture.",
                alters=(("power.payload_wifi", "a tested network is a caution"),),
            ),
            Method(
                id="trusted",
                label="Tested and trusted",
                does="On, once it has passed a range check with this radio link.",
                others="Others say a test on another day proves little.",
                alters=(("power.payload_wifi", "a tested network is clear"),),
            ),
        ),
    ),
    MethodTopic.PAPER: (
        "Using the checklist",
        (
            Method(
                id="hand",
                label="Always read the list",
                does="Read each check, do it, answer it, then go on.",
                others="Others work from memory and use the list to catch omissions.",
            ),
            Method(
                id="audit",
                label="From memory, then the list",
                does="Do a station from memory, then go through its list and enter what you did.",
                others="Others say memory skips items in a hurry, and so does the review.",
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
    round: str = "short"
    propellers: str = "on"
    launch: str = "mat"
    lost_link: str = "circle"
    failsafe_test: str = "daily"
    video_power: str = "moderate"
    payload_wifi: str = "off"
    paper: str = "hand"

    @whole
    def known(self) -> "ChosenMethods":
        """Refuse a method nobody follows."""
        for topic, (label, methods) in METHODS.items():
            if getattr(self, topic.value) not in {method.id for method in methods}:
                raise InputError(f"{label}: that method is not known.", topic.value)
        return self

    def method(self, topic: MethodTopic) -> Method:
        """The chosen method of a topic."""
        return next(s for s in METHODS[topic][1] if s.id == getattr(self, topic.value))
