"""Job files: JSON in and out, checked against the job's own types. Nothing half-read ever comes back.

The envelope is `{"format": "omnipel-job", "version": 11, "job": {…}}`. Older versions are migrated on reading; newer ones refused.
"""

import json
import math
import os
from functools import cache
from pathlib import Path
from typing import Any, Final

# Looking for plugins reads the metadata of every installed package: 70 ms at each start, for none that we use.
os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")

from pydantic import TypeAdapter, ValidationError

from omnipel.core.job.document import Job
from omnipel.core.tolerances import LARGEST_GAP, LONGEST
from omnipel.core.words.phrases import Count, Name, Phrase, Refusal, mm, plain, tr
from omnipel.shop.migrations import VERSION, migrated
from omnipel.shop.reasons import reason_of
from omnipel.shop.whole import NotWritten, write_whole

FORMAT: Final = "omnipel-job"
SUFFIX: Final = ".omnipel.json"
LARGEST: Final = 4_000_000
"""A job file is a few kB; a traced outline of 20 000 points is 0.6 MB."""
LONGEST_SHOWN: Final = 60
LONGEST_NAME: Final = 200
"""Bytes of a file name, its suffix not counted: file systems take 255."""
LONGEST_WHERE: Final = 200
"""A place in a document is not told at greater length."""


class DocumentError(Refusal, ValueError):
    """A document that is no job: where in it, what stands there, what was expected. One line."""

    def __init__(self, where: str, what: Phrase) -> None:
        self.where, self.what = _in_one_line(where), what
        super().__init__(tr("{where}: {what}", where=Name(self.where), what=what) if where else what)


def _in_one_line(where: str) -> str:
    """Where in a document, with signs that cannot be shown written out, and the middle left out where it is far too long.

    >>> _in_one_line("job.\\name"), len(_in_one_line("x" * 5000))
    ('job.\\\\name', 201)
    """
    shown = "".join(sign if sign.isprintable() else sign.encode("unicode_escape").decode() for sign in where)
    return shown if len(shown) <= LONGEST_WHERE else f"{shown[: LONGEST_WHERE // 2]}…{shown[-LONGEST_WHERE // 2 :]}"


def file_name(name: str, suffix: str) -> str:
    """A file name made from what a person called something: no folder, no hidden file, no sign a file system refuses.

    >>> file_name("1/2 barrel: Ana's", ".pdf"), file_name("...", ".pdf")
    ("1-2 barrel- Ana's.pdf", 'job.pdf')
    """
    kept = "".join("-" if sign in '/\\:*?"<>|' else sign for sign in name if sign.isprintable()).strip(" .-")
    while len(kept.encode()) > LONGEST_NAME:
        kept = kept[:-1]
    return (kept or "job") + suffix


@cache
def adapter() -> TypeAdapter[Job]:
    """The checker for jobs, built once."""
    return TypeAdapter(Job)


def dumped(job: Job) -> str:
    """A job as the text of its file."""
    return json.dumps(envelope(job), indent=1, ensure_ascii=False, allow_nan=False) + "\n"


def envelope(job: Job) -> dict[str, Any]:
    """A job as plain data, in its envelope."""
    return {"format": FORMAT, "version": VERSION, "job": adapter().dump_python(job, mode="json")}


def loaded(text: str) -> Job:
    """The job in a file's text.

    Raises:
        DocumentError: it is none; says where and what.
    """
    if len(text) > LARGEST:
        raise DocumentError("", too_large(len(text)))
    try:
        data = json.loads(text, parse_constant=_no_constant, parse_float=_finite, parse_int=_whole)
    except json.JSONDecodeError as error:
        fault = Name(f"{error.msg[0].lower()}{error.msg[1:]}")
        ends = error.pos >= len(text.rstrip()) - 1 and text.strip()
        what = tr("the file is cut off: {fault}", fault=fault) if ends else tr("this is not JSON: {fault}", fault=fault)
        raise DocumentError(f"line {error.lineno} column {error.colno}", what) from None
    except RecursionError:
        raise DocumentError("", tr("the file nests too deeply to be a job")) from None
    return from_data(data)


def from_data(data: Any) -> Job:
    """The job in plain data.

    Raises:
        DocumentError: it is none; says where and what.
    """
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        found = data.get("format") if isinstance(data, dict) else type(data).__name__
        raise DocumentError(
            "format", tr("expected {wanted}, found {found}", wanted=Name(repr(FORMAT)), found=Name(_short(found)))
        )
    version = data.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise DocumentError("version", tr("expected a whole number from 1, found {found}", found=Name(_short(version))))
    if version > VERSION:
        newer = tr(
            "the file is of version {version}, newer than this program reads ({known}); update Omnipel",
            version=Count(version),
            known=Count(VERSION),
        )
        raise DocumentError("version", newer)
    unknown = set(data) - {"format", "version", "job"}
    if unknown:
        raise DocumentError(sorted(unknown)[0], tr("is not part of a job file"))
    try:
        job = adapter().validate_python(migrated(data.get("job"), version))
    except ValidationError as error:
        raise DocumentError(*_said(error)) from None
    return _checked(job)


def of_row(text: str, version: int) -> Job:
    """The job in a document of the shop, written by a version of the job format.

    Raises:
        DocumentError: it is damaged, or newer than this program.
    """
    try:
        data = json.loads(text)
    except (ValueError, TypeError, RecursionError):
        raise DocumentError("", tr("the job's document is damaged")) from None
    return from_data({"format": FORMAT, "version": version, "job": data})


def _checked(job: Job) -> Job:
    twice = _twice(job)
    if twice:
        raise DocumentError("job.readings", tr("{place} is there twice", place=Name(repr(twice[0]))))
    return job


def _twice(job: Job) -> list[str]:
    return [r.place for i, r in enumerate(job.readings) if r.place in {o.place for o in job.readings[:i]}]


def checked(job: Job) -> Job:
    """A job as it would be read back from its file.

    Raises:
        DocumentError: it could not be; says why, in the words of who typed what.
    """
    try:
        return adapter().validate_python(adapter().dump_python(job))
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        most, found = first.get("ctx", {}).get("le"), first["input"]
        if most in (LARGEST_GAP, LONGEST) and isinstance(found, float):
            raise DocumentError("", tr("{length} is too much; at most {most}", length=mm(found), most=mm(most))) from None
        raise DocumentError(*_said(error)) from None


def lawful(job: Job) -> bool:
    """Whether a job could be read back from its file."""
    try:
        return not _twice(job) and adapter().validate_python(adapter().dump_python(job)) == job
    except ValidationError:
        return False


def too_large(size: int) -> Phrase:
    """That a file is no job, because of its size in bytes."""
    return tr("the file is {size} MB; a job takes no more than {most} MB", size=Count(size / 1e6), most=Count(LARGEST / 1e6))


def read(path: Path) -> Job:
    """The job in a file.

    Raises:
        DocumentError: it cannot be read, or is no job.
    """
    try:
        with open(path, "rb") as file:
            content = file.read(LARGEST * 4 + 1)  # of what never ends, too
        if len(content) > LARGEST * 4:
            raise DocumentError(path.name, too_large(max(len(content), path.stat().st_size)))
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise DocumentError(path.name, tr("this is not text (byte {n})", n=Count(error.start))) from None
    except (OSError, ValueError) as error:  # ValueError: a name with a zero byte
        raise DocumentError(str(path), reason_of(error)) from None
    try:
        return loaded(text)
    except DocumentError as error:
        raise DocumentError(f"{path.name}: {error.where}" if error.where else path.name, error.what) from None


def write(job: Job, path: Path) -> None:
    """Write a job's file, whole or not at all, and only what can be read back.

    Raises:
        NotWritten: it cannot be written; what was there before is untouched.
    """
    try:
        text = dumped(job)
        same = loaded(text) == job
    except (DocumentError, ValueError) as error:
        why = error.phrase if isinstance(error, DocumentError) else plain(str(error))
        raise NotWritten(path, tr("it could not be read back: {fault}", fault=why)) from None
    if not same:
        raise NotWritten(path, tr("it would not be read back as it is"))
    write_whole(path, text)


def schema() -> dict[str, Any]:
    """The JSON Schema of a job file."""
    inner = adapter().json_schema()
    definitions = inner.pop("$defs", {})
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Omnipel job",
        "type": "object",
        "properties": {
            "format": {"const": FORMAT},
            "version": {"type": "integer", "minimum": 1, "maximum": VERSION},
            "job": inner,
        },
        "required": ["format", "version", "job"],
        "additionalProperties": False,
        "$defs": definitions,
    }


def _no_constant(name: str) -> float:
    raise DocumentError("", tr("{number} is not a number that can be cut", number=Name(name)))


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise DocumentError("", tr("{number} is not a number that can be cut", number=Name(_short(text))))
    return value


def _whole(text: str) -> int:
    if len(text) > 20:
        raise DocumentError("", tr("a number of {n} digits is not a length", n=Count(len(text))))
    return int(text)


def _said(error: ValidationError) -> tuple[str, Phrase]:
    """Path in the document and the fault, of the first fault only: one clear line."""
    first = error.errors(include_url=False)[0]
    path = ".".join(["job", *(str(part) for part in first["loc"])])
    message = first["msg"][0].lower() + first["msg"][1:]
    if first["type"] == "missing":
        return path, tr("is missing")
    if first["type"] == "predicate_failed":  # one value has one: what the lower edge may be
        return path, tr("no cover's lower edge is finished so")
    return path, tr("{fault}, found {found}", fault=Name(message), found=Name(_short(first["input"])))


def _short(value: Any) -> str:
    text = repr(value) if not isinstance(value, dict | list | tuple) else type(value).__name__
    return text if len(text) <= LONGEST_SHOWN else f"{text[:LONGEST_SHOWN]}… ({len(text)} characters)"
