"""One running window for each shop: who is started later hands over what is to be opened, and the window that is there comes to the front.

A line of plain data over a local socket of the person's own: `{"open": ["/home/ida/drum.omnipel"], "new": false}`, answered with `OK`.
"""

from __future__ import annotations

import hashlib
import json
import os
import socket
import tempfile
from collections.abc import Callable, Sequence
from contextlib import suppress
from pathlib import Path
from typing import Final

from PySide6.QtCore import QObject
from PySide6.QtNetwork import QLocalServer, QLocalSocket

from omnipel.exchange.devices.sockets import ours

ANSWERS_S: Final = 3.0
"""A window that is busy answers within this, or is taken for gone."""
LONGEST: Final = 100_000
"""Bytes of a line."""
MOST_FILES: Final = 200


def door_of(shop: Path) -> Path:
    """Where the window of a shop is knocked at."""
    name = f"omnipel-{hashlib.sha256(os.fsencode(os.path.realpath(shop))).hexdigest()[:16]}"
    folder = os.environ.get("XDG_RUNTIME_DIR")
    return Path(folder) / name if folder else Path(tempfile.gettempdir()) / f"{name}-{os.getuid()}"


def handed_over(shop: Path, files: Sequence[Path] = (), *, new: bool = False) -> bool:
    """Whether a window of this shop is running and has taken what is to be opened."""
    path = door_of(shop)
    with suppress(OSError):
        if not ours(path):
            return False
    line = json.dumps({"open": [str(file.absolute()) for file in files], "new": new}).encode() + b"\n"
    with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as link:
        link.settimeout(ANSWERS_S)
        try:
            link.connect(str(path))
            link.sendall(line)
            return link.recv(64).startswith(b"OK")
        except OSError:
            return False


class Door(QObject):
    """Listens for who is started later.

    Args:
        shop: the shop of the window.
        came: is told which files are to be opened, and whether a new job is wanted.
    """

    def __init__(self, shop: Path, came: Callable[[list[Path], bool], object]) -> None:
        super().__init__()
        self.path, self.came = door_of(shop), came
        self.server = QLocalServer(self)
        self.server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self.server.newConnection.connect(self._greet)

    def open(self) -> bool:
        """Begin to listen; whether that went well: a window works without it."""
        try:
            whose = ours(self.path)
        except OSError:
            return False
        if whose is False:
            return False
        if whose:
            QLocalServer.removeServer(str(self.path))  # nobody answered there
        return self.server.listen(str(self.path))

    def close(self) -> None:
        """Listen no more."""
        self.server.close()

    def _greet(self) -> None:
        while (peer := self.server.nextPendingConnection()) is not None:
            peer.setReadBufferSize(LONGEST)
            peer.readyRead.connect(self._hear)
            peer.disconnected.connect(peer.deleteLater)

    def _hear(self) -> None:
        peer = self.sender()
        if not isinstance(peer, QLocalSocket):
            return
        if not peer.canReadLine():
            if peer.bytesAvailable() >= LONGEST:
                peer.abort()
            return
        try:
            told = json.loads(bytes(peer.readLine(LONGEST).data()))
            files = [Path(str(file)) for file in told.get("open", [])][:MOST_FILES]
            new = told.get("new") is True
        except (ValueError, AttributeError, TypeError):
            peer.write(b"NO\n")
            peer.flush()
            return
        peer.write(b"OK\n")
        peer.flush()
        self.came(files, new)
