"""Job files: JSON in and out, checked against the job's own types. Nothing half-read ever comes back.

The envelope is `{"format": "omnipel-job", "version": 1, "job": {…}}`. Older versions are migrated on reading; newer ones refused.
"""

import json
import math
import os
import tempfile
from functools import cache
from pathlib import Path
from typing import Any, Final

# Looking for plugins reads the metadata of every installed package: 70 ms at each start, for none that we use.
os.environ.setdefault("PYDANTIC_DISABLE_PLUGINS", "__all__")

from pydantic import TypeAdapter, ValidationError

from omnipel.core.job import Job

FORMAT: Final = "omnipel-job"
VERSION: Final = 1
SUFFIX: Final = ".omnipel.json"
LARGEST: Final = 4_000_000
"""A job file is a few kB; a traced outline of 20 000 points is 0.6 MB."""
LONGEST_SHOWN: Final = 60


class DocumentError(ValueError):
    """A document that is no job: where in it, what stands there, what was expected. One line."""

    def __init__(self, where: str, what: str) -> None:
        self.where, self.what = where, what
        super().__init__(f"{where}: {what}" if where else what)


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
        raise DocumentError("", f"the file is {len(text) / 1e6:.0f} MB; a job takes no more than {LARGEST / 1e6:.0f} MB")
    try:
        data = json.loads(text, parse_constant=_no_constant, parse_float=_finite, parse_int=_whole)
    except json.JSONDecodeError as error:
        cut = "the file is cut off" if error.pos >= len(text.rstrip()) - 1 and text.strip() else "this is not JSON"
        raise DocumentError(
            f"line {error.lineno} column {error.colno}", f"{cut}: {error.msg[0].lower()}{error.msg[1:]}"
        ) from None
    except RecursionError:
        raise DocumentError("", "the file nests too deeply to be a job") from None
    return from_data(data)


def from_data(data: Any) -> Job:
    """The job in plain data.

    Raises:
        DocumentError: it is none; says where and what.
    """
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        found = data.get("format") if isinstance(data, dict) else type(data).__name__
        raise DocumentError("format", f"expected {FORMAT!r}, found {_short(found)}")
    version = data.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise DocumentError("version", f"expected a whole number from 1, found {_short(version)}")
    if version > VERSION:
        raise DocumentError(
            "version", f"the file is of version {version}, newer than this program reads ({VERSION}); update Omnipel"
        )
    unknown = set(data) - {"format", "version", "job"}
    if unknown:
        raise DocumentError(sorted(unknown)[0], "is not part of a job file")
    try:
        job = adapter().validate_python(data.get("job"))
    except ValidationError as error:
        raise DocumentError(*_said(error)) from None
    twice = [r.place for i, r in enumerate(job.readings) if r.place in {o.place for o in job.readings[:i]}]
    if twice:
        raise DocumentError("job.readings", f"{twice[0]!r} is there twice")
    return job


def read(path: Path) -> Job:
    """The job in a file.

    Raises:
        DocumentError: it cannot be read, or is no job.
    """
    try:
        if path.stat().st_size > LARGEST * 4:
            raise DocumentError(
                path.name, f"the file is {path.stat().st_size / 1e6:.0f} MB; a job takes no more than {LARGEST / 1e6:.0f} MB"
            )
        text = path.read_text(encoding="utf-8")
    except UnicodeDecodeError as error:
        raise DocumentError(path.name, f"this is not text (byte {error.start})") from None
    except OSError as error:
        raise DocumentError(str(path), (error.strerror or str(error)).lower()) from None
    try:
        return loaded(text)
    except DocumentError as error:
        raise DocumentError(f"{path.name}: {error.where}" if error.where else path.name, error.what) from None


def write(job: Job, path: Path) -> None:
    """Write a job's file, whole or not at all.

    Raises:
        OSError: it cannot be written; what was there before is untouched.
    """
    handle, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.")
    try:
        with os.fdopen(handle, "w", encoding="utf-8") as file:
            file.write(dumped(job))
            file.flush()
            os.fsync(file.fileno())
        os.replace(name, path)
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise


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
    raise DocumentError("", f"{name} is not a number that can be cut")


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise DocumentError("", f"{_short(text)} is not a number that can be cut")
    return value


def _whole(text: str) -> int:
    if len(text) > 20:
        raise DocumentError("", f"a number of {len(text)} digits is not a length")
    return int(text)


def _said(error: ValidationError) -> tuple[str, str]:
    """Path in the document and the fault, of the first fault only: one clear line."""
    first = error.errors(include_url=False)[0]
    path = ".".join(["job", *(str(part) for part in first["loc"])])
    message = first["msg"][0].lower() + first["msg"][1:]
    if first["type"] == "missing":
        return path, "is missing"
    return path, f"{message}, found {_short(first['input'])}"


def _short(value: Any) -> str:
    text = repr(value) if not isinstance(value, dict | list | tuple) else type(value).__name__
    return text if len(text) <= LONGEST_SHOWN else f"{text[:LONGEST_SHOWN]}… ({len(text)} characters)"
