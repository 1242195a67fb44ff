"""A draft as plain data (`--json`, documented in docs/file-format.md) and as text for a terminal."""

from typing import Any

from omnipel.core.covers.scheme import Cover
from omnipel.core.draft import Draft, Drafted
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece
from omnipel.core.drafting.seams import Run, Trued
from omnipel.core.fit.going_on import Fit, fit_words
from omnipel.core.job.findings import Finding
from omnipel.core.pictures.sheet import by, count_words
from omnipel.core.words.phrases import Count, Voice, term, tr
from omnipel.core.words.sums import sum_words
from omnipel.core.words.working import Worked
from omnipel.exchange.papers.cutting import edge_words, seam_words


def report(draft: Draft, voice: Voice | None = None) -> dict[str, Any]:
    """Everything a draft holds, as JSON-ready data; keys are stable."""
    voice = voice or Voice(draft.job.unit)
    cover = draft.cover if isinstance(draft, Drafted) else Cover()
    return {
        "format": "omnipel-draft",
        "version": 7,
        "job": draft.job.name,
        "parts": {name: part(number, voice) for name, number in (draft.measured.sums if draft.measured else {}).items()},
        "sizes": {name: size.value for name, size in cover.sizes.items()},
        "by_hand": list(dict.fromkeys(cover.by_hand)),
        "panels": [_panel(panel, voice) for panel in draft.panels],
        "pieces": [_piece(piece) for piece in cover.pieces],
        "seams": [_seam(trued, apart) for trued, apart in zip(draft.seams, _apart(draft), strict=True)],
        "openings": _openings(cover, voice),
        "features": _features(draft, cover),
        "hardware": [
            {
                "name": voice.say(h.name),
                "length": h.length.value if h.length else None,
                "count": h.count,
                "note": voice.say(h.note),
                "terms": terms(h.length, voice) if h.length else [],
            }
            for h in cover.hardware
        ],
        "fit": _fit(draft.fit) if isinstance(draft, Drafted) and isinstance(draft.fit, Fit) else None,
        "sewn": _sewn(draft) if isinstance(draft, Drafted) else None,
        "doubtful": sorted(draft.doubtful) if isinstance(draft, Drafted) else [],
        "findings": [_finding(finding, voice) for finding in draft.findings],
    }


def part(number: Worked, voice: Voice) -> dict[str, Any]:
    """A part of the thing: its value, the sum that made it, and its slope for every reading."""
    slopes = dict(number.slopes.items())
    return {"value": number.value, "terms": terms(number, voice), "slopes": slopes}


def terms(size: Worked, voice: Voice) -> list[dict[str, Any]]:
    """The sum that made a number."""
    return [
        {
            "name": voice.say(t.name),
            "value": t.value,
            "amount": t.amount,
            "factor": t.factor,
            "how": voice.say(t.how) if t.how else "",
            "source": str(t.source) if t.source else "",
        }
        for t in size.terms
    ]


def _panel(panel: Panel, voice: Voice) -> dict[str, Any]:
    return {
        "name": panel.name,
        "cloth": panel.cloth.value,
        "count": panel.count,
        "mirrored": panel.mirrored,
        "grain": panel.grain,
        "fold": {"at": panel.fold.at, "heading": panel.fold.heading} if panel.fold is not None else None,
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
            key: terms(size, voice)
            for key, size in (
                ("length", panel.length),
                ("width", panel.width),
                ("cut_length", panel.cut_length),
                ("cut_width", panel.cut_width),
            )
        },
        "note": "; ".join(voice.say(note) for note in panel.notes),
    }


def _piece(piece: Piece) -> dict[str, Any]:
    return {"name": piece.name, "panel": piece.panel, "mirrored": piece.mirrored, "on": piece.on, "clear": piece.clear}


def _openings(cover: Cover, voice: Voice) -> list[dict[str, Any]]:
    """What stays open of the surface: its name, the edges around it in order, how long they are together, how they are finished and held."""
    return [
        {
            "name": edge.name,
            "length": edge.length.value,
            "terms": terms(edge.length, voice),
            "edges": [{"piece": run.piece, "edge": run.edge, "reversed": run.reversed} for run in edge.runs],
            "decided": edge.asked,
            "finish": {"kind": edge.finish.kind.value, "width": edge.finish.width, "turn_under": edge.finish.turn_under},
            "order": edge.order.value,
            "held_by": edge.held_by.value,
            "drawn_to": edge.drawn_to if edge.drawn else None,
        }
        for edge in cover.edges
    ]


def _features(draft: Draft, cover: Cover) -> list[dict[str, Any]]:
    """What is put on the cover, and the piece and place in space it came to lie at, mm; none of these where it lies nowhere."""
    made = []
    for feature in draft.job.cover.features:
        lying = cover.lying.get(feature.id)
        made.append(
            {
                "id": feature.id,
                "kind": feature.kind,
                "name": feature.name,
                "face": feature.face.value,
                "across": feature.from_centre,
                "down": feature.from_top,
                "piece": lying.piece if lying else None,
                "flat": list(lying.flat) if lying else None,
                "place": list(lying.place) if lying else None,
                "hangs": [
                    {"line": ribbon.line.tolist(), "length": ribbon.length, "wide": ribbon.wide}
                    for ribbon in cover.ribbons.get(feature.id, ())
                ],
            }
        )
    return made


def _apart(draft: Draft) -> tuple[float, ...]:
    return draft.sewn.apart if isinstance(draft, Drafted) else ()


def _sewn(draft: Drafted) -> dict[str, Any]:
    """The figures of the placed cover: how far seams gape at most, and where it comes nearest to the object for what is promised there."""
    near = draft.sewn.nearest
    return {
        "apart": max(draft.sewn.apart, default=0.0),
        "nearest": {"piece": near.piece, "at": list(near.at), "gap": near.gap, "promised": near.promised} if near else None,
    }


def _seam(trued: Trued, apart: float) -> dict[str, Any]:
    def side(runs: tuple[Run, ...]) -> list[dict[str, Any]]:
        return [{"piece": run.piece, "edge": run.edge, "reversed": run.reversed} for run in runs]

    return {
        "name": trued.seam.name,
        "kind": str(trued.seam.kind),
        "a": side(trued.seam.a),
        "b": side(trued.seam.b),
        "length_a": trued.length_a,
        "length_b": trued.length_b,
        "times": trued.times,
        "rows": trued.seam.rows,
        "tacked": trued.seam.tacked,
        "stretch": list(trued.seam.stretch) if trued.seam.stretch is not None else None,
        "wide": trued.seam.wide,
        "whole": trued.seam.whole or trued.seam.name,
        "onto": trued.seam.onto,
        "apart": apart,
        "ratio": trued.seam.ratio,
        "difference": trued.difference,
        "true": trued.true,
        "match_marks": [{"label": mark.label, "fraction": mark.fraction} for mark in trued.marks],
    }


def _fit(fit: Fit) -> dict[str, Any]:
    return {
        "verdict": fit.verdict.value,
        "chance": fit.chance,
        "sigma": fit.sigma,
        "slack": fit.tightest.left,
        "clearance": fit.tightest.clearance,
        "tightest_at": fit.tightest.depth,
        "matters_most": fit.matters_most,
        "shares": dict(fit.shares),
        "doubtful": list(fit.doubtful),
        "slacks": [{"depth": s.depth, "cover": s.cover.value, "passes": s.passes.value, "slack": s.left} for s in fit.slacks],
        "across": [
            {"way": s.way, "depth": s.depth, "cover": s.cover.value, "passes": s.passes.value, "slack": s.left}
            for s in fit.across
        ],
    }


def _finding(finding: Finding, voice: Voice) -> dict[str, Any]:
    return {
        "code": finding.code,
        "severity": finding.severity.value,
        "text": voice.sentence(finding.text),
        "where": str(finding.where),
        "remedies": [voice.say(remedy.words) for remedy in finding.remedies],
    }


def text(draft: Draft, voice: Voice | None = None) -> str:
    """A draft for a terminal: parts and panels with their sums, seams, fit, findings."""
    voice = voice or Voice(draft.job.unit)
    say = voice.say
    lines = [f"{draft.job.name}   ({say(tr('lengths in {unit}', unit=term(draft.job.unit.label)))})", ""]
    for panel in draft.panels:
        lines.append(f"{say(term(panel.name))}   {say(count_words(panel))}")
        named = ((tr("finished"), panel.length, panel.width), (tr("cut"), panel.cut_length, panel.cut_width))
        for words, long, wide in named:
            lines.append(f"  {say(words)}  {say(by(long, wide))}")
            lines += [f"       {line}" for line in dict.fromkeys(sum_words(size, voice) for size in (long, wide))]
        lines += [f"  {say(term(name))}  {sum_words(size, voice)}" for name, size in panel.sizes.items()]
        lines += [f"  {say(note)}" for note in panel.notes]
        lines.append("")
    lines += [say(tr("seam  {seam}", seam=seam_words(trued))) for trued in draft.seams]
    if isinstance(draft, Drafted):
        lines += [say(tr("edge  {edge}", edge=edge_words(edge))) for edge in draft.cover.edges]
        for item in draft.cover.hardware:
            amount = sum_words(item.length, voice) if item.length else say(Count(item.count))
            lines.append(f"{say(tr('buy   {item}', item=item.name))} {amount}" + (f"   ({say(item.note)})" if item.note else ""))
        if isinstance(draft.fit, Fit):
            lines.append(say(tr("fit   {words}", words=fit_words(draft.fit))))
    return "\n".join([*lines, *finding_lines(draft, voice)])


def finding_lines(draft: Draft, voice: Voice) -> list[str]:
    """Findings, one a line, remedies numbered below."""
    lines = []
    for finding in draft.findings:
        lines.append(f"{voice.say(term(finding.severity))}: {voice.sentence(finding.text)} [{finding.code} at {finding.where}]")
        lines += [f"      {i}. {voice.say(remedy.words)}" for i, remedy in enumerate(finding.remedies, 1)]
        lines += [f"      {voice.say(finding.advice)}"] if finding.advice else []
    return lines
