"""Handing instructions over to a real machine: to its device, or to a print queue that passes them on as they are."""

from __future__ import annotations

import shutil
import subprocess
from pathlib import Path
from typing import Final

from omnipel.core.words.phrases import Name, Refusal, tr
from omnipel.shop.reasons import reason_of
from omnipel.shop.whole import write_whole

QUEUE: Final = "queue:"
LONGEST_S: Final = 30.0


class NotHandedOver(Refusal):
    """A print queue did not take it, and why."""


def handed_over(content: bytes, where: str) -> None:
    """Write instructions to a device or file, or give them to a print queue (`queue:name`) as they are.

    Raises:
        NotHandedOver: there is no such print queue.
        NotWritten: the device or file cannot be written.
    """
    if not where.startswith(QUEUE):
        write_whole(Path(where).expanduser(), content)
        return
    program = shutil.which("lp")
    if program is None:
        raise NotHandedOver(tr("this machine has no print queues: the program lp is missing"))
    name = where.removeprefix(QUEUE)
    told = [program, "-d", name, "-o", "raw"]
    try:
        made = subprocess.run(told, input=content, capture_output=True, timeout=LONGEST_S, check=False)
    except (OSError, subprocess.TimeoutExpired) as error:
        raise NotHandedOver(
            tr("the print queue {name} does not answer: {fault}", name=Name(name), fault=reason_of(error))
        ) from None
    if made.returncode:
        fault = " ".join(made.stderr.decode(errors="replace").split())[:120]
        raise NotHandedOver(tr("the print queue {name} does not take it: {fault}", name=Name(name), fault=Name(fault)))
