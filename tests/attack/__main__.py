"""Run any number of attacks: `python -m tests.attack chains|cloth|drawings|documents|arguments|lines|window 2000 [seed]`."""

import sys
import time
from collections import Counter
from collections.abc import Callable
from random import Random

from omnipel.core.draft import draft
from tests.attack import cloth, documents, drawings, window
from tests.attack.chains import chain, faults
from tests.attack.jobs import attacked


def chains(number: int, seed: int) -> int:
    """Fix chains: how they end, and what remedies do that they must not; how many faults there were."""
    ends: Counter[str] = Counter()
    wrong: Counter[tuple[str, str]] = Counter()
    examples: dict[tuple[str, str], tuple[int, str, str]] = {}
    start, remedies = time.monotonic(), 0
    for i in range(number):
        job = attacked(Random(seed * 1_000_003 + i))
        drafted = draft(job)
        remedies += sum(len(finding.remedies) for finding in drafted.findings)
        for fault in faults(job, drafted):
            wrong[fault.what, fault.code] += 1
            examples.setdefault((fault.what, fault.code), (i, fault.words, fault.more))
        ended = chain(job)
        ends[ended.end] += 1
        if ended.end not in ("clean", "explained"):
            wrong["chain", ended.end] += 1
            examples.setdefault(("chain", ended.end), (i, " → ".join(ended.codes), ""))
    print(f"{number} jobs, seed {seed}, {remedies} remedies, {time.monotonic() - start:.0f} s: {dict(ends)}")
    for what, times in wrong.most_common():
        print(f"{times:5} {what[0]}: {what[1]}, as in {examples[what]}")
    return sum(wrong.values())


def told(attack: Callable[[int, int], tuple[Counter[str], list[str]]]) -> Callable[[int, int], int]:
    """An attack that prints what it found; how many faults there were."""

    def run(number: int, seed: int) -> int:
        start = time.monotonic()
        how, faults = attack(number, seed)
        print(f"{number} of seed {seed}, {time.monotonic() - start:.0f} s: {dict(how)}, {len(faults)} faults")
        for fault in faults[:20]:
            print(fault[:600])
        return len(faults)

    return run


ATTACKS = {
    "chains": chains,
    "cloth": told(cloth.cloth),
    "drawings": told(drawings.attack),
    "documents": told(documents.documents),
    "arguments": told(documents.arguments),
    "lines": told(documents.lines),
    "window": told(window.soak),
}

if __name__ == "__main__":
    which, number, seed = sys.argv[1], int(sys.argv[2]), int(sys.argv[3]) if len(sys.argv) > 3 else 1
    sys.exit(min(1, ATTACKS[which](number, seed)))
