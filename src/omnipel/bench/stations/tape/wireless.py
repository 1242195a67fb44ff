"""The bench's side of the wireless tape: listens on a local socket and hands readings to the Tape station."""

import json
from collections.abc import Callable
from pathlib import Path
from typing import Final

from PySide6.QtCore import QObject
from PySide6.QtNetwork import QLocalServer, QLocalSocket

from omnipel.core.words.phrases import Count, Name, Phrase, Voice, plain, tr
from omnipel.exchange.devices.sockets import ours
from omnipel.exchange.devices.tape_device import LONGEST_LINE
from omnipel.shop.reasons import reason_of

KEPT: Final = 500
"""So many numbers taken before are remembered, to answer a repeated line without taking it twice."""
MOST_PEERS: Final = 8
ANSWERS_MS: Final = 300
"""A bench that listens already greets within this."""


class Taken:
    """The numbers that have been taken in, newest last; kept with the shop, so that a restart takes nothing twice."""

    def __init__(self, text: str = "[]") -> None:
        try:
            known = json.loads(text)
            self.numbers = dict.fromkeys((str(device), str(number)) for device, number in known)
        except (ValueError, TypeError):  # damaged: as after a first start
            self.numbers = {}

    def __contains__(self, key: tuple[str, str]) -> bool:
        return key in self.numbers

    def with_(self, key: tuple[str, str]) -> "Taken":
        """The same with one more."""
        made = Taken()
        made.numbers = dict.fromkeys([*self.numbers, key][-KEPT:])
        return made

    @property
    def text(self) -> str:
        """As it is kept."""
        return json.dumps(list(self.numbers))


class WirelessTape(QObject):
    """Listens for readings.

    Args:
        path: of the socket.
        take: is given the text of a reading and what has been taken once it is; says "" when it was taken, or why not.
        taken: what has been taken before.
        said: told of what a person ought to know.
    """

    def __init__(
        self, path: Path, take: Callable[[str, Taken], str], taken: Taken, said: Callable[[Phrase], object] = lambda _words: None
    ) -> None:
        super().__init__()
        self.path, self.take, self.taken, self.said = path, take, taken, said
        self.peers: list[QLocalSocket] = []
        self.server = QLocalServer(self)
        self.server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self.server.newConnection.connect(self._greet)

    def start(self) -> Phrase | None:
        """Begin to listen; None, or what stands in the way."""
        hindrance = self._cleared()
        if hindrance is not None:
            return hindrance
        return None if self.server.listen(str(self.path)) else plain(self.server.errorString())

    def _cleared(self) -> Phrase | None:
        """Remove the socket that a killed bench of ours left behind, and nothing else."""
        try:
            whose = ours(self.path)
        except OSError as error:
            return reason_of(error)
        if whose is None:
            return None
        if not whose:
            return tr("{path} is there already, and is not ours", path=Name(str(self.path)))
        other = QLocalSocket()
        other.connectToServer(str(self.path))
        if other.waitForConnected(ANSWERS_MS):
            other.abort()
            return tr("another window is listening already")
        QLocalServer.removeServer(str(self.path))
        return None

    def stop(self) -> None:
        """Listen no more, and hang up on every device."""
        self.server.close()
        for peer in self.peers:
            peer.readyRead.disconnect(self._hear)
            peer.abort()
            peer.deleteLater()
        self.peers.clear()

    def _greet(self) -> None:
        while (peer := self.server.nextPendingConnection()) is not None:
            if len(self.peers) >= MOST_PEERS:
                peer.abort()
                peer.deleteLater()
                continue
            peer.setReadBufferSize(4 * LONGEST_LINE)  # what an endless line can make us hold
            self.peers.append(peer)
            peer.readyRead.connect(self._hear)
            peer.disconnected.connect(self._forget)

    def _forget(self) -> None:
        """Forget who has hung up."""
        gone = [peer for peer in self.peers if peer.state() is not QLocalSocket.LocalSocketState.ConnectedState]
        for peer in gone:
            peer.deleteLater()
        self.peers = [peer for peer in self.peers if peer not in gone]

    def _hear(self) -> None:
        """Answer whatever has been said."""
        for peer in list(self.peers):
            while peer.canReadLine():
                line = bytes(peer.readLine(LONGEST_LINE + 1).data())
                if not line.endswith(b"\n"):
                    self._too_long(peer)
                    break
                peer.write(f"{self.answer(line.decode(errors='replace').strip())}\n".encode())
                peer.flush()
            else:
                if peer.bytesAvailable() >= LONGEST_LINE:
                    self._too_long(peer)

    def _too_long(self, peer: QLocalSocket) -> None:
        """A line longer than any reading: say so, and hang up."""
        words = tr("a line of the wireless tape was longer than {n} bytes, and the connection was ended", n=Count(LONGEST_LINE))
        peer.write(f"NO 0 {Voice().say(words)}\n".encode())
        peer.flush()
        peer.readyRead.disconnect(self._hear)
        peer.disconnectFromServer()
        peer.deleteLater()
        self.peers = [known for known in self.peers if known is not peer]
        self.said(words)

    def answer(self, line: str) -> str:
        """What is answered to a line."""
        parts = line.split(" ", 3)
        number = parts[2] if len(parts) > 2 and parts[2].isascii() and parts[2].isdigit() and len(parts[2]) <= 20 else ""
        if len(parts) < 4 or parts[0] != "READ" or not parts[1] or not number:
            return f"NO {number or 0} expected: READ device number length"
        key = (parts[1], number)
        if key in self.taken:
            return f"OK {number}"
        then = self.taken.with_(key)
        refused = self.take(parts[3], then)
        if refused:
            return f"NO {number} {' '.join(refused.split())}"[: LONGEST_LINE - 1]
        self.taken = then
        return f"OK {number}"
