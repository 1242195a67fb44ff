"""What each scheme has to come to, written from the trade's formulas in other words than the program's.

Everything is plain numbers in mm. `Given` holds what was measured and chosen; an oracle says, of every panel, how many are cut, how
large, and what area its sew line encloses; how long both sides of every seam are; what is bought; what girth it lets through inside.
"""

import math
from collections.abc import Callable, Mapping

import numpy as np
from tests.core.covers.oracle import PI, Given, Piece, Wanted, plate, strip


def wall_and_lid(g: Given) -> Wanted:
    ring = g.r["girth"] + 2 * PI * g.u
    tall = g.r["drop"] + g.u
    pieces = {
        "lid": plate(g, ring / (2 * PI)),
        "wall": Piece(1, ring + 2 * g.closing + g.over, tall + g.seam + g.below, ring * tall),
    }
    seams, goods = {"wall to lid": ring, "close the wall": tall}, {}
    if g.o["skirt"]:
        half = tall * g.n("skirt_share")
        fold = g.n("casing") + g.n("casing_turn_under")
        pieces["second skirt"] = Piece(1, ring + 2 * g.closing + g.over, half + g.seam + fold, ring * half)
        seams |= {"second skirt to lid": ring, "close the second skirt": half}
        goods["cord"] = ring + 2 * g.n("tails")
    return Wanted(pieces, seams, goods, (ring - PI * g.t,) * 2)


def gathered_halves(g: Given) -> Wanted:
    ring = g.r["girth"] + 2 * PI * g.u
    drawn = g.n("drawn") or min(ring, ring * g.n("ratio") / g.n("gathers"))
    channel = g.n("ribbon") + (3.0 if g.o["metric"] else 25.4 / 8)
    full = ring / 2 * g.n("ratio")
    tall = g.r["drop"] + g.u + g.t / 2 + max(0.0, ring - drawn) / (2 * PI) + channel + g.n("heading")
    rim = 8.0 if g.o["metric"] else 25.4 * 5 / 16
    pieces = {"base": plate(g, ring / (2 * PI)), "half": strip(g, full, tall, g.seam, 2 * rim, g.seam, 2)}
    seams = {"front half to base": full, "back half to base": full, "right side": tall, "left side": tall}
    return Wanted(pieces, seams, {"ribbon": drawn + 2 * g.n("bow")}, (ring - PI * g.t,) * 2, from_below=True, seams_across=2)


def plain_bag(g: Given) -> Wanted:
    ring, tall = g.r["girth"] + 2 * PI * g.u, g.r["drop"] + g.u + g.n("above")
    pieces = {
        "base": plate(g, ring / (2 * PI)),
        "wall": Piece(1, ring + 2 * g.closing + g.over, tall + g.seam + g.below, ring * tall),
    }
    return Wanted(pieces, {"wall to base": ring, "close the wall": tall}, {}, (ring - PI * g.t,) * 2, from_below=True)


def box_bag(g: Given) -> Wanted:
    long, wide, tall = g.r["length"] + 2 * g.u, g.r["width"] + 2 * g.u, g.r["height"] + g.u + g.n("above")
    ring = 2 * (long + wide)
    pieces = {
        "base": strip(g, long, wide, g.seam, g.seam, g.seam),
        "wall": Piece(1, ring + 2 * g.closing + g.over, tall + g.seam + g.below, ring * tall),
    }
    return Wanted(pieces, {"wall to base": ring, "close the wall": tall}, {}, (ring - 4 * g.t,) * 2, from_below=True)


def wrap(thick: str) -> Callable[[Given], Wanted]:
    def wanted(g: Given) -> Wanted:
        long, wide, high = (g.r[k] + 2 * g.u for k in ("length", "width", thick))
        slot = g.n("slot")
        around, along = 2 * (wide + high) - slot, long + high
        half_end = (wide + high - slot) / 2
        seams = {f"{end} end, {side}": half_end for end in ("left", "right") for side in ("front", "back")}
        goods: dict[str, float] = {}
        n = {"none": 0, "one pair": 2, "two pairs": 4}[str(g.o["ties"])]
        if n:
            goods["tie tape"] = n * g.n("tie")
        ends = max(g.seam, g.below) if slot else g.seam
        return Wanted({"wrap": Piece(1, around + 2 * g.below, along + 2 * ends, around * along)}, seams, goods, seams_across=0)

    return wanted


def cap(g: Given) -> Wanted:
    radius = g.r["rim"] / (2 * PI) + g.n("overhang")
    fold = g.n("casing") + g.n("casing_turn_under")
    twice = g.o["layers"] == "reversible"
    edge = g.seam if twice else fold
    disc = Piece(1, 2 * (radius + edge), 2 * (radius + edge), PI * radius**2)
    held = {
        "by share": g.r["rim"] * (1 - g.n("share")) + g.n("overlap"),
        "from the rim": g.r["rim"] + g.n("overlap") - g.n("tension"),
        "from loose": g.r["rim"] - g.n("take_off"),
    }[str(g.o["school"])]
    tail = 150.0 if g.o["metric"] else 25.4 * 6
    goods = {"elastic": held} if g.o["fastening"] == "elastic" else {"cord": 2 * PI * radius + 2 * tail}
    pieces = {"cap": disc, "inner cap": disc} if twice else {"cap": disc}
    return Wanted(pieces, {"bag the edge": 2 * PI * radius} if twice else {}, goods, seams_across=0)


def wheel_both_faces(g: Given) -> Wanted:
    r, k = g.r["girth"] / (2 * PI) + g.u, g.n("flat")
    # A circle of radius r over a chord at height k: half-chord by Pythagoras, the rest of the ring by its angle.
    half = math.sqrt(r**2 - (r - k) ** 2)
    below = 2 * math.atan2(half, r - k)
    ring, area = r * (2 * PI - below), PI * r**2 - (below / 2 * r**2 - half * (r - k))
    wide = g.r["width"] + 2 * g.u
    hub = (g.r["hub"] / 2 if "hub" in g.r else g.r["girth"] / (12 * PI)) + g.n("hub_clearance")
    slit = r - k - hub
    flat = g.below if k else 0.0
    face = (
        Piece(1, 2 * (r + g.seam), 2 * r - k + g.seam + flat, area) if k else Piece(1, 2 * (r + g.seam), 2 * (r + g.seam), area)
    )
    pieces = {
        "outer face": face,
        "axle face": face,
        "boxing": Piece(1, ring + 2 * (g.below + g.over), wide + 2 * g.seam, ring * wide),
        "flap": strip(g, slit, g.n("flap"), g.seam, g.seam, g.seam),
    }
    seams = {"boxing to outer face": ring, "boxing to axle face": ring}
    goods = {"binding": 2 * PI * hub + 2 * slit, "hook-and-loop": slit}
    return Wanted(pieces, seams, goods, (2 * PI * r - PI * g.t,) * 2, seams_across=0)


def wheel_cap(g: Given) -> Wanted:
    ring = g.r["girth"] + 2 * PI * g.u
    reach = 60.0 if g.o["metric"] else 25.4 * 2.5
    deep = g.n("depth") or g.r["width"] + g.u + reach
    long = ring + g.n("overlap")
    mark = 1.0 if g.o["metric"] else 25.4 / 16
    fold = math.ceil((PI * g.n("cord") / 2 + 3) / mark - 1e-9) * mark + g.n("casing_turn_under")
    pieces = {
        "disc": plate(g, ring / (2 * PI)),
        "boxing": Piece(1, long + 2 * (g.below + g.over), deep + g.seam + fold, long * deep),
    }
    lap = g.n("overlap")
    seams = {"boxing to disc": ring - lap}
    if lap:
        seams |= {"lap of the boxing to disc": lap, "upper lap of the boxing": lap}
    return Wanted(pieces, seams, {"cord": long + 2 * g.n("tails")}, (ring - PI * g.t,) * 2)


def tapered_tub(g: Given) -> Wanted:
    low, high, up = g.r["girth_bottom"] / (2 * PI) + g.u, g.r["girth_top"] / (2 * PI) + g.u, g.r["height"]
    n = round(g.n("panels"))
    slope = math.hypot(up, high - low)
    # The cone's band has the area π (r₁ + r₂) s, shared by the panels.
    area = PI * (low + high) * slope / n
    seams = {"sides to base": 2 * PI * low, "side to side": slope}
    pieces = {"base": plate(g, low), "side": Piece(n, *cone_cut(low, high, slope, n, g, g.seam, g.below), area)}
    inside = (2 * PI * high - PI * g.t, 2 * PI * low - PI * g.t)
    return Wanted(pieces, seams, {}, inside, from_below=True, seams_across=n)


def cone_cut(low: float, high: float, slope: float, n: int, g: Given, below: float, above: float) -> tuple[float, float]:
    """Length and height of a panel of a cone's band cut with allowances: its corners in polar coordinates about the tip.

    The wider arc's corner sets the length: allowance `above` outward along the radius and `closing` square to the side.
    """
    if low == high:
        return 2 * PI * low / n + 2 * g.closing, slope + below + above
    inner = min(low, high) * slope / abs(high - low)
    outer, angle = inner + slope, 2 * PI * abs(high - low) / slope / n
    inner_all, outer_all = (below, above) if low < high else (above, below)
    half, wide, near = angle / 2, outer + outer_all, inner - inner_all

    def corner(radius: float) -> tuple[float, float]:
        """The side runs along the radius, the hem square to it: out along one, `closing` along the other."""
        return (radius * math.sin(half) + g.closing * math.cos(half), radius * math.cos(half) - g.closing * math.sin(half))

    x = corner(wide)[0]
    low_y = min(corner(near)[1], near)
    return 2 * x, wide - low_y


def gores(g: Given) -> Wanted:
    bare = [g.r[f"girth.{k}"] / (2 * PI) for k in (1, 2)]
    radii, tall = [r + g.u for r in bare], g.r["height.2"]
    radii[1] += widening(bare, tall, g)
    line = math.hypot(tall + g.u, radii[0] - radii[1])
    n = round(g.n("gores"))
    edge = math.hypot(line, (radii[0] - radii[1]) * PI / n)
    wide, top = 2 * PI * radii[0] / n, 2 * PI * radii[1] / n
    lean = (wide - top) / 2 / line
    # The hem folds back onto the gore, so its ends slope the other way; the seam allowance on top goes on as the sides go.
    widths = wide, wide - 2 * lean * g.below, top, top - 2 * lean * g.seam
    long = max(widths) + 2 * g.closing * math.hypot(1.0, lean)
    pieces = {"gore": Piece(n, long, line + g.seam + g.below, (wide + top) / 2 * line), "top": plate(g, radii[1])}
    seams = {"gore to gore": edge, "gores to top": 2 * PI * radii[1]}
    inside = (2 * PI * radii[1] - PI * g.t, 2 * PI * radii[0] - PI * g.t)
    return Wanted(pieces, seams, {}, inside, seams_across=n)


def widening(radii: list[float], tall: float, g: Given) -> float:
    """A body that widens upward: the flat top lies u above it, so that the side runs on that far in its own direction."""
    return max(0.0, (radii[1] - radii[0]) / tall * g.u)


def bands(g: Given) -> Wanted:
    low, high = (g.r[f"girth.{k}"] / (2 * PI) + g.u for k in (1, 2))
    high += widening([low, high], g.r["height.2"], g)
    n = round(g.n("panels"))
    slope = math.hypot(g.r["height.2"] + g.u, high - low)
    cut = cone_cut(low, high, slope, n, g, g.below, g.seam)
    pieces = {"band 1": Piece(n, *cut, PI * (low + high) * slope / n), "top": plate(g, high)}
    seams = {"close band 1": slope, "band 1 to top": 2 * PI * high}
    return Wanted(pieces, seams, {}, (2 * PI * high - PI * g.t, 2 * PI * low - PI * g.t), seams_across=n)


def box(g: Given) -> tuple[float, float, float]:
    return g.r["length"] + 2 * g.u, g.r["width"] + 2 * g.u, g.r["height"] + g.u


def box_inside(g: Given) -> dict[str, tuple[float, ...]]:
    """A cover of a box lets through the box and the gap on every side, whatever it is made of."""
    long, wide = g.r["length"] + 2 * g.c, g.r["width"] + 2 * g.c
    return {"inside": (2 * (long + wide),) * 2, "across": (long, wide)}


def saddle_and_ends(g: Given) -> Wanted:
    long, wide, tall = box(g)
    if g.o["runs"] == "over the sides":
        long, wide = wide, long
    rho = g.n("rounding")
    saddle = 2 * (tall - rho) + (wide - 2 * rho) + PI * rho
    end = wide * tall - (2 * rho**2 - PI * rho**2 / 2)
    pieces = {
        "saddle": Piece(1, saddle + 2 * (g.below + g.over), long + 2 * g.seam, saddle * long),
        "end": Piece(2, wide + 2 * g.seam, tall + g.seam + g.below, end),
    }
    ends = ("front", "back") if g.o["runs"] == "over the sides" else ("right", "left")
    seams = {f"saddle to {end} end": saddle for end in ends}
    return Wanted(pieces, seams, **box_inside(g), seams_across=4)  # type: ignore[arg-type]


def wall_and_top(g: Given) -> Wanted:
    long, wide, tall = box(g)
    around = 2 * long + 2 * wide
    pieces = {
        "top": Piece(1, long + 2 * g.seam, wide + 2 * g.seam, long * wide),
        "wall": Piece(1, around + 2 * g.closing + g.over, tall + g.seam + g.below, around * tall),
    }
    return Wanted(pieces, {"wall to top": around, "close the wall": tall}, **box_inside(g))  # type: ignore[arg-type]


def one_piece(g: Given) -> Wanted:
    long, wide, tall = box(g)
    whole = (long + 2 * tall) * (wide + 2 * tall)
    cut_out = g.o["corners"] == "cut out"
    sheet = Piece(1, long + 2 * tall + 2 * g.below, wide + 2 * tall + 2 * g.below, whole - (4 * tall**2 if cut_out else 0.0))
    corners = ("front right", "right back", "back left", "left front")
    seams = {f"{name} corner": tall for name in corners}
    return Wanted({"sheet": sheet}, seams, **box_inside(g), seams_across=4)  # type: ignore[arg-type]


def five_panels(g: Given) -> Wanted:
    long, wide, tall = box(g)
    pieces = {
        "top": strip(g, long, wide, g.seam, g.seam, g.seam),
        "long wall": strip(g, long, tall, g.seam, g.seam, g.below, 2),
        "short wall": strip(g, wide, tall, g.seam, g.seam, g.below, 2),
    }
    seams = {f"corner {where}": tall for where in ("front right", "back right", "back left", "front left")}
    seams |= {f"{side} wall to top": long for side in ("front", "back")}
    seams |= {f"{side} wall to top": wide for side in ("left", "right")}
    return Wanted(pieces, seams, **box_inside(g), seams_across=4)  # type: ignore[arg-type]


def traced_box(g: Given) -> Wanted:
    """The side of a box, moved outward with its corners kept and cut off at the floor, is the end of a saddle."""
    long, wide, tall = box(g)
    around = 2 * tall + wide
    pieces = {
        "end": Piece(2, wide + 2 * g.seam, tall + g.seam + g.below, wide * tall),
        "gusset": Piece(1, around + 2 * (g.below + g.over), long + 2 * g.seam, around * long),
    }
    seams = {"gusset to right end": around, "gusset to left end": around}
    return Wanted(pieces, seams, **box_inside(g), seams_across=4)  # type: ignore[arg-type]


def drape(g: Given) -> Wanted:
    wide = g.r["length"] + 2 * g.c
    path = g.r["width"] + 2 * g.r["height"] - 2 * g.n("gap")
    out = 2.0 if g.o["metric"] else 25.4 / 16
    faces = strip(g, path, wide, g.seam, g.seam, g.seam)
    stiff = Piece(1, g.r["width"], wide - 2 * out, g.r["width"] * (wide - 2 * out))
    seams = {"bag bottom": path, "bag top": path, "bag left": wide, "bag right": wide}
    return Wanted({"face": faces, "lining": faces, "stiffening": stiff}, seams, {"tie tape": 4 * g.n("tie")}, seams_across=0)


def sheet(g: Given) -> Wanted:
    long, wide = g.r["length"], g.r["width"]
    along, across = (max(2, round(g.n(way))) for way in ("along", "across"))
    number = 0 if g.o["fastener"] == "nothing" else 2 * along + 2 * (across - 2)
    counted = {str(g.o["fastener"]): number} if number else {}
    if number and g.o["patches"]:
        counted["backing patches"] = number
    return Wanted({"sheet": strip(g, long, wide, g.below, g.below, g.below)}, {}, seams_across=0, counted=counted)


def slip_sleeve(g: Given) -> Wanted:
    thick = g.r["thickness"]
    wide = g.r["width"] + thick + 2 * g.u
    long = g.r["length"] + thick / 2 + g.u + g.n("tuck")
    seams = {"long side in front": long, "long side at the back": long, "closed end": wide}
    layer = Piece(2, long + g.seam + g.below, wide + 2 * g.seam, long * wide)
    return Wanted({"layer": layer}, seams, {}, (2 * wide - 2 * g.t,) * 2, from_below=True, seams_across=2)


def envelope(g: Given) -> Wanted:
    wide, tall = (g.r[k] + g.r["thickness"] + 2 * g.u for k in ("width", "length"))
    back = tall / 2 + g.n("lap") / 2
    pieces = {"front": strip(g, wide, tall, g.seam, g.seam, g.seam), "back": strip(g, wide, back, g.seam, g.seam, g.below, 2)}
    seams = {f"lower back, {side}": back for side in ("left", "right")}
    seams |= {f"upper back, {side}": back - g.n("lap") for side in ("left", "right")}
    seams |= {f"upper back, {side} lap": g.n("lap") for side in ("left", "right")}
    seams |= {"lower back, bottom": wide, "upper back, top": wide}
    return Wanted(pieces, seams, {}, (2 * wide - 2 * g.t,) * 2, from_below=True, seams_across=2)


def sleeve_tied(g: Given) -> Wanted:
    ring = g.r["girth"] + 2 * PI * g.u
    drawn = ring / float(g.o["gathers"])  # type: ignore[arg-type]
    tall = g.r["height"] + (ring - drawn) / (2 * PI) + g.u + g.n("collar")
    wall = Piece(1, ring + 2 * g.closing + g.over, tall + g.below + g.seam, ring * tall)
    pieces = {"base": plate(g, ring / (2 * PI)), "wall": wall}
    # Without a neck it lies over the top, drawn in as far as the cloth gathers.
    goods = {"ribbon": drawn + 2 * g.n("bow")}
    seams = {"wall to base": ring, "close the wall": tall}
    return Wanted(pieces, seams, goods, (ring - PI * g.t,) * 2, from_below=True)


def padded_case(g: Given) -> Wanted:
    # A taut tape over two clips, each a quarter of the length in from its end and, while nobody measured them, 10 proud.
    proud = 10.0
    around = 1.5 * g.r["length"] + 2 * g.r["width"] + 2 * math.hypot(g.r["length"] / 4, proud)
    ring, deep, tall = around + 8 * g.u, g.r["width"] + 2 * g.u, g.r["height"] + 2 * g.u
    at = g.n("zip_at") or tall * g.n("zip_height")
    lower, upper = at + deep / 2, tall - at + deep / 2
    pieces = {
        name: Piece(1, ring + 2 * g.closing, high + g.seam + g.n("zip_allowance"), ring * high)
        for name, high in (("lower tube", lower), ("upper tube", upper))
    }
    seams = {
        "close the lower tube": lower,
        "close the upper tube": upper,
        "bottom seam": ring / 2,
        "top seam": ring / 2,
        "zip": ring,
    }
    ends = 30.0 if g.o["metric"] else 25.4 * 1.25
    return Wanted(pieces, seams, {"zip": ring + 2 * ends}, (ring - 4 * g.t,) * 2, from_below=True)


ORACLES: Mapping[tuple[str, str], Callable[[Given], Wanted]] = {
    ("drum", "wall-and-lid"): wall_and_lid,
    ("drum", "gathered-halves"): gathered_halves,
    ("drum", "plain-bag"): plain_bag,
    ("box", "plain-bag"): box_bag,
    ("slab", "wrap"): wrap("thickness"),
    ("box", "wrap"): wrap("height"),
    ("cap-body", "cap"): cap,
    ("wheel", "wheel-both-faces"): wheel_both_faces,
    ("wheel", "wheel-cap"): wheel_cap,
    ("tub", "tapered-tub"): tapered_tub,
    ("turned", "gores"): gores,
    ("turned", "bands"): bands,
    ("box", "saddle-and-ends"): saddle_and_ends,
    ("box", "wall-and-top"): wall_and_top,
    ("box", "one-piece"): one_piece,
    ("box", "five-panels"): five_panels,
    ("box", "traced-ends"): traced_box,
    ("box", "drape"): drape,
    ("flat", "sheet"): sheet,
    ("slab", "slip-sleeve"): slip_sleeve,
    ("slab", "envelope"): envelope,
    ("bottle", "sleeve-tied"): sleeve_tied,
    ("case", "padded-case"): padded_case,
}


def area(points: np.ndarray) -> float:
    """Inside a ring `(n, 2)`, by the shoelace."""
    x, y = points[:, 0], points[:, 1]
    return abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1))) / 2
