"""The order of work as plain data (`omnipel order --json`, documented in docs/file-format.md) and as text for a terminal."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from omnipel.core.job.findings import Finding
from omnipel.core.sewing.howto import how
from omnipel.core.sewing.plan import Plan, Span, Step
from omnipel.core.sewing.saying import changeover_words, covers_words, range_words, rig_words
from omnipel.core.words.phrases import Minutes, Name, Phrase, Voice, mm, tr


def order_data(plan: Plan, found: Sequence[Finding], voice: Voice) -> dict[str, Any]:
    """The whole plan; keys are stable."""
    ordered, done = plan.ordered, plan.making.drafted.job.sewing.done
    return {
        "format": "omnipel-order",
        "version": 1,
        "job": plan.making.drafted.job.name,
        "covers": plan.copies,
        "minutes": _span(plan.span()),
        "left": _span(plan.span(done)),
        "changeovers": ordered.changeovers,
        "least_changeovers": ordered.least_changeovers,
        "proven": ordered.proven,
        "by_hand": ordered.by_hand,
        "steps": [_step(plan, step, voice, done=step.key in done) for step in plan.steps],
        "findings": [
            {
                "code": finding.code,
                "severity": finding.severity.value,
                "text": voice.say(finding.text),
                "where": str(finding.where),
                "remedies": [voice.say(remedy.words) for remedy in finding.remedies],
            }
            for finding in found
        ],
    }


def _span(span: Span) -> dict[str, float]:
    return {"likely": span.likely, "low": span.low, "high": span.high}


def _step(plan: Plan, step: Step, voice: Voice, *, done: bool) -> dict[str, Any]:
    operation = step.operation
    return {
        "number": step.number,
        "key": step.key,
        "kind": operation.deed,
        "part": operation.did.when.value,
        "words": voice.say(operation.words),
        "where": str(operation.ref),
        "station": step.rig.station,
        "foot": step.rig.foot,
        "needle": step.rig.needle,
        "thread": step.rig.thread,
        "stitch": step.rig.stitch,
        "changeover": step.changeover,
        "pieces": list(operation.on),
        "seams": [plan.making.seams[i].name for i in operation.seams],
        "edges": [{"piece": run.piece, "edge": run.edge} for run in operation.edges],
        "opening": operation.opening,
        "feature": operation.feature,
        "minutes": {
            "planned": step.work.minutes,
            **_span(step.likely),
            "terms": [
                {"words": voice.say(part.words), "minutes": part.minutes, "how": voice.say(part.how)} for part in step.work.parts
            ],
        },
        "settings": {voice.say(name): voice.say(words) for name, words in step.settings},
        "notes": [voice.say(note) for note in operation.notes],
        "checks": [{"words": voice.say(check.words), "length": check.length or None} for check in operation.checks],
        "cautions": [{"key": caution.key, "words": voice.say(caution.words)} for caution in step.cautions],
        "how": [voice.say(sentence) for sentence in how(operation.deed)],
        "after": [
            {"key": before.first, "why": voice.say(before.why), "rule": before.rule} for before in plan.orders.ahead(step.key)
        ],
        "done": done,
    }


def order_text(plan: Plan, found: Sequence[Finding], voice: Voice) -> str:
    """The order of work as a list with what to set, to mind and to check."""
    return "\n".join(_lines(plan, found, voice))


def _lines(plan: Plan, found: Sequence[Finding], voice: Voice) -> Iterator[str]:
    job, done = plan.making.drafted.job, plan.making.drafted.job.sewing.done
    yield voice.say(
        tr("{job}: {covers}, {minutes}", job=Name(job.name), covers=covers_words(plan.copies), minutes=range_words(plan.span()))
    )
    yield voice.say(changeover_words(plan))
    for step in plan.steps:
        if step.changeover or step.number == 1:
            yield ""
            yield voice.say(tr("— {station}", station=rig_words(step.rig)))
        tick = "x" if step.key in done else " "
        yield f"[{tick}] {step.number:>3} {voice.say(step.operation.words)} ({voice.say(Minutes(step.likely.likely))})"
        yield from (f"        {voice.say(line)}" for line in _details(step))
    if found:
        yield ""
        for finding in found:
            yield f"{voice.say(finding.severity.words)}: {voice.say(finding.text)}"


def _details(step: Step) -> Iterator[Phrase]:
    """What to mind first, then what to set and to check."""
    for caution in step.cautions:
        yield tr("! {caution}", caution=caution.words)
    for name, words in step.settings:
        yield tr("{name}: {words}", name=name, words=words)
    for check in step.operation.checks:
        yield check_words(check.words, check.length)


def check_words(words: Phrase, length: float) -> Phrase:
    """Something to look at when it is done, with its number."""
    return tr("check: {words} {length}", words=words, length=mm(length)) if length else tr("check: {words}", words=words)
