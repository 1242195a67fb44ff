"""The shapes of all plain data that is written, as types: their JSON Schemas stand in docs/ (`make docs`), and tests hold what is written against them.

Lengths are millimetres, angles radians, minutes minutes, money the shop's own. Keys are stable; what is added later is told by `version`.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Final

from omnipel.exchange.files.draft_format import DraftData
from omnipel.exchange.files.work_formats import LayData, LogData, OrderData, TakeoffData

if TYPE_CHECKING:
    from pydantic import TypeAdapter

FORMATS: Final[dict[str, Any]] = {"draft": DraftData, "lay": LayData, "takeoff": TakeoffData, "order": OrderData, "log": LogData}
"""Every format by the name of its schema in docs/."""


def schema_of(name: str) -> dict[str, Any]:
    """The JSON Schema of a format."""
    made: dict[str, Any] = adapter_of(name).json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **made}


def adapter_of(name: str) -> TypeAdapter[Any]:
    """What holds data against a format; what the format does not know is left out of what comes back."""
    from pydantic import TypeAdapter

    return TypeAdapter(FORMATS[name])
