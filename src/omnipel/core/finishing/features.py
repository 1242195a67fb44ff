"""What is put on a cover: where it lies on the sewn cover, what it adds to the one piece that lies there, and where else it could be."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field, fields, replace
from itertools import groupby
from typing import Final

import numpy as np

from omnipel.core.covers.places import copies, middle
from omnipel.core.covers.scheme import Cover, Lying
from omnipel.core.drafting.panel import Figure, Notch, Panel
from omnipel.core.drafting.patterns import regrouped
from omnipel.core.drafting.pieces import Piece, placed
from omnipel.core.finishing.ground import Ground
from omnipel.core.finishing.kind import Laid, Lies, Put
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.finishing.placing import over_others
from omnipel.core.finishing.spots import Spot
from omnipel.core.forms.body import Standing
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.job.findings import Act, Change, Finding, Impossible, Remedy, Severity
from omnipel.core.space.placements import Beside, normals
from omnipel.core.space.placements import Laid as LaidOn
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, Ratio, term, tr

AS_RECKONED: Final = 0.05
"""Places that differ by less than this are the same, mm."""
GATHERED: Final = 1.02
"""Site that is gathered further than this draws in what lies on it."""


@dataclass(frozen=True)
class Site:
    """What something is put on: the ground, what was decided, where what sticks out stands, and what has been put there before."""

    ground: Ground
    choices: CoverChoices
    stands: Standing = field(default_factory=dict)
    before: tuple[Put, ...] = ()


def with_features(cover: Cover, choices: CoverChoices, stands: Standing) -> Cover:
    """The cover with its features: each on the one piece that lies where it is said to be."""
    on = Site(Ground(cover), choices, stands)
    findings = list(cover.findings)
    for feature in choices.features:
        put, found = put_on(feature, on)
        findings += [found_with(finding, feature) for finding in found]
        if put is not None:
            on = replace(on, before=(*on.before, put))
    return replace(_dressed(cover, on.before), findings=tuple(findings))


def through(cover: Cover, choices: CoverChoices) -> tuple[CoverChoices, Standing]:
    """What goes through all layers of a cover, for one that lies inside of it: there it stands where it came to lie on the outer, square to that."""
    pieces, stands, kept = {piece.name: piece for piece in cover.pieces}, {}, []
    for feature in choices.features:
        lying = cover.lying.get(feature.id)
        if lying is None or KINDS[feature.kind].lies is not Lies.CUT:
            continue
        piece, key = pieces[lying.piece], f"through {feature.id}"
        out = normals(piece.place, np.array([lying.flat]))[0] * (-1.0 if piece.mirrored else 1.0)
        stands[key] = (lying.place, (float(out[0]), float(out[1]), float(out[2])))
        kept.append(replace(feature, serves=key))
    return replace(choices, features=tuple(kept)), stands


def put_on(feature: Feature, on: Site) -> tuple[Put | None, list[Finding]]:
    """Something where it lies, with what it adds; and what there is to say about it. None where it cannot be."""
    where, kind = refs.feature(feature.id), KINDS.get(feature.kind)
    if kind is None:
        text = tr("{feature}: there is nothing of the kind “{kind}”.", feature=Name(feature.name), kind=Name(feature.kind))
        return None, [Finding("feature-unknown", Severity.STOP, text, where)]
    try:
        values = kind.values(feature, on.choices)
    except Impossible as impossible:
        text = tr("{feature}: {fault}.", feature=Name(feature.name), fault=impossible.text)
        back = Remedy(
            tr("{feature}: all its own choices back to what is usual", feature=Name(feature.name)),
            (Change(where.at("options"), {}),),
        )
        return None, [Finding("feature-choice", Severity.STOP, text, where, (back,))]
    spot = spot_of(feature, on)
    if spot is None:
        return None, [_nowhere(feature, on)]
    put = Put(feature, kind, spot, on.ground, on.choices, values)
    try:
        kind.put(put)
    except Impossible as impossible:
        text = tr("{feature}: {fault}.", feature=Name(feature.name), fault=impossible.text)
        put.stop("size-impossible", text)
    put.made.say(over_others(put, on.before))
    put.made.say(_in_gathers(put))
    put.made.say(_by_panel(put))
    return put, put.made.findings


def spot_of(feature: Feature, on: Site) -> Spot | None:
    """Where it lies: over what comes out through it, or where it was measured to be."""
    if feature.serves in on.stands:
        return on.ground.met(*on.stands[feature.serves])
    if feature.face is Facing.UNSAID:
        return on.ground.on_panel(feature.was_on, feature.from_centre, feature.from_top)
    return on.ground.spot(feature.face, feature.from_centre, feature.from_top)


def _nowhere(feature: Feature, on: Site) -> Finding:
    """What there is to say when the cover has nothing where it is said to lie."""
    where, name = refs.feature(feature.id), Name(feature.name)
    if feature.face is Facing.UNSAID:
        text = tr("{feature} was on the {panel}, which this cover does not have.", feature=name, panel=term(feature.was_on))
        return Finding("feature-off-panel", Severity.STOP, text, where)
    if feature.serves in on.stands:
        text = tr("{feature} comes out where this cover has nothing.", feature=name)
    elif on.ground.anchor(feature.face) is None:
        text = tr("{feature} is to lie on the {side}, and this cover has nothing there.", feature=name, side=term(feature.face))
    else:
        text = tr(
            "{feature} is to lie further down or aside on the {side} than this cover reaches.",
            feature=name,
            side=term(feature.face),
        )
    return Finding("feature-off-panel", Severity.STOP, text, where)


def _by_panel(put: Put) -> Finding | None:
    """What there is to say when an earlier version had it on a panel, in all of its copies: now it is on one piece, by that piece's side."""
    feature, where = put.feature, put.where
    if feature.face is not Facing.UNSAID:
        return None
    copies = sum(piece.panel == feature.was_on for piece in put.ground.pieces.values())
    text = tr("{feature} is placed by its panel: it is to be placed by its side of the cover.", feature=put.name)
    if copies > 1:
        text = tr(
            "{feature} was on each {panel}, and is on one now: the {piece}.",
            feature=put.name,
            panel=term(feature.was_on),
            piece=term(put.spot.piece.name),
        )
    said = put.ground.said(put.spot)
    if said is None:
        return Finding("feature-unplaced", Severity.LOOK, text, where)
    face, across, down = said
    near = put.choices.habits.system.near
    moved = replace(feature, face=face, from_centre=_tidy(across, near(across)), from_top=_tidy(down, near(down)), was_on="")
    words = tr("{feature}: on the {side}, as it lies", feature=put.name, side=term(face))
    return Finding("feature-unplaced", Severity.LOOK, text, where, (Remedy(words, changes_to(feature, moved)),))


def _tidy(length: float, near: float) -> float:
    """A length without what only reckoning left of it."""
    return near + 0.0 if abs(length - near) < AS_RECKONED else length


def _in_gathers(put: Put) -> Finding | None:
    """What there is to say when it lies where the cloth is gathered."""
    ratio = max(put.spot.drawn_in)
    if ratio < GATHERED or put.kind.lies not in (Lies.CUT, Lies.SEWN, Lies.UNDER):
        return None
    text = tr(
        "{feature} lies on the {panel} where that is gathered {ratio}: it is drawn in with it.",
        feature=put.name,
        panel=put.on,
        ratio=Ratio(ratio),
    )
    return Finding("feature-in-gathers", Severity.LOOK, text, put.where)


def found_with(finding: Finding, feature: Feature) -> Finding:
    """A finding that can also be put right by doing without."""
    return replace(finding, remedies=(*finding.remedies, without(feature)))


def without(feature: Feature) -> Remedy:
    """Do without the feature."""
    return Remedy(tr("Leave {feature} out", feature=Name(feature.name)), (Change(refs.feature(feature.id), act=Act.REMOVE),))


def _dressed(cover: Cover, puts: Sequence[Put]) -> Cover:
    """The cover with all that was put on it; a piece that differs by it becomes a pattern of its own."""
    figures: dict[str, list[Figure]] = {}
    notches: dict[str, list[Notch]] = {}
    for put in puts:
        for name, drawn in put.made.figures.items():
            figures.setdefault(name, []).extend(drawn)
        for name, marks in put.made.notches.items():
            notches.setdefault(name, []).extend(marks)
    changed = {name: (tuple(figures.get(name, ())), tuple(notches.get(name, ()))) for name in {*figures, *notches}}
    panels, pieces = regrouped(
        cover.panels,
        cover.pieces,
        lambda piece: piece.name if piece.name in changed else "",
        lambda panel, name: _drawn_on(panel, *changed[name]) if name else panel,
    )
    taken, own = {panel.name for panel in panels}, list(pieces)
    made = list(panels)
    for put in puts:
        for _, alike in groupby(put.made.panels, lambda laid: laid.panel.name):
            each = list(alike)
            panel = _named(each[0].panel, taken)
            made.append(panel)
            own += [_laid(panel, laid, put, called) for laid, called in zip(each, copies(panel.name, len(each)), strict=True)]
    hardware = tuple(bought for put in puts for bought in put.made.hardware)
    ribbons = {put.feature.id: tuple(put.made.ribbons) for put in puts if put.made.ribbons}
    lying = {put.feature.id: _lying(put) for put in puts}
    made_of = replace(cover, panels=tuple(made), pieces=tuple(own), hardware=(*cover.hardware, *hardware))
    return replace(made_of, lying=lying, ribbons=ribbons)


def _lying(put: Put) -> Lying:
    x, y = put.spot.at
    return Lying(put.spot.piece.name, (float(x), float(y)), put.spot.place, put.kind.idle(put))


def _drawn_on(panel: Panel, figures: tuple[Figure, ...], notches: tuple[Notch, ...]) -> Panel:
    return replace(panel, figures=(*panel.figures, *figures), notches=(*panel.notches, *notches))


def _laid(panel: Panel, laid: Laid, put: Put, name: str) -> Piece:
    """A panel of a feature on the outside of the piece that it lies on."""
    spot = laid.spot
    if laid.place is not None:
        return placed(panel, laid.place, name, on=spot.piece.name, feature=put.feature.id)
    at = spot.at + laid.right * spot.right - laid.up * spot.down
    px, py = middle(panel)
    move = at - px * spot.right + py * spot.down
    under = LaidOn(
        spot.piece.place, (float(move[0]), float(move[1])), (float(spot.right[0]), float(spot.right[1])), spot.piece.mirrored
    )
    thick = put.choices.cloth.thickness * (-1.0 if laid.inside else 1.0)
    return placed(panel, Beside(under, thick), name, on=spot.piece.name, feature=put.feature.id, inside=laid.inside)


def _named(panel: Panel, taken: set[str]) -> Panel:
    """A panel with a name of its own."""
    name, k = panel.name, 2
    while name in taken:
        name, k = f"{panel.name} {k}", k + 1
    taken.add(name)
    return panel if name == panel.name else replace(panel, name=name)


def changes_to(old: Feature, new: Feature) -> tuple[Change, ...]:
    """The changes that make one feature another."""
    where = refs.feature(old.id)
    names = [f.name for f in fields(old) if f.name not in ("id", "kind", "name", "options")]
    changed = [Change(where.at(name), getattr(new, name)) for name in names if getattr(new, name) != getattr(old, name)]
    options = [Change(where.at(f"options.{key}"), value) for key, value in new.options.items() if old.options.get(key) != value]
    return (*changed, *options)


def clean(feature: Feature, on: Site) -> bool:
    """Whether it can be put there with nothing to say about it."""
    put, found = put_on(feature, on)
    return put is not None and not found


def beside(others: Iterable[Feature], on: Site) -> Iterator[Put]:
    """Other features where they lie."""
    for feature in others:
        put, _ = put_on(feature, replace(on, before=()))
        if put is not None:
            yield put
