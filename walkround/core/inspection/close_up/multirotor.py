"""A multi-rotor close up: an arm from the side, the body from above and from below. A racing frame is of plates, with straight blades and a tilted camera."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.part_list import arm_id, motor_id, propeller_id
from walkround.core.aircraft.rotors import Rotor, rotor_layout
from walkround.core.aircraft.traits import Trait
from walkround.core.inspection.close_up.strokes import Point, Stroke, blade, box, line, ring, shape

Drawn = tuple[list[Stroke], dict[str, Point]]
HUB_X = 262.0


def arm(a: Aircraft, number: int) -> Drawn:
    """An arm from the side, body on the left: what turns is on top, of coaxial pairs below too."""
    rotors = [r for r in rotor_layout(a) if (r.number - 1) % a.arms + 1 == number]
    both = len(rotors) > 1
    y = 152.0 if both else 236.0
    plates = a.has(Trait.RACING) or a.has(Trait.SELF_BUILT)
    strokes = [shape((0, y - 46), (38, y - 40), (60, y - 14), (60, y + 14), (38, y + 34), (0, y + 38))]
    if plates:
        strokes += [box(170, y - 3, 112, 3, role="metal", round_=2), box(170, y + 4, 112, 3, round_=2)]
    else:
        strokes.append(shape((58, y - 12), (240, y - 7), (284, y - 8), (284, y + 7), (240, y + 7), (58, y + 13)))
    places: dict[str, Point] = {arm_id(number): (165, y)}
    if a.has(Trait.FOLDING):
        strokes += [ring(84, y, 13), line((84, y - 9), (84, y + 9))]
        places[f"{arm_id(number)}/latch"] = (84, y)
    for rotor, up in zip(rotors, (-1, 1), strict=False):
        strokes += _rotor(a, rotor, y, up, 0.62 if both else 1.0, places)
    if a.has(Trait.GUARDS):
        top = y - (118 if both else 188)
        strokes.append(line((150, top + 24), (150, top), (354, top), (354, top + 24), role="guard"))
        places[f"guards/{number}"] = (160, top)
    return strokes, places


def _rotor(a: Aircraft, rotor: Rotor, y: float, up: int, tall: float, places: dict[str, Point]) -> list[Stroke]:
    def at(height: float) -> float:
        return y + up * height * tall

    motor, propeller = motor_id(rotor.number), propeller_id(rotor.number)
    straight = a.has(Trait.RACING)
    strokes = [
        box(HUB_X, at(18), 26, 7 * tall + 2, role="metal"),
        box(HUB_X, at(62), 34, 26 * tall, role="metal"),
        *(line((HUB_X + x, at(42)), (HUB_X + x, at(82))) for x in (-20, -7, 7, 20)),
        box(HUB_X, at(112), 4, 22 * tall, role="metal", round_=1),
        blade((HUB_X - 14, at(150)), (150, at(156)), 12, straight=straight),
        blade((HUB_X + 14, at(150)), (356, at(156)), 12, straight=straight),
        box(HUB_X, at(150), 15, 9 * tall + 2, role="metal", round_=3),
    ]
    if a.has(Trait.LOCK_NUT):
        strokes.append(
            shape(
                (HUB_X - 9, at(166)), (HUB_X + 9, at(166)), (HUB_X + 11, at(174)), (HUB_X - 11, at(174)), role="metal"
            )
        )
    if a.has(Trait.FOLDING_BLADES):
        strokes += [ring(HUB_X - 24, at(152), 5), ring(HUB_X + 24, at(152), 5)]
    places |= dict.fromkeys((f"{propeller}/{held}" for held in ("lugs", "nut", "screws", "hub")), (HUB_X, at(160)))
    places |= {
        f"{propeller}/blade-1": (188, at(155)), f"{propeller}/blade-2": (322, at(155)),
        motor: (HUB_X + 22, at(62)), f"{motor}/shaft": (HUB_X, at(112)), f"{motor}/mount": (HUB_X - 14, at(20)),
        f"{motor}/muffler": (HUB_X + 50, at(50)),
    }  # fmt: skip
    return strokes


def top(a: Aircraft) -> Drawn:
    """The body from above, nose up."""
    racing = a.has(Trait.RACING)
    if racing:
        plate = (
            (136, 40),
            (224, 40),
            (232, 96),
            (206, 150),
            (232, 214),
            (222, 270),
            (138, 270),
            (128, 214),
            (154, 150),
            (128, 96),
        )
        strokes = [
            shape(*plate),
            box(180, 58, 17, 20, role="metal"),
            ring(180, 44, 9),
        ]
    else:
        strokes = [
            Stroke(
                "body",
                "M180,24 C210,24 224,58 226,116 C228,186 214,266 180,274 C146,266 132,186 134,116 C136,58 150,24 180,24Z",
            )
        ]
    strokes = [*_stubs(7 if racing else 11), *strokes]
    strokes += [box(180, 186, 34, 56, role="pack"), box(180, 194, 62 if racing else 48, 9, role="band", round_=3)]
    strokes += [line((x, 84), (x, 102)) for x in (150, 160, 170, 180, 190, 200, 210)]
    if a.has(Trait.OBSTACLE_SENSORS):
        strokes += [ring(164, 38, 6), ring(196, 38, 6)]
    if a.has(Trait.LIQUID_FUEL):
        strokes += [box(180, 84, 22, 18, role="pack"), Stroke("thin", "M202,84 C232,84 236,110 226,130")]
    if a.has(Trait.SELF_BUILT):
        strokes += [ring(x, y, 5) for x, y in ((144, 66), (216, 66), (144, 252), (216, 252))]
        strokes.append(Stroke("wire", "M206,96 C250,110 214,140 246,150 C262,156 250,190 268,206"))
    strokes += [line((140, 262), (104, 292), role="wire"), line((220, 262), (256, 292), role="wire")]
    if a.has(Trait.VIDEO_LINK):
        strokes += [line((180, 274), (180, 292), role="wire"), ring(180, 292, 5, 4)]
    return strokes, {
        "body": (180, 48), "body/vents": (180, 94), "pack-strap": (180, 194), "body/standoffs": (216, 66), "body/wires": (246, 150),
        "antennas/left": (112, 286), "antennas/right": (248, 286), "antennas/video": (180, 290), "body/sensors-front": (180, 38),
        "fuel": (180, 84), "fuel/lines": (228, 104),
    }  # fmt: skip


def _stubs(half: float) -> list[Stroke]:
    """Where the arms leave the body, two a side."""
    return [
        shape(
            (180 + s * 30, y0 - half), (180 + s * 172, y1 - half), (180 + s * 172, y1 + half), (180 + s * 30, y0 + half)
        )
        for s in (-1, 1)
        for y0, y1 in ((118, 34), (182, 262))
    ]


def under(a: Aircraft) -> Drawn:
    """The underside, nose up, so that left is on the right: camera, downward sensors, legs, payload."""
    strokes = [
        Stroke(
            "body",
            "M180,24 C210,24 224,58 226,116 C228,186 214,266 180,274 C146,266 132,186 134,116 C136,58 150,24 180,24Z",
        )
    ]
    strokes = [*_stubs(11), *strokes]
    if a.has(Trait.CAMERA):
        if a.has(Trait.GIMBAL_CAMERA):
            strokes += [
                line((150, 66), (150, 96), (210, 96), (210, 66), role="metal"),
                box(180, 78, 24, 18, role="metal"),
            ]
        else:
            strokes += [shape((156, 92), (204, 92), (198, 60), (162, 60), role="metal")]
        strokes += [ring(180, 58, 11), ring(180, 58, 5, role="thin")]
    if a.has(Trait.OBSTACLE_SENSORS):
        strokes += [ring(166, 160, 8), ring(194, 160, 8)]
    if a.has(Trait.LEGS):
        for s in (-1, 1):
            strokes += [
                box(180 + s * 92, 154, 5, 98, role="metal"),
                line((180 + s * 58, 100), (180 + s * 92, 92)),
                line((180 + s * 58, 208), (180 + s * 92, 220)),
            ]
    if a.has(Trait.PAYLOAD):
        strokes += [
            box(180, 218, 30, 24, role="pack"),
            line((146, 206), (214, 206), role="band"),
            line((146, 230), (214, 230), role="band"),
        ]
    return strokes, {
        "gimbal": (196, 92), "gimbal/lens": (180, 58), "body/sensors-below": (180, 160), "wheels/left": (272, 154), "wheels/right": (88, 154),
        "payload": (160, 206), "payload/second": (202, 230),
    }  # fmt: skip
