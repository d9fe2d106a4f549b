"""A helicopter close up: blades from above, the rotor head from the side, inside, cabin and tail."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.part_list import motor_id
from walkround.core.aircraft.traits import Frame, Trait
from walkround.core.inspection.close_up.strokes import Point, Stroke, blade, box, line, ring, shape

Drawn = tuple[list[Stroke], dict[str, Point]]


def _rotors(a: Aircraft) -> tuple[str, ...]:
    return ("upper", "lower") if a.frame is Frame.COAXIAL_ROTOR else ("main",)


def blades(a: Aircraft) -> Drawn:
    """Rotor blades from above, one rotor over the other."""
    strokes: list[Stroke] = []
    places: dict[str, Point] = {}
    rows = _rotors(a)
    for which, y in zip(rows, (96.0, 214.0) if len(rows) > 1 else (150.0,), strict=True):
        strokes += [
            blade((158, y), (8, y), 13, straight=True),
            blade((202, y), (352, y), 13, straight=True),
            box(180, y, 24, 9, role="metal"),
            ring(180, y, 7),
        ]
        places |= {f"{which}-rotor/blade-1": (70, y), f"{which}-rotor/blade-2": (290, y)}
    return strokes, places


def head(a: Aircraft) -> Drawn:
    """The rotor head from the side, from the flybar down to the servo links."""
    rows = _rotors(a)
    strokes = [box(180, 160, 5, 132, role="metal", round_=2)]
    places: dict[str, Point] = {"swashplate/main-shaft": (180, 176)}
    for which, y in zip(rows, (70.0, 132.0) if len(rows) > 1 else (84.0,), strict=True):
        strokes += [box(180, y, 22, 11, role="metal")]
        for s in (-1, 1):
            strokes += [
                box(180 + s * 50, y, 28, 8, role="body", round_=3),
                blade((180 + s * 78, y), (180 + s * 172, y + 2), 7, straight=True),
                ring(180 + s * 66, y, 4),
            ]
        places |= {f"{which}-rotor": (180, y), f"{which}-rotor/grip-1": (122, y), f"{which}-rotor/grip-2": (238, y)}
    if len(rows) > 1:
        places["swashplate/inner-shaft"] = (180, 102)
        strokes.append(box(180, 100, 3, 22, role="metal", round_=1))
    if a.has(Trait.FLYBAR):
        strokes += [
            line((60, 34), (300, 34), role="metal"),
            ring(56, 34, 9, 6),
            ring(304, 34, 9, 6),
            line((180, 34), (180, 60)),
        ]
        places["swashplate/flybar"] = (226, 34)
    low = rows[-1]
    y = places[f"{low}-rotor"][1]
    strokes += [ring(180, 208, 56, 9), ring(180, 224, 64, 10)]
    for number, s in ((1, -1), (2, 1)):
        strokes += [
            line((180 + s * 46, y + 8), (180 + s * 50, 204), role="metal"),
            ring(180 + s * 46, y + 8, 5),
            ring(180 + s * 50, 204, 5),
        ]
        places[f"swashplate/link-{number}"] = (180 + s * 48, (y + 206) / 2 + 8)
    for number, x in ((1, 120), (2, 180), (3, 240)):
        strokes += [line((x, 232), (x, 288), role="metal"), ring(x, 232, 5), ring(x, 286, 5)]
        places[f"swashplate/servo-link-{number}"] = (x, 270)
    places |= {"swashplate/upper-half": (232, 208), "swashplate": (120, 224)}
    return strokes, places


def cabin(a: Aircraft) -> Drawn:
    """Inside, from the side: motors, gears, bearings, servos, receiver."""
    strokes = [box(180, 150, 172, 140, round_=24), box(180, 150, 4, 138, role="metal", round_=1)]
    places: dict[str, Point] = {
        "swashplate/bearings": (180, 40),
        "body/receiver": (290, 250),
        "body/wires": (240, 250),
        "body/standoffs": (320, 190),
        "fuel": (60, 60),
        "fuel/lines": (110, 40),
    }
    strokes += [box(180, 40, 16, 9, role="metal"), box(290, 250, 26, 16, role="metal", round_=2)]
    if a.has(Trait.LIQUID_FUEL):
        strokes += [box(60, 62, 30, 22, role="pack"), Stroke("thin", "M90,62 C120,50 120,90 110,120")]
    if a.has(Trait.SELF_BUILT):
        strokes.append(Stroke("wire", "M264,250 C244,236 236,262 216,250"))
    for number in range(1, a.rotors + 1):
        y = 110.0 + 84 * (number - 1)
        motor = motor_id(number)
        strokes += [
            ring(196, y, 44, 9),
            box(98, y + 26, 22, 26, role="metal"),
            line((98, y), (98, y - 12), role="metal"),
            ring(112, y - 6, 12, 5),
        ]
        places |= {
            motor: (98, y + 36),
            f"{motor}/shaft": (98, y - 8),
            f"{motor}/mount": (60, y + 30),
            f"{motor}/gear": (220, y),
            f"{motor}/muffler": (40, y + 60),
        }
    for number, (x, y) in enumerate(((270, 60), (312, 118), (290, 180)), 1):
        strokes += [box(x, y, 20, 13, role="metal", round_=2), ring(x + 8, y, 5)]
        places[f"swashplate/servo-{number}"] = (x, y)
    return strokes, places


def body(a: Aircraft) -> Drawn:
    """The cabin from the side, nose left."""
    strokes = [
        Stroke(
            "body",
            "M16,170 C20,110 80,78 150,80 C210,82 240,120 300,138 L352,146 L352,160 L250,190 C190,226 50,230 16,170Z",
        )
    ]
    strokes += [
        Stroke("thin", "M150,80 C120,110 116,170 150,214"),
        ring(150, 96, 4),
        ring(146, 206, 4),
        *(line((216 + 9 * i, 160), (216 + 9 * i, 174)) for i in range(4)),
    ]
    strokes += [
        box(84, 180, 40, 16, role="pack"),
        box(88, 180, 7, 24, role="band", round_=3),
        line((96, 222), (86, 262)),
        line((210, 206), (218, 262)),
        line((40, 266), (280, 266), role="metal"),
        line((300, 140), (332, 84), role="wire"),
    ]
    if a.has(Trait.CAMERA):
        strokes += [box(36, 224, 14, 12, role="metal"), ring(20, 226, 8)]
    if a.has(Trait.PAYLOAD):
        strokes += [
            box(152, 244, 30, 16, role="pack"),
            line((136, 226), (136, 262), role="band"),
            line((168, 226), (168, 262), role="band"),
        ]
    return strokes, {
        "body": (190, 130), "body/canopy": (84, 116), "body/vents": (230, 166), "pack-strap": (88, 182), "wheels/left": (90, 258), "wheels/right": (232, 258),
        "antennas": (318, 108), "antennas/video": (340, 90), "gimbal": (40, 222), "gimbal/lens": (18, 228), "payload": (136, 244), "payload/second": (168, 244),
    }  # fmt: skip


def tail(a: Aircraft) -> Drawn:
    """The tail boom from the side, nose left."""
    strokes = [
        box(150, 160, 150, 8, round_=4),
        shape((180, 152), (220, 84), (246, 84), (240, 152)),
        shape((180, 168), (214, 232), (236, 232), (236, 168)),
    ]
    places: dict[str, Point] = {"tail": (96, 160), "tail/fin": (222, 112)}
    if a.frame is Frame.SINGLE_ROTOR:
        strokes += [
            blade((312, 148), (312, 44), 9, straight=True),
            blade((312, 172), (312, 276), 9, straight=True),
            box(312, 160, 14, 12, role="metal"),
            ring(312, 160, 5),
            line((20, 176), (290, 176), role="metal"),
        ]
        places |= {
            "tail-rotor/blade-1": (312, 80),
            "tail-rotor/blade-2": (312, 244),
            "tail-rotor": (312, 160),
            "tail-rotor/drive": (150, 180),
        }
    return strokes, places
