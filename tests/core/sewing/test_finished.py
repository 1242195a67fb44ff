"""Every edge is finished once, in the way that was decided, as deep as it was drafted, and what it takes is on the list: of wild covers."""

import random
from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.sewing.jobs import varied
from tests.wild import one_in, tried, wild_jobs

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import Iron
from omnipel.core.job.finish import FOLDED, Finish, FinishKind
from omnipel.core.sewing.making import Making
from omnipel.core.sewing.operations import Operation
from omnipel.core.sewing.plan import planned

DEEDS = {
    FinishKind.SINGLE_HEM: "hem",
    FinishKind.DOUBLE_HEM: "hem",
    FinishKind.CORD_CASING: "casing",
    FinishKind.ELASTIC_CASING: "casing",
    FinishKind.FACING: "hem",
    FinishKind.BOUND: "bind edge",
    FinishKind.PIPED: "pipe edge",
    FinishKind.RAW: "seal edge",
}
"""What finishes an edge for good, by its finish."""
FIRST = {"hem": ("press hem", "score hem", "face edge"), "casing": ("press hem", "score hem")}
"""What has to be done to it before."""
DRAWN = {
    FinishKind.CORD_CASING: ("lay cord", "thread", "sew over cord", "finish cord"),
    FinishKind.ELASTIC_CASING: ("thread", "join elastic", "close casing"),
}
"""What is done for what runs in a casing, and for nothing else."""
Place = tuple[str, str]


def wrong(drafted: Drafted, order: Sequence[Operation]) -> Iterator[str]:
    """Whatever is not finished as it is drafted."""
    making = Making(drafted)
    decided = {(run.piece, run.edge): making.edge(run).finish for edge in making.edges for run in edge.runs}
    done: dict[Place, list[tuple[int, Operation]]] = defaultdict(list)
    for at, operation in enumerate(order):
        if operation.opening:
            for run in operation.edges:
                done[(run.piece, run.edge)].append((at, operation))
    for place, finish in decided.items():
        yield from of_edge(place, finish, done[place], making)
    yield from of_lengths(making, order)
    for place in set(done) - set(decided):
        yield f"{place}: finished, and no edge of an opening"


def of_edge(place: Place, finish: Finish, done: Sequence[tuple[int, Operation]], making: Making) -> Iterator[str]:
    """What is wrong with how one edge of an opening is finished."""
    cloth = making.choices.cloth
    final = [(at, o) for at, o in done if o.deed in DEEDS.values()]
    wanted = DEEDS.get(finish.kind)
    if finish.kind is FinishKind.RAW and (not cloth.frays or cloth.hot_cut):
        wanted = None
    if [o.deed for _, o in final] != ([wanted] if wanted else []):
        yield f"{place}, {finish.kind}: {[o.deed for _, o in final]}, not {wanted}"
        return
    for at, operation in final:
        first = [before for before, o in done if o.deed in FIRST.get(operation.deed, ())]
        if operation.deed in FIRST and not first:
            yield f"{place}: {operation.deed}, and it was not folded"
        if any(before > at for before in first):
            yield f"{place}: {operation.deed} before it is folded"
    for _, operation in done:
        if operation.deed in ("press hem", "score hem"):
            checked = [check.length for check in operation.checks if check.length]
            if checked != [depth for depth in (finish.width, finish.turn_under) if depth]:
                yield f"{place}: folded {checked}, drafted {finish.width}, {finish.turn_under}"
            if (operation.deed == "press hem") is (cloth.iron is Iron.NEVER):
                yield f"{place}: {operation.deed} though the iron is {cloth.iron}"
    ran = {o.deed for _, o in done} & {deed for deeds in DRAWN.values() for deed in deeds}
    if ran - set(DRAWN.get(finish.kind, ())):
        yield f"{place}, {finish.kind}: {ran}"


def of_lengths(making: Making, order: Sequence[Operation]) -> Iterator[str]:
    """Work along edges is reckoned with their length, each edge once."""
    for operation in order:
        if operation.deed in ("hem", "casing", "bind edge") and operation.opening:
            long = making.long(operation.edges)
            if operation.work and abs(operation.work[0].amount - long) > 1e-6 * max(1.0, long):
                yield f"{operation.key}: {operation.work[0].amount} for {long}"
        twice = [run for run, n in Counter((run.piece, run.edge) for run in operation.edges).items() if n > 1]
        if operation.opening and twice:
            yield f"{operation.key}: {twice} twice"


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs()[:: one_in(3)])
def test_every_edge_is_finished_once_as_it_was_decided(form: str, scheme: str) -> None:
    @tried(24)
    @given(wild_jobs(form, scheme), st.randoms(use_true_random=False))
    def finished(job: Any, lot: random.Random) -> None:
        made = draft(varied(job, lot) if lot.random() < 0.7 else job)
        if isinstance(made, Drafted):
            assert list(wrong(made, [step.operation for step in planned(made).steps])) == []

    finished()


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs()[:: one_in(6)])
def test_what_is_folded_is_folded_on_an_edge_and_never_on_a_lining_that_is_bagged(form: str, scheme: str) -> None:
    """Hems stand in the order of work for every folded edge that lies free, and for no other."""

    @tried(12)
    @given(wild_jobs(form, scheme))
    def hemmed(job: Any) -> None:
        made = draft(job)
        if not isinstance(made, Drafted):
            return
        making = Making(made)
        folded = {
            (name, edge.name)
            for name in making.surface
            for edge in making.flat[name].edges
            if making.flat[name].cloth is Cloth.OUTER and edge.finish.kind in FOLDED and (name, edge.name) not in making.in_seam
        }
        sewn = Counter(
            (run.piece, run.edge)
            for step in planned(made).steps
            if step.operation.deed in ("hem", "casing")
            for run in step.operation.edges
        )
        assert {place for place in folded if sewn[place] != 1} == set()

    hemmed()
