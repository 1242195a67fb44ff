"""Old job documents as the present version has them, one step at a time. Whatever an earlier Omnipel wrote is read."""

from collections.abc import Callable
from typing import Any, Final

VERSION: Final = 11
"""Of what this program writes."""


def migrated(data: Any, version: int) -> Any:
    """A job's plain data of an older version, as the present one has it. What is no job at all is left for the check to say."""
    for step in range(version, VERSION):
        if isinstance(data, dict):
            data = STEPS[step](data)
    return data


def _unchanged(data: dict[str, Any]) -> dict[str, Any]:
    """1 → 2, 5 → 6, 7 → 9 and 10 → 11: what is new begins as it was understood before.

    That is whose habits a job follows, the kind of its cloth, readings set aside or stood by; and whether a lining is pieced, other sides that something
    sticks out of, piped edges; whether a cloth is washed before it is cut.
    """
    return data


def _with_ids(data: dict[str, Any]) -> dict[str, Any]:
    """2 → 3: what sticks out and what is on the panels has an id; a port that was known by the name of what comes out through it knows its id."""
    things = _numbered(_list(data.get("thing"), "sticks_out"))
    features = _numbered(_list(data.get("cover"), "features"))
    ids = {thing.get("name"): thing["id"] for thing in things}
    features = [
        {**feature, "serves": ids[feature.get("name")]}
        if feature.get("kind") == "port" and feature.get("name") in ids and "serves" not in feature
        else feature
        for feature in features
    ]
    made = dict(data)
    if things:
        made["thing"] = {**data["thing"], "sticks_out": things}
    if features:
        made["cover"] = {**data["cover"], "features": features}
    return made


_OPENINGS: Final = {
    "sleeve-tied": "upper edge",
    "tapered-tub": "upper edge",
    "sheet": "edge",
    "envelope": "mouth",
    "slip-sleeve": "mouth",
}
"""What the hemmed opening of these schemes is called; of all others it is the lower edge."""


def _with_edges(data: dict[str, Any]) -> dict[str, Any]:
    """3 → 4: what draws in an edge is decided about that edge, no longer as a closure; a binding has its finished width."""
    cover = data.get("cover")
    if not isinstance(cover, dict):
        return data
    made, closure, hem = dict(cover), cover.get("closure"), cover.get("hem")
    if isinstance(closure, dict) and closure.get("kind") in ("drawcord", "elastic"):
        name = _OPENINGS.get(str(cover.get("scheme")), "lower edge")
        held = {"held_by": closure["kind"], "drawn_to": closure.get("length", 0.0)}
        made = {**made, "closure": {"kind": "none", "length": 0.0}, "edges": {name: held}}
    if isinstance(hem, dict) and hem.get("kind") == "bound":
        habits = cover.get("habits")
        inches = isinstance(habits, dict) and habits.get("system") == "inch"
        made = {**made, "hem": {"kind": "bound", "width": 9.525 if inches else 10.0, "turn_under": 0.0}}
    return {**data, "cover": made}


_SIDES: Final = {"lower": "down", "bottom": "down", "upper": "up", "top": "up", "lid": "up", "right": "right", "left": "left"}
"""Which way an edge lay, by a word in its name."""
_SAID: Final = {"wall": "front", "disc": "left", "outer face": "left", "axle face": "right"}
"""Panels that are cut once and lie so that places on them are the same by their side."""
_KEPT: Final = ("kind", "name", "from_centre", "from_top", "width", "height", "serves", "id")
_OWN: Final = {"port": ("shape",), "pocket": ("depth", "parts"), "ties": ("parts",), "snaps": ("parts",), "grommets": ("parts",)}


def _by_side(data: dict[str, Any]) -> dict[str, Any]:
    """4 → 5: what is put on the cover is placed by the side of it, no longer by a panel in all of its copies.

    Which side that is only a draft can tell: until a person has said so it lies where it lay on that panel's first piece.
    Ease by the dimension says what is added to the drop.
    """
    cover = data.get("cover")
    if not isinstance(cover, dict):
        return data
    features, given = _list(cover, "features"), cover.get("clearance")
    made = {**cover, "features": [_moved(feature) for feature in features]} if features else dict(cover)
    if isinstance(given, dict) and given.get("school") == "by the dimension" and isinstance(given.get("amount"), int | float):
        made["clearance"] = {**given, "drop": given["amount"] / 2.0}  # as it was on every side
    return {**data, "cover": made}


def _moved(feature: dict[str, Any]) -> dict[str, Any]:
    made: dict[str, Any] = {key: feature[key] for key in _KEPT if key in feature}
    kind = str(feature.get("kind"))
    own = {key: feature[key] for key in _OWN.get(kind, ()) if key in feature}
    if kind == "port" and feature.get("slit_to"):
        own["slit"] = _way(feature["slit_to"])
        if feature.get("flap"):
            own["flap"] = "over the slit"
    if kind == "webbing handle":
        seams = {
            "up": "the seam above",
            "down": "the seam below",
            "right": "the seam to the right",
            "left": "the seam to the left",
        }
        own["caught"] = seams[_way(feature.get("edge"))]
    if kind == "ties":
        own["long"] = 300.0
    panel = feature.get("panel", "")
    side = _SAID.get(panel, "") if isinstance(panel, str) else ""
    return {**made, "options": own, "face": side, "was_on": "" if side else panel}


def _way(edge: Any) -> str:
    """Which way an edge lay from the middle of its panel."""
    return next((way for word, way in _SIDES.items() if word in str(edge)), "down")


def _with_ribbon(data: dict[str, Any]) -> dict[str, Any]:
    """6 → 7: a cosy says how wide its ribbon is, no longer its channel; its heading stays as high as it was while that was usual."""
    cover = data.get("cover")
    if not isinstance(cover, dict) or cover.get("scheme") != "gathered-halves":
        return data
    habits = _within(cover, "habits")
    own, options = _within(habits, "own"), dict(_within(cover, "options"))
    inches = habits.get("system") == "inch"
    channel = options.pop("channel", own.get("gathered-halves.channel"))
    if isinstance(channel, int | float):
        options["ribbon"] = max(3.0, channel - (3.175 if inches else 3.0))
    options.setdefault("heading", own.get("gathered-halves.heading", 38.1 if inches else 40.0))
    return {**data, "cover": {**cover, "options": options}}


def _within(holder: dict[str, Any], name: str) -> dict[str, Any]:
    found = holder.get(name)
    return found if isinstance(found, dict) else {}


def _list(holder: Any, name: str) -> list[Any]:
    found = holder.get(name) if isinstance(holder, dict) else None
    return found if isinstance(found, list) and all(isinstance(item, dict) for item in found) else []


def _numbered(items: list[dict[str, Any]]) -> list[dict[str, Any]]:
    return [{"id": str(i), **item} for i, item in enumerate(items, 1)]


_STAGES: Final = {"first": "first try-on", "finished": "finished"}


def _with_tries(data: dict[str, Any]) -> dict[str, Any]:
    """9 → 10: sizes measured on what was sewn belong to the time when it was tried on."""
    sewing = data.get("sewing")
    if not isinstance(sewing, dict) or "made" not in sewing:
        return data
    kept = {name: value for name, value in sewing.items() if name != "made"}
    by_stage: dict[str, dict[str, Any]] = {}
    for key, made in _within(sewing, "made").items():
        _, stage, what = [*str(key).split("/", 2), "", ""][:3]
        if stage in _STAGES and what:
            by_stage.setdefault(stage, {})[what] = made
    days = {key.split("/", 2)[1]: _within(_within(sewing, "steps"), key).get("day", "") for key in ("try/first", "try/finished")}
    tries = [
        {"stage": _STAGES[stage], "day": days.get(stage) or "", "made": by_stage[stage]} for stage in _STAGES if stage in by_stage
    ]
    return {**data, "sewing": kept, **({"tries": tries} if tries else {})}


STEPS: Final[dict[int, Callable[[dict[str, Any]], dict[str, Any]]]] = {
    1: _unchanged,
    2: _with_ids,
    3: _with_edges,
    4: _by_side,
    5: _unchanged,
    6: _with_ribbon,
    7: _unchanged,
    8: _unchanged,
    9: _with_tries,
    10: _unchanged,
}
"""From each version to the next."""
