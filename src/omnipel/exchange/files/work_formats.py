"""The shapes of lays, shopping lists, orders of work and logbooks as plain data, as types (`formats.py` gathers them)."""

from __future__ import annotations

from typing import Any, Literal

from typing_extensions import TypedDict

from omnipel.exchange.files.draft_format import FindingOf, Point, Sum, Term


class ClothOf(TypedDict):
    """A cloth, as far as a lay needs it."""

    name: str
    usable_width: float
    sold_by: float
    price: float | None


class LaidPiece(TypedDict):
    """Where a piece lies."""

    order: int
    piece: str
    name: str
    panel: str | None
    mirrored: bool
    on_fold: bool
    both_layers: bool
    turned: float
    from_cut_end: float
    from_selvage: float
    outline: list[Point]


class GroundOf(TypedDict):
    """A bolt or piece of cloth."""

    id: str
    name: str
    length: float | None
    width: float
    avoid: list[list[Point]]
    pieces: list[LaidPiece]


class LayData(TypedDict):
    """A lay (`omnipel lay --json`, `--lays`)."""

    format: Literal["omnipel-lay"]
    version: int
    layer: str
    cloth: ClothOf
    spread: str
    gap: float
    ends: float
    used: Sum
    length: float
    least_length: float
    buy: float
    by_the_piece: bool
    share_used: float
    grounds: list[GroundOf]
    left: list[str]
    no_longer_fit: list[str]
    kept: bool


class Bought(TypedDict):
    """A line of the shopping list."""

    key: str
    name: str
    group: str
    needed: float
    by_length: bool
    terms: list[Term]
    from_stash: float
    to_buy: float
    price: float | None
    cost: float | None
    note: str


class TakeoffData(TypedDict):
    """A shopping list (`omnipel takeoff --json`, `--takeoff`)."""

    format: Literal["omnipel-takeoff"]
    version: int
    covers: int
    lines: list[Bought]
    material: float
    from_stash: float
    to_pay: float
    price_unknown: list[str]
    per_cover: float
    per_square_metre: float


class Span(TypedDict):
    """Minutes, and their range."""

    likely: float
    low: float
    high: float


class MinutesTerm(TypedDict):
    """A term of the minutes."""

    words: str
    minutes: float
    how: str


class StepMinutes(Span):
    """Minutes of a step with their sum."""

    planned: float
    terms: list[MinutesTerm]


class CheckOf(TypedDict):
    """What is to be checked."""

    words: str
    length: float | None


class Caution(TypedDict):
    """What is to be minded."""

    key: str
    words: str


class After(TypedDict):
    """What comes before a step, and why."""

    key: str
    why: str
    rule: int


class StepOf(TypedDict):
    """A step of the order of work."""

    number: int
    key: str
    kind: str
    part: str
    words: str
    where: str
    station: str
    foot: str
    needle: str
    thread: int | str
    stitch: str
    changeover: bool
    pieces: list[str]
    seams: list[str]
    edges: list[dict[str, str]]
    opening: str
    feature: str
    minutes: StepMinutes
    settings: dict[str, str]
    notes: list[str]
    checks: list[CheckOf]
    cautions: list[Caution]
    how: list[str]
    after: list[After]
    done: bool


class OrderData(TypedDict):
    """An order of work (`omnipel order --json`, `--stepsdata`)."""

    format: Literal["omnipel-order"]
    version: int
    job: str
    covers: int
    minutes: Span
    left: Span
    changeovers: int
    least_changeovers: int
    proven: bool
    by_hand: bool
    steps: list[StepOf]
    findings: list[FindingOf]


class DueOf(TypedDict):
    """What is due."""

    day: str
    what: str
    why: str


class CoverLog(TypedDict):
    """The logbook of one cover; try-ons, alterations and entries as in the job's document."""

    name: str
    owner: str
    place: str
    tries: list[dict[str, Any]]
    alterations: list[dict[str, Any]]
    log: list[dict[str, Any]]
    again_of: str
    family: str
    made_on: str
    due: list[DueOf]


class LogData(TypedDict):
    """A logbook (`--log`)."""

    format: Literal["omnipel-log"]
    version: int
    thing: str
    covers: list[CoverLog]
