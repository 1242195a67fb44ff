"""`omnipel advise`: small lawful changes that save a buying step."""

import argparse
import json
from pathlib import Path

from omnipel.cli.stock import drafts, stock_of
from omnipel.cli.usage import Commands, UsageError, said, voiced
from omnipel.core.words.phrases import Count, tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("advise", help=said(tr("small changes to a job that save a buying step of cloth")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("--apply", type=int, metavar="N", help=said(tr("make the change with this number, in the job's file")))
    parser.add_argument("--json", action="store_true", help=said(tr("as documented in docs/file-format.md")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.cloth.saving import advised, sentence
    from omnipel.core.job.changes import changed
    from omnipel.exchange.files.travel import write_job as write
    from omnipel.shop.document import lawful

    drafted = drafts([asked.job])[0]
    found, voice = advised(drafted, stock_of(asked), lawful), voiced(drafted.job.unit)
    if asked.apply is not None:
        if not 1 <= asked.apply <= len(found):
            raise UsageError(tr("--apply takes 1 to {n} here", n=Count(len(found))))
        write(changed(drafted.job, *found[asked.apply - 1].changes), asked.job)
    if asked.json:
        keys = ("layer", "less", "saves", "before", "used", "after", "needs")
        data = [
            {
                "words": voice.say(a.words),
                "costs": voice.say(a.costs),
                **{key: getattr(a, key) for key in keys},
                "changes": [str(c.ref) for c in a.changes],
            }
            for a in found
        ]
        print(json.dumps(data, indent=1, ensure_ascii=False))
        return 0
    for number, advice in enumerate(found, 1):
        print(f"{number}. {voice.sentence(sentence(advice))}")
    if not found:
        print(voice.say(tr("No small change saves a step.")))
    return 0
