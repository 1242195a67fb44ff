"""Features on panels: openings, pockets, patches, handles, fasteners. Each adds its own panels, hardware, marks and checks."""

from collections.abc import Callable, Iterator
from dataclasses import replace

from omnipel.core.covers.scheme import Cover, one_each
from omnipel.core.drafting.panel import Panel
from omnipel.core.finishing import laid_on, openings
from omnipel.core.finishing.placing import Additions, leave_out
from omnipel.core.job.document import CoverChoices, Feature, FeatureKind
from omnipel.core.job.findings import Change, Finding, Impossible, Remedy, Severity
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, term, tr
from omnipel.core.words.refs import Ref


def with_features(cover: Cover, choices: CoverChoices) -> Cover:
    """The cover with its features."""
    panels = one_each(cover.panels)
    added: list[Panel] = []
    hardware, findings = list(cover.hardware), list(cover.findings)
    for feature in choices.features:
        where = refs.feature(feature.id)
        host = panels.get(feature.panel)
        if host is None:
            findings.append(_off(feature, where, cover))
            continue
        made = Additions()
        try:
            _HANDLERS[feature.kind](feature, host, choices, where, made)
        except Impossible as impossible:
            text = tr("{feature}: {fault}.", feature=Name(feature.name), fault=impossible.text)
            made.findings.append(Finding("size-impossible", Severity.STOP, text, where, (leave_out(where),)))
        panels[host.name] = replace(host, figures=(*host.figures, *made.figures), notches=(*host.notches, *made.notches))
        added += made.panels
        hardware += made.hardware
        findings += made.findings
    named = tuple(_numbered(added, set(panels)))
    return replace(cover, panels=(*panels.values(), *named), hardware=tuple(hardware), findings=tuple(findings))


def _numbered(added: list[Panel], taken: set[str]) -> Iterator[Panel]:
    """Panels of features with names of their own."""
    for panel in added:
        name, k = panel.name, 2
        while name in taken:
            name, k = f"{panel.name} {k}", k + 1
        taken.add(name)
        yield replace(panel, name=name)


def _off(feature: Feature, where: Ref, cover: Cover) -> Finding:
    remedies = tuple(
        Remedy(tr("Put it on the {panel}", panel=term(p.name)), (Change(where.at("panel"), p.name),)) for p in cover.panels[:2]
    )
    text = tr("{feature}: this cover has no panel named “{panel}”.", feature=Name(feature.name), panel=term(feature.panel))
    return Finding("feature-off-panel", Severity.STOP, text, where, (*remedies, leave_out(where)))


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
