"""`omnipel cutter`: the simulated cutter."""

from omnipel.cli.usage import Commands, said
from omnipel.core.words.phrases import tr
from omnipel.cutter.__main__ import options, run


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("cutter", help=said(tr("a simulated cutter: takes HPGL and draws what it cuts")))
    options(parser)
    parser.set_defaults(run=run)
