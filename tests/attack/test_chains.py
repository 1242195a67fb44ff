"""Remedies of jobs that nobody would write: a few hundred here, any number with `make attack`."""

from random import Random

import pytest

from omnipel.core.draft import draft
from tests.attack.chains import chain, faults
from tests.attack.jobs import attacked
from tests.wild import one_in

SEED = 8
BATCH = 10


@pytest.mark.parametrize("batch", range(0, 12, one_in(12)))
def test_every_remedy_does_what_it_says_and_every_chain_ends(batch: int) -> None:
    for i in range(batch * BATCH, (batch + 1) * BATCH):
        job = attacked(Random(SEED * 1_000_003 + i))
        drafted = draft(job)
        assert [(i, f.what, f.code, f.words, f.more) for f in faults(job, drafted)] == []
        ended = chain(job)
        assert ended.end in ("clean", "explained"), (i, ended)
