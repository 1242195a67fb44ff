"""`make messages`: every template that is looked up, as a catalogue for translators (build/omnipel.pot), and each language brought up to it.

Most stand in calls of `tr` and `trn`. Words that are also identities (a panel's name, an edge's, a pick of a scheme, a kind of finish) are
gathered from what the schemes draft and from the enumerations of the core; of names that are made of names only how they are made.
"""

import ast
import importlib
import pkgutil
import sys
from collections.abc import Iterator
from enum import StrEnum
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

import omnipel.core
from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.covers.sizes import size_words
from omnipel.core.draft import Draft, Drafted, draft
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.words.phrases import term
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter
from omnipel.tongues.names import CONTEXT, READ, WAYS

ROOT = Path(__file__).parent.parent
SOURCES = ROOT / "src" / "omnipel"
TARGET = ROOT / "build" / "omnipel.pot"
TONGUES = SOURCES / "tongues"
TYPED = {feature.name for sample in SAMPLES for feature in sample().cover.features}


def catalogue() -> Catalog:
    """The catalogue."""
    made = Catalog(project="omnipel", charset="utf-8")
    for path in sorted(SOURCES.rglob("*.py")):
        place = str(path.relative_to(ROOT))
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in ("tr", "trn", "term")):
                continue
            texts = [a.value for a in node.args[:2] if isinstance(a, ast.Constant) and isinstance(a.value, str)]
            if node.func.id == "trn" and len(texts) == 2:
                made.add((texts[0], texts[1]), locations=[(place, node.lineno)])
            elif texts:
                made.add(term(texts[0]).template if node.func.id == "term" else texts[0], locations=[(place, node.lineno)])
    for way in WAYS:
        made.add(way, context=CONTEXT)
    for words in identities():
        made.add(term(words).template)
    for words in sorted(set(names())):
        gather(term(words).template, made)
    return made


def gather(name: str, made: Catalog) -> None:
    """A name, or the names that it is made of; a person's words are nobody's to translate."""
    if not name or name.isdigit() or name in made or name in TYPED:
        return
    for _, pattern in READ:
        if found := pattern.fullmatch(name):
            for part in found.groups():
                gather(part, made)
            return
    made.add(name)


def identities() -> Iterator[str]:
    """Words that are also choices inside."""
    for kind in _enumerations():
        for member in kind:
            yield member.value
            yield from (text for text in (getattr(member, "label", ""),) if isinstance(text, str) and text)
    for choices in (*SCHEMES.values(), *KINDS.values()):
        for option in choices.options:
            yield from option.picks


def names() -> Iterator[str]:
    """Words that name parts of a cover."""
    for job in (*(starter(form, scheme) for form, scheme in lawful_pairs()), *(sample() for sample in SAMPLES)):
        yield from _drafted(draft(job))


def _enumerations() -> Iterator[type[StrEnum]]:
    for found in pkgutil.walk_packages(omnipel.core.__path__, "omnipel.core."):
        module = importlib.import_module(found.name)
        for value in vars(module).values():
            if (
                isinstance(value, type)
                and issubclass(value, StrEnum)
                and value is not StrEnum
                and value.__module__ == module.__name__
            ):
                yield value


def _drafted(drafted: Draft) -> Iterator[str]:
    if not isinstance(drafted, Drafted):
        return
    yield from (piece.name for piece in drafted.cover.pieces)
    for panel in drafted.panels:
        yield panel.name
        yield from panel.sizes
        yield from (edge.name for edge in panel.edges)
        yield from (figure.name for figure in panel.figures)
    yield from (trued.seam.name for trued in drafted.seams)
    yield from (edge.name for edge in drafted.cover.edges)
    yield from (size_words(name).template for name in drafted.cover.by_hand)


def brought_up(template: Catalog, source: Path) -> list[str]:
    """Bring a language's catalogue up to the templates and compile it; what it does not say yet, or says of what is gone."""
    with source.open("rb") as file:
        spoken = read_po(file, locale=source.stem, domain="omnipel")
    spoken.update(template, no_fuzzy_matching=True, update_header_comment=False)
    spoken.obsolete.clear()
    with source.open("wb") as target:
        write_po(target, spoken, width=0, no_location=True, omit_header=False, sort_output=False, ignore_obsolete=True)
    with source.with_suffix(".mo").open("wb") as compiled:
        write_mo(compiled, spoken)
    return [
        str(message.id)
        for message in spoken
        if message.id and not all(message.string if message.pluralizable else [message.string])
    ]


def compiled_arguments(source: Path) -> None:
    """Compile what Python's own reader of arguments says; its templates are Python's, another version has others, so none is dropped."""
    with source.open("rb") as file, source.with_suffix(".mo").open("wb") as compiled:
        write_mo(compiled, read_po(file, locale=source.parent.parent.name))


def main() -> None:
    """Write them."""
    TARGET.parent.mkdir(exist_ok=True)
    made = catalogue()
    with TARGET.open("wb") as target:
        write_po(target, made, width=120, omit_header=False)
    print(f"{len(made)} messages: {TARGET.relative_to(ROOT)}")
    for source in sorted(TONGUES.glob("*.po")):
        missing = brought_up(made, source)
        print(f"{source.name}: {len(missing)} not translated", *missing[:40], sep="\n  ")
    for source in sorted(TONGUES.glob("arguments/*/LC_MESSAGES/*.po")):
        compiled_arguments(source)


if __name__ == "__main__":
    sys.exit(main())
