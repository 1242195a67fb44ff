"""Plain data are as their schemas say, for every sample and every lawful pair, and the schemas in docs/ are those."""

import json
from dataclasses import replace

import pytest
from tests.test_docs import ROOT, pages
from tests.wild import one_in

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import draft
from omnipel.core.job.document import Job
from omnipel.core.words.phrases import Voice
from omnipel.exchange.asked import Order
from omnipel.exchange.export import DESPITE_STOP, exported
from omnipel.exchange.exports import EXPORTS
from omnipel.exchange.files.formats import FORMATS, adapter_of, schema_of
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter

WRITTEN = {"json": "draft", "takeoff": "takeoff", "orderdata": "order", "log": "log"}


def holds(job: Job) -> None:
    """What is written of a job is what its format knows, nothing more and nothing less."""
    order = Order(draft(job), Voice(job.unit), "A4")
    for export, name in WRITTEN.items():
        if EXPORTS[export].possible(order.draft):
            told = json.loads(exported(EXPORTS[export], order, DESPITE_STOP))
            assert adapter_of(name).validate_python(told) == told, (job.name, export)
    if EXPORTS["lays"].possible(order.draft):
        told = json.loads(exported(EXPORTS["lays"], order, DESPITE_STOP))
        for lay in told["lays"]:
            assert adapter_of("lay").validate_python(lay) == lay, job.name


@pytest.mark.parametrize("sample", SAMPLES[:: one_in(2)], ids=lambda s: s.__name__)
def test_of_samples(sample) -> None:  # type: ignore[no-untyped-def]
    holds(sample())


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs()[:: one_in(4)])
def test_of_pairs(form: str, scheme: str) -> None:
    holds(starter(form, scheme))
    holds(replace(starter(form, scheme), readings=()))


@pytest.mark.parametrize("name", FORMATS)
def test_the_schema_in_docs_is_the_format(name: str) -> None:
    assert pages().schema_of is schema_of
    assert json.loads((ROOT / "docs" / f"{name}.schema.json").read_text()) == schema_of(name), "make docs writes it anew"
