"""Features on panels: openings, pockets, patches, handles, fasteners. Each adds its own panels, hardware, marks and checks."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace

from omnipel.core.covers.places import middle
from omnipel.core.covers.scheme import Cover, one_each
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece, placed
from omnipel.core.finishing import elsewhere, laid_on, openings
from omnipel.core.finishing.placing import Additions, middle_of, over_others
from omnipel.core.job.document import CoverChoices, Feature, FeatureKind
from omnipel.core.job.findings import Act, Change, Finding, Impossible, Remedy, Severity
from omnipel.core.space.placements import Beside, Laid
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, term, tr
from omnipel.core.words.refs import Ref


def with_features(cover: Cover, choices: CoverChoices) -> Cover:
    """The cover with its features."""
    panels = one_each(cover.panels)
    added: list[Panel] = []
    pieces = list(cover.pieces)
    hardware, findings = list(cover.hardware), list(cover.findings)
    for i, feature in enumerate(choices.features):
        where, host = refs.feature(feature.id), panels.get(feature.panel)
        if host is None:
            text = tr(
                "{feature}: this cover has no panel named “{panel}”.", feature=Name(feature.name), panel=term(feature.panel)
            )
            findings.append(Finding("feature-off-panel", Severity.STOP, text, where, (without(feature),)))
            continue
        made = additions(feature, host, choices, choices.features[:i])
        panels[host.name] = replace(host, figures=(*host.figures, *made.figures), notches=(*host.notches, *made.notches))
        named = tuple(_numbered(made.panels, {*panels, *(panel.name for panel in added)}))
        added += named
        pieces += [_laid(panel, feature, host, cover, choices) for panel in named]
        hardware += made.hardware
        findings += [replace(found, remedies=(without(feature),)) for found in made.findings]
    panels.update((panel.name, panel) for panel in added)
    return replace(cover, panels=tuple(panels.values()), pieces=tuple(pieces), hardware=tuple(hardware), findings=tuple(findings))


def _laid(panel: Panel, feature: Feature, host: Panel, cover: Cover, choices: CoverChoices) -> Piece:
    """A panel of a feature on the outside of the first piece of its host, its middle where the feature's is."""
    under = next(piece for piece in cover.pieces if piece.panel == host.name)
    (x, y), (px, py) = middle_of(feature, host), middle(panel)
    out = choices.cloth.thickness
    return placed(panel, Beside(Laid(under.place, (x - px, y - py)), -out if under.mirrored else out), on=under.name)


def additions(feature: Feature, host: Panel, choices: CoverChoices, before: Sequence[Feature]) -> Additions:
    """What a feature adds where it lies, and what there is to say about it beside those that were put there before."""
    where, made = refs.feature(feature.id), Additions()
    try:
        _HANDLERS[feature.kind](feature, host, choices, where, made)
    except Impossible as impossible:
        text = tr("{feature}: {fault}.", feature=Name(feature.name), fault=impossible.text)
        made.say(Finding("size-impossible", Severity.STOP, text, where))
    made.say(over_others(feature, host, [other for other in before if other.panel == host.name], where))
    return made


def clean(feature: Feature, host: Panel, choices: CoverChoices, others: Sequence[Feature]) -> bool:
    """Whether there is nothing to say about a feature on a panel, beside all others."""
    return not additions(feature, host, choices, others).findings


def without(feature: Feature) -> Remedy:
    """Do without the feature."""
    return Remedy(tr("Leave {feature} out", feature=Name(feature.name)), (Change(refs.feature(feature.id), act=Act.REMOVE),))


def cures(feature: Feature, cover: Cover, choices: CoverChoices) -> Iterator[Remedy]:
    """What would put a feature right: another place, edge, size or panel, each tried."""
    hosts = {panel.name: panel for panel in cover.panels if panel.name in cover.hosts}
    others = tuple(other for other in choices.features if other.id != feature.id)
    for words, other in elsewhere.variants(feature, hosts, choices, others):
        if clean(other, hosts[other.panel], choices, others):
            yield Remedy(words, changes_to(feature, other))


def changes_to(old: Feature, new: Feature) -> tuple[Change, ...]:
    """The changes that make one feature another."""
    where = refs.feature(old.id)
    names = ("panel", "edge", "slit_to", "flap", "from_centre", "from_top", "width", "height")
    return tuple(Change(where.at(name), getattr(new, name)) for name in names if getattr(new, name) != getattr(old, name))


def _numbered(added: list[Panel], taken: set[str]) -> Iterator[Panel]:
    """Panels of features with names of their own."""
    for panel in added:
        name, k = panel.name, 2
        while name in taken:
            name, k = f"{panel.name} {k}", k + 1
        taken.add(name)
        yield replace(panel, name=name)


_HANDLERS: dict[FeatureKind, Callable[[Feature, Panel, CoverChoices, Ref, Additions], None]] = {
    FeatureKind.PORT: openings.opening,
    FeatureKind.VENT: openings.vent,
    FeatureKind.WINDOW: openings.window,
    FeatureKind.POCKET: laid_on.pocket,
    FeatureKind.PATCH: laid_on.patch,
    FeatureKind.HANDLE: laid_on.handle,
    FeatureKind.SNAP: laid_on.fasteners,
    FeatureKind.GROMMET: laid_on.fasteners,
    FeatureKind.TIE: laid_on.fasteners,
    FeatureKind.CORD_EXIT: laid_on.fasteners,
    FeatureKind.HOOK_AND_LOOP: laid_on.strip,
    FeatureKind.ZIP: laid_on.strip,
}
