"""The sample shop: Quillet Hill, a made-up hillside orchard and apiary co-operative that covers its kit for the winter."""

from collections.abc import Callable
from pathlib import Path

from omnipel.core.job.changes import changed
from omnipel.core.job.document import Job
from omnipel.core.job.findings import Change
from omnipel.core.words import refs
from omnipel.shop.sample.round import (
    barrow_wheel,
    churn,
    crocks,
    extractor,
    flagon,
    fruit_tub,
    rain_butt,
    rain_butt_west,
    rain_butt_west_again,
    settling_tank,
    turntable,
    wax_melter,
)
from omnipel.shop.sample.sewn import sewn
from omnipel.shop.sample.stocked import stocked
from omnipel.shop.sample.straight import (
    bench_cushion,
    bottling_trolley,
    comb_board,
    feed_bin,
    label_printer,
    nozzle_case,
    platform_scale,
    press_motor,
    pump_case,
    seed_cleaner,
    trestle_table,
)
from omnipel.shop.sample.tried import tried
from omnipel.shop.stockroom import Stockroom
from omnipel.shop.store import Store

SAMPLES: tuple[Callable[[], Job], ...] = (
    feed_bin,
    rain_butt_west,
    nozzle_case,
    rain_butt_west_again,
    label_printer,
    bench_cushion,
    comb_board,
    wax_melter,
    flagon,
    pump_case,
    seed_cleaner,
    bottling_trolley,
    crocks,
    trestle_table,
    platform_scale,
    press_motor,
    turntable,
    barrow_wheel,
    fruit_tub,
    churn,
    settling_tank,
    rain_butt,
    extractor,
)
"""The last one is touched last and stands first on the shelf."""


def fill(path: Path) -> Store:
    """A fresh copy of the sample shop at a path where there is none yet."""
    store = Store(path)
    if not store.cards(archived=True):
        for sample in SAMPLES:
            job = sample()
            # Two steps, so that undo has something to show from the start.
            key = store.add(changed(job, Change(refs.of_job("notes"), "")), "sample job")
            if job.notes:
                store.commit(key, job, "notes")
            if (later := sewn(job)) != job:
                store.commit(key, later, "as far as it is sewn")
            if (after := sewn(tried(later))) != later:
                store.commit(key, after, "tried on")
        Stockroom(store).book("what was there at the beginning", list(stocked()))
    return store
