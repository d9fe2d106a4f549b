"""A fixed wing close up: nose, wing panels, joint, fuselage, inside, tail and wheels."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.control_directions import surfaces
from walkround.core.aircraft.part_list import motor_id, propeller_id
from walkround.core.aircraft.traits import Trait
from walkround.core.inspection.close_up.strokes import Point, Stroke, blade, box, line, mirrored, ring, shape

Drawn = tuple[list[Stroke], dict[str, Point]]


def nose(a: Aircraft, number: int) -> Drawn:
    """Propeller, spinner and motor from the side; a pusher looks the other way."""
    y = 150.0
    strokes = [
        shape((196, y - 62), (360, y - 76), (360, y + 76), (196, y + 58)),
        box(198, y, 5, 44, role="metal", round_=2),
        box(98, y, 26, 5, role="metal", round_=1),
        blade((66, y - 12), (60, 16), 13, straight=False),
        blade((66, y + 12), (60, 284), 13, straight=False),
        Stroke("body", f"M66,{y - 24} C38,{y - 22} 22,{y - 8} 18,{y} C22,{y + 8} 38,{y + 22} 66,{y + 24}Z"),
        box(74, y, 7, 15, role="metal", round_=2),
    ]
    motor, propeller = motor_id(number), propeller_id(number)
    if a.has(Trait.LIQUID_FUEL):
        strokes += [box(156, y, 34, 26, role="metal"), box(156, y - 52, 20, 28, role="metal", round_=2)]
        strokes += [line((132, y - 66 + 9 * i), (180, y - 66 + 9 * i)) for i in range(5)]
        strokes += [
            Stroke(
                "metal",
                f"M172,{y + 24} C190,{y + 60} 240,{y + 62} 300,{y + 66} L300,{y + 48} C250,{y + 44} 210,{y + 40} 188,{y + 20}Z",
            )
        ]
    else:
        strokes += [
            box(152, y, 36, 34, role="metal"),
            *(line((126 + 13 * i, y - 26), (126 + 13 * i, y + 26)) for i in range(5)),
        ]
    places: dict[str, Point] = {
        f"{propeller}/blade-1": (62, 60), f"{propeller}/blade-2": (62, 240), f"{propeller}/spinner": (34, y),
        f"{motor}/shaft": (106, y), motor: (152, y), f"{motor}/mount": (200, y + 20), f"{motor}/muffler": (258, y + 54),
    }  # fmt: skip
    places |= dict.fromkeys((f"{propeller}/{held}" for held in ("lugs", "nut", "screws", "hub")), (78, y + 8))
    if a.has(Trait.PUSHER):
        turned, places = mirrored(tuple(strokes), places)
        strokes = list(turned)
    return strokes, places


def panel(a: Aircraft, side: str) -> Drawn:
    """A wing panel from above, nose up: the left one has its tip on the left."""
    swept = not a.has(Trait.TAIL)
    strokes = [shape((20, 110 if swept else 66), (352, 40), (352, 196), (20, 236 if swept else 206))]
    places: dict[str, Point] = {f"wing/{side}": (250, 84), f"wing/{side}-lead": (334, 120), f"tail/{side}": (26, 170)}
    if swept:
        strokes.append(box(24, 178, 4, 50, role="metal"))
    strokes.append(Stroke("wire", "M352,120 C330,108 320,140 300,128"))
    for surface in surfaces(a):
        if surface.side != side or "tail" in surface.part:
            continue
        flap = surface.kind == "flap"
        x0, x1 = (206, 326) if flap else (44, 190)
        y = 204.0 if flap else 212.0
        middle = (x0 + x1) / 2
        strokes += [
            box(middle, y + 14, (x1 - x0) / 2, 17, role="moving", round_=3),
            *(box(x, y - 3, 5, 4, role="metal", round_=1) for x in (x0 + 18, x1 - 18)),
        ]
        strokes += [
            box(middle - 6, y - 76, 17, 14, role="metal", round_=2),
            line((middle + 6, y - 64), (middle + 10, y - 12)),
            shape((middle + 2, y - 2), (middle + 18, y - 2), (middle + 10, y - 18), role="metal"),
        ]
        part = surface.part
        places |= {
            part: (x1 - 30, y + 18),
            f"{part}/hinge": (x0 + 18, y - 3),
            f"{part}/horn": (middle + 10, y),
            f"{part}/clevis": (middle + 9, y - 30),
            f"{part}/servo": (middle - 6, y - 76),
        }
    if side == "right":
        turned, places = mirrored(tuple(strokes), places)
        strokes = list(turned)
    return strokes, places


def joint(a: Aircraft) -> Drawn:
    """Where the panels meet, from above: bands over dowels, bolts, or a joiner."""
    strokes = [
        box(180, 150, 48, 148, round_=20),
        shape((0, 74), (360, 74), (360, 214), (0, 214), role="wing"),
        line((180, 74), (180, 214)),
    ]
    places: dict[str, Point] = {"wing": (180, 150)}
    if a.has(Trait.BANDS):
        strokes += [box(180, y, 66, 5, role="metal", round_=4) for y in (46, 246)]
        for x in (-56, -30, 30, 56):
            strokes.append(line((180 + x, 46), (180 - x, 246), role="band"))
        return strokes, places | {
            "wing-joint": (230, 110),
            "wing-joint/front-dowel": (124, 46),
            "wing-joint/rear-dowel": (236, 246),
        }
    if a.has(Trait.BOLTS):
        for y in (96, 196):
            strokes += [ring(180, y, 10), line((174, y), (186, y))]
        return strokes, places | {"wing-joint": (180, 96), "wing-joint/rear": (180, 196)}
    strokes.append(box(180, 112, 96, 5, role="metal", round_=4))
    return strokes, places | {"wing-joint": (236, 112)}


def body(a: Aircraft) -> Drawn:
    """The fuselage from the side, nose left; of a flying wing its pod."""
    strokes = [Stroke("body", "M14,160 C30,118 96,96 170,96 L352,132 L352,160 L190,206 C110,214 36,206 14,160Z")]
    strokes += [
        Stroke("thin", "M76,114 C96,100 148,96 168,98 L160,122 L84,128Z"),
        *(line((64 + 9 * i, 176), (64 + 9 * i, 190)) for i in range(4)),
    ]
    strokes.append(line((262, 114), (286, 44), role="wire"))
    if a.has(Trait.CAMERA):
        strokes += [box(58, 218, 20, 16, role="metal"), ring(36, 222, 10)]
    if a.has(Trait.PAYLOAD):
        strokes += [
            box(176, 232, 38, 22, role="pack"),
            line((150, 208), (150, 256), role="band"),
            line((202, 204), (202, 256), role="band"),
        ]
    return strokes, {
        "body": (236, 160), "body/hatch": (122, 112), "body/vents": (78, 184), "antennas": (274, 80), "antennas/video": (290, 56),
        "gimbal": (66, 222), "gimbal/lens": (36, 222), "payload": (150, 232), "payload/second": (202, 232),
    }  # fmt: skip


def cabin(a: Aircraft) -> Drawn:
    """Inside the fuselage from above, nose left: pack, receiver, servos, pushrods, tank."""
    strokes = [Stroke("body", "M14,150 C18,70 60,44 120,44 L352,80 L352,220 L120,256 C60,256 18,230 14,150Z")]
    strokes += [
        box(92, 100, 46, 24, role="pack"),
        box(96, 100, 8, 32, role="band", round_=3),
        box(206, 100, 26, 16, role="metal", round_=2),
    ]
    strokes += [line((184 + 9 * i, 84), (184 + 9 * i, 74)) for i in range(5)]
    if a.has(Trait.LIQUID_FUEL):
        strokes += [box(82, 206, 40, 22, role="pack"), Stroke("thin", "M42,206 C20,206 24,180 16,160")]
    if a.has(Trait.SELF_BUILT):
        strokes.append(Stroke("wire", "M232,100 C262,90 262,130 290,120"))
    places: dict[str, Point] = {
        "pack-strap": (96, 104), "body/receiver": (206, 96), "body/wires": (264, 108), "body/standoffs": (136, 60), "fuel": (82, 206), "fuel/lines": (30, 190),
    }  # fmt: skip
    behind = [s for s in surfaces(a) if not s.side or "tail" in s.part]
    for i, surface in enumerate(behind):
        y = 150.0 + 54 * i
        strokes += [
            box(196, y, 20, 13, role="metal", round_=2),
            ring(208, y, 6),
            line((208, y - 5), (352, y - 8 + 6 * i)),
        ]
        places |= {f"{surface.part}/servo": (192, y), f"{surface.part}/pushrod": (290, y - 6)}
    return strokes, places


def tail(a: Aircraft) -> Drawn:
    """The tail from the side, nose left; of a V-tail both panels from behind."""
    found = {s.part for s in surfaces(a) if not s.side or "tail" in s.part}
    strokes: list[Stroke] = []
    places: dict[str, Point] = {}
    if a.has(Trait.V_TAIL):
        strokes += [
            ring(180, 226, 26, role="body"),
            shape((172, 206), (40, 56), (62, 44), (190, 196)),
            shape((188, 206), (320, 56), (298, 44), (170, 196)),
        ]
        places["tail"] = (180, 226)
        # What a V-tail may have besides sits on the same boom.
        places |= {
            f"{part}{detail}": (180.0, 262.0)
            for part in sorted(found & {"rudder", "elevator"})
            for detail in ("", "/hinge", "/horn", "/clevis")
        }
        for side, s in (("left", -1), ("right", 1)):
            part = f"{side}-tail-panel"
            strokes += [line((180 + s * 22, 186), (180 + s * 118, 78), role="moving"), ring(180 + s * 60, 142, 7)]
            places |= {
                part: (180 + s * 118, 70),
                f"{part}/hinge": (180 + s * 88, 112),
                f"{part}/horn": (180 + s * 60, 142),
                f"{part}/clevis": (180 + s * 44, 178),
            }
        return strokes, places
    strokes += [
        shape((0, 176), (330, 196), (330, 214), (0, 226)),
        shape((170, 186), (226, 48), (286, 40), (290, 194)),
        shape((150, 208), (290, 208), (290, 222), (138, 222), role="wing"),
    ]
    places |= {"tail": (180, 214), "tail/fin": (236, 110)}
    if "rudder" in found:
        strokes += [
            shape((290, 42), (330, 58), (334, 190), (290, 194), role="moving"),
            box(290, 70, 4, 5, role="metal", round_=1),
            line((120, 172), (298, 158)),
            shape((292, 150), (314, 158), (292, 168), role="metal"),
        ]
        places |= {
            "rudder": (316, 90),
            "rudder/hinge": (290, 66),
            "rudder/horn": (306, 158),
            "rudder/clevis": (264, 160),
        }
    if "elevator" in found:
        strokes += [
            shape((290, 206), (346, 210), (346, 220), (290, 224), role="moving"),
            line((60, 232), (300, 246)),
            shape((296, 224), (306, 250), (316, 224), role="metal"),
        ]
        places |= {
            "elevator": (336, 214),
            "elevator/hinge": (286, 216),
            "elevator/horn": (308, 246),
            "elevator/clevis": (256, 244),
        }
    return strokes, places


def gear(a: Aircraft) -> Drawn:
    """The wheels from the side, nose left."""
    nose_wheel = a.has(Trait.NOSE_WHEEL)
    strokes = [Stroke("body", "M14,100 C30,60 100,44 180,48 L352,84 L352,112 L190,150 C110,156 36,140 14,100Z")]
    strokes += [
        line((150, 148), (128, 232)),
        line((210, 144), (226, 232)),
        ring(126, 240, 30),
        ring(126, 240, 5),
        ring(228, 240, 30),
        ring(228, 240, 5),
    ]
    strokes += (
        [line((46, 132), (46, 228)), ring(46, 240, 22)]
        if nose_wheel
        else [line((322, 112), (326, 232)), ring(326, 240, 14)]
    )
    return strokes, {
        "left-wheel": (126, 240),
        "right-wheel": (228, 240),
        "nose-wheel": (46, 240),
        "tail-wheel": (326, 236),
    }
