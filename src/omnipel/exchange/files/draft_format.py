"""The shape of a draft as plain data, as types (`formats.py` gathers them)."""

from __future__ import annotations

from typing import Literal

from typing_extensions import TypedDict

Point = list[float]


class Term(TypedDict):
    """A term of a sum: value = amount × factor, where it comes from."""

    name: str
    value: float
    amount: float
    factor: float
    how: str
    source: str


class Sum(TypedDict):
    """A number with its sum."""

    value: float
    terms: list[Term]


class PartOf(Sum):
    """A part of the thing, with how it moves with each reading."""

    slopes: dict[str, float]


class Outline(TypedDict):
    """A panel's outline with its size."""

    length: float
    width: float
    outline: list[Point]


class FoldAt(TypedDict):
    """The line a panel is placed on the fold by."""

    at: Point
    heading: float


class EdgeOf(TypedDict):
    """An edge of a panel."""

    name: str
    length: float
    finish: str
    allowance: float


class NotchAt(TypedDict):
    """A match mark."""

    edge: str
    fraction: float
    label: str
    kind: str


class FigureOf(TypedDict):
    """Something drawn inside a panel."""

    name: str
    kind: str
    closed: bool
    points: list[Point]


class PanelOf(TypedDict):
    """A panel."""

    name: str
    cloth: str
    count: int
    mirrored: bool
    grain: float
    fold: FoldAt | None
    sew: Outline
    cut: Outline
    rough_cut: Point | None
    edges: list[EdgeOf]
    notches: list[NotchAt]
    figures: list[FigureOf]
    sizes: dict[str, float]
    terms: dict[str, list[Term]]
    note: str


class PieceOf(TypedDict):
    """A cut piece."""

    name: str
    panel: str
    mirrored: bool
    on: str
    clear: float | None


class RunOf(TypedDict):
    """An edge of a piece, and whether it is walked backwards."""

    piece: str
    edge: str
    reversed: bool


class MarkOf(TypedDict):
    """A match mark on a seam."""

    label: str
    fraction: float


class SeamOf(TypedDict):
    """A seam with both its sides."""

    name: str
    kind: str
    a: list[RunOf]
    b: list[RunOf]
    length_a: float
    length_b: float
    times: int
    rows: int
    tacked: bool
    stretch: Point | None
    wide: float
    whole: str
    onto: bool
    apart: float
    ratio: float
    difference: float
    true: bool
    match_marks: list[MarkOf]


class FinishOf(TypedDict):
    """How an edge is finished."""

    kind: str
    width: float
    turn_under: float


class OpeningOf(TypedDict):
    """What stays open."""

    name: str
    length: float
    terms: list[Term]
    edges: list[RunOf]
    decided: bool
    finish: FinishOf
    order: str
    held_by: str
    drawn_to: float | None


class Hung(TypedDict):
    """A ribbon in space."""

    line: list[Point]
    length: float
    wide: float


class FeatureOf(TypedDict):
    """Something put on the cover."""

    id: str
    kind: str
    name: str
    face: str
    across: float
    down: float
    piece: str | None
    flat: Point | None
    place: Point | None
    hangs: list[Hung]


class Goods(TypedDict):
    """Something besides cloth."""

    name: str
    length: float | None
    count: int
    note: str
    terms: list[Term]


class SlackAt(TypedDict):
    """What is left at a depth."""

    depth: float
    cover: float
    passes: float
    slack: float


class SlackAcross(SlackAt):
    """... in a direction."""

    way: int


class FitOf(TypedDict):
    """Whether it goes on."""

    verdict: str
    chance: float
    sigma: float
    slack: float
    clearance: float
    tightest_at: float
    matters_most: str
    shares: dict[str, float]
    doubtful: list[str]
    slacks: list[SlackAt]
    across: list[SlackAcross]


class Near(TypedDict):
    """Where the cover comes nearest to the thing."""

    piece: str
    at: Point
    gap: float
    promised: float


class SewnOf(TypedDict):
    """The placed cover."""

    apart: float
    nearest: Near | None


class FindingOf(TypedDict):
    """A judgement."""

    code: str
    severity: str
    text: str
    where: str
    remedies: list[str]


class DraftData(TypedDict):
    """A draft (`omnipel draft --json`, `--json`)."""

    format: Literal["omnipel-draft"]
    version: int
    job: str
    parts: dict[str, PartOf]
    sizes: dict[str, float]
    by_hand: list[str]
    panels: list[PanelOf]
    pieces: list[PieceOf]
    seams: list[SeamOf]
    openings: list[OpeningOf]
    features: list[FeatureOf]
    hardware: list[Goods]
    fit: FitOf | None
    sewn: SewnOf | None
    doubtful: list[str]
    findings: list[FindingOf]
