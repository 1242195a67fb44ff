"""A draft as plain data (`--json`, documented in docs/file-format.md) and as text for a terminal."""

from typing import Any

from omnipel.core.draft import Draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Run, Trued
from omnipel.core.findings import Finding
from omnipel.core.fit.going_on import Fit
from omnipel.core.pictures.sums import sum_words
from omnipel.core.tape.units import format_length
from omnipel.core.working import Worked


def report(draft: Draft) -> dict[str, Any]:
    """Everything a draft holds, as JSON-ready data; keys are stable."""
    return {
        "format": "omnipel-draft",
        "version": 1,
        "job": draft.job.name,
        "sizes": {name: size.value for name, size in draft.cover.sizes.items()},
        "panels": [_panel(panel) for panel in draft.panels],
        "seams": [_seam(trued) for trued in draft.seams],
        "hardware": [
            {
                "name": h.name,
                "length": h.length.value if h.length else None,
                "count": h.count,
                "note": h.note,
                "terms": terms(h.length) if h.length else [],
            }
            for h in draft.cover.hardware
        ],
        "fit": _fit(draft.fit) if draft.fit else None,
        "findings": [_finding(finding) for finding in draft.findings],
    }


def terms(size: Worked) -> list[dict[str, Any]]:
    """The sum that made a number."""
    return [
        {"name": t.name, "value": t.value, "amount": t.amount, "factor": t.factor, "how": t.how, "source": t.source}
        for t in size.terms
    ]


def _panel(panel: Panel) -> dict[str, Any]:
    return {
        "name": panel.name,
        "cloth": panel.cloth.value,
        "count": panel.count,
        "mirrored": panel.mirrored,
        "grain": panel.grain,
        "sew": {"length": panel.length.value, "width": panel.width.value, "outline": panel.sew_points.tolist()},
        "cut": {"length": panel.cut_length.value, "width": panel.cut_width.value, "outline": cut_line(panel).tolist()},
        "rough_cut": panel.rough_cut,
        "edges": [
            {"name": e.name, "length": e.curve.length, "finish": e.finish.kind.value, "allowance": e.finish.allowance}
            for e in panel.edges
        ],
        "notches": [{"edge": n.edge, "fraction": n.fraction, "label": n.label, "kind": n.kind.value} for n in panel.notches],
        "figures": [
            {"name": f.name, "kind": f.kind.value, "closed": f.closed, "points": f.points.tolist()} for f in panel.figures
        ],
        "sizes": {name: size.value for name, size in panel.sizes.items()},
        "terms": {
            key: terms(size)
            for key, size in (
                ("length", panel.length),
                ("width", panel.width),
                ("cut_length", panel.cut_length),
                ("cut_width", panel.cut_width),
            )
        },
        "note": panel.note,
    }


def _seam(trued: Trued) -> dict[str, Any]:
    def side(runs: tuple[Run, ...]) -> list[dict[str, Any]]:
        return [{"panel": run.panel, "edge": run.edge, "reversed": run.reversed} for run in runs]

    return {
        "name": trued.seam.name,
        "kind": trued.seam.kind.value,
        "a": side(trued.seam.a),
        "b": side(trued.seam.b),
        "length_a": trued.length_a,
        "length_b": trued.length_b,
        "ratio": trued.seam.ratio,
        "difference": trued.difference,
        "true": trued.true,
        "match_marks": [{"label": mark.label, "fraction": mark.fraction} for mark in trued.marks],
    }


def _fit(fit: Fit) -> dict[str, Any]:
    return {
        "verdict": fit.verdict,
        "chance": fit.chance,
        "sigma": fit.sigma,
        "slack": fit.tightest.slack.value,
        "clearance": fit.tightest.clearance,
        "tightest_at": fit.tightest.depth,
        "matters_most": fit.matters_most,
        "shares": dict(fit.shares),
        "slacks": [
            {"depth": s.depth, "cover": s.cover.value, "passes": s.passes.value, "slack": s.slack.value} for s in fit.slacks
        ],
    }


def _finding(finding: Finding) -> dict[str, Any]:
    return {
        "code": finding.code,
        "severity": finding.severity.value,
        "text": finding.text,
        "where": finding.where,
        "remedies": [remedy.words for remedy in finding.remedies],
    }


def text(draft: Draft) -> str:
    """A draft for a terminal: panels with their sums, seams, fit, findings."""
    unit = draft.job.unit
    lines = [f"{draft.job.name}   (lengths in {unit.words})", ""]
    for panel in draft.panels:
        lines.append(f"{panel.name}   cut {panel.count} · {panel.cloth}")
        named = [("sew", panel.length, panel.width), ("cut", panel.cut_length, panel.cut_width)]
        for words, long, wide in named:
            lines.append(f"  {words}  {format_length(long.value, unit)} × {format_length(wide.value, unit)}")
            lines += [f"       {sum_words(size, unit)}" for size in (long, wide)]
        for name, size in panel.sizes.items():
            lines.append(f"  {name}  {sum_words(size, unit)}")
        if panel.note:
            lines.append(f"  {panel.note}")
        lines.append("")
    for trued in draft.seams:
        state = "true" if trued.true else f"NOT TRUE by {format_length(trued.difference, unit, fine=True)}"
        lines.append(
            f"seam  {trued.seam.name}: {format_length(trued.length_a, unit, fine=True)} to {format_length(trued.length_b, unit, fine=True)}, {state}"
        )
    for item in draft.cover.hardware:
        amount = sum_words(item.length, unit) if item.length else str(item.count)
        lines.append(f"buy   {item.name} {amount}" + (f"   ({item.note})" if item.note else ""))
    if draft.fit:
        lines.append(
            f"fit   {draft.fit.verdict}, chance {draft.fit.chance:.0%}, slack {format_length(draft.fit.tightest.slack.value, unit, fine=True)} around"
        )
    return "\n".join([*lines, *finding_lines(draft)])


def finding_lines(draft: Draft) -> list[str]:
    """Findings, one a line, remedies numbered below."""
    lines = []
    for finding in draft.findings:
        lines.append(f"{finding.severity}: {finding.text} [{finding.code} at {finding.where}]")
        lines += [f"      {i}. {remedy.words}" for i, remedy in enumerate(finding.remedies, 1)]
    return lines
