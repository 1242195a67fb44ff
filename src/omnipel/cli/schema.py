"""`omnipel schema`: the JSON Schema of a job."""

import argparse
import json

from omnipel.cli.usage import Commands, said
from omnipel.core.words.phrases import tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("schema", help=said(tr("the JSON Schema of a job")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.shop.document import schema

    print(json.dumps(schema(), indent=1))
    return 0
