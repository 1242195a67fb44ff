"""Old job documents as the present version has them, one step at a time. Whatever an earlier Omnipel wrote is read."""

from collections.abc import Callable
from typing import Any, Final

VERSION: Final = 4
"""Of what this program writes."""


def migrated(data: Any, version: int) -> Any:
    """A job's plain data of an older version, as the present one has it. What is no job at all is left for the check to say."""
    for step in range(version, VERSION):
        if isinstance(data, dict):
            data = STEPS[step](data)
    return data


def _unchanged(data: dict[str, Any]) -> dict[str, Any]:
    """1 → 2: what is new (whose habits a job follows, the kind of its cloth, readings set aside or stood by) begins as it was understood before."""
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


def _list(holder: Any, name: str) -> list[Any]:
    found = holder.get(name) if isinstance(holder, dict) else None
    return found if isinstance(found, list) and all(isinstance(item, dict) for item in found) else []


def _numbered(items: list[dict[str, Any]]) -> list[dict[str, Any]]:
    return [{"id": str(i), **item} for i, item in enumerate(items, 1)]


STEPS: Final[dict[int, Callable[[dict[str, Any]], dict[str, Any]]]] = {1: _unchanged, 2: _with_ids, 3: _with_edges}
"""From each version to the next."""
