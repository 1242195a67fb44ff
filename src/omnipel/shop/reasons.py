"""Why the system refused, in our own words: its own come in whatever language its library has, which is not always that of the desktop."""

import errno
import sqlite3
from collections.abc import Mapping
from typing import Final

from omnipel.core.words.phrases import Name, Phrase, tr

REASONS: Final[Mapping[int, Phrase]] = {
    errno.ENOENT: tr("no such file or folder"),
    errno.EACCES: tr("permission denied"),
    errno.EPERM: tr("permission denied"),
    errno.EROFS: tr("the disk can only be read"),
    errno.ENOSPC: tr("no space left on the disk"),
    errno.EDQUOT: tr("no more space is allowed to you on the disk"),
    errno.EFBIG: tr("the file is too large for the disk"),
    errno.EIO: tr("the disk failed"),
    errno.EISDIR: tr("that is a folder"),
    errno.ENOTDIR: tr("a part of the path is not a folder"),
    errno.EEXIST: tr("that is there already"),
    errno.ENAMETOOLONG: tr("the name is too long"),
    errno.ELOOP: tr("links lead round in a circle"),
    errno.EBUSY: tr("something else is using it"),
    errno.ETXTBSY: tr("something else is using it"),
    errno.EADDRINUSE: tr("something else is using it"),
    errno.EMFILE: tr("too many files are open"),
    errno.ENFILE: tr("too many files are open"),
    errno.ENOMEM: tr("no memory is left"),
    errno.ENODEV: tr("no such device"),
    errno.ENXIO: tr("no such device"),
    errno.ECONNREFUSED: tr("nobody answers"),
    errno.ENOLCK: tr("no more locks can be had"),
}
"""By the system's number of a fault; what is not here is told as the system tells it."""
OF_DATABASES: Final[Mapping[int, Phrase]] = {
    sqlite3.SQLITE_FULL: REASONS[errno.ENOSPC],
    sqlite3.SQLITE_IOERR: REASONS[errno.EIO],
    sqlite3.SQLITE_READONLY: tr("it can only be read"),
    sqlite3.SQLITE_CANTOPEN: tr("it cannot be opened"),
    sqlite3.SQLITE_PERM: REASONS[errno.EACCES],
    sqlite3.SQLITE_BUSY: REASONS[errno.EBUSY],
    sqlite3.SQLITE_LOCKED: REASONS[errno.EBUSY],
    sqlite3.SQLITE_NOTADB: tr("it is not a shop"),
    sqlite3.SQLITE_CORRUPT: tr("it is damaged"),
}
"""The same by the number that a database gives a fault."""
PRIMARY: Final = 0xFF
"""The lowest byte of such a number is the fault, the others tell more of it."""


def reason_of(error: Exception) -> Phrase:
    """Why the system refused, without numbers and temporary names."""
    number = error.errno if isinstance(error, OSError) else None
    known = REASONS.get(number or 0) or OF_DATABASES.get(getattr(error, "sqlite_errorcode", 0) & PRIMARY)
    if known is not None:
        return known
    words = (error.strerror if isinstance(error, OSError) else None) or str(error) or type(error).__name__
    return tr("{fault}", fault=Name(words))
