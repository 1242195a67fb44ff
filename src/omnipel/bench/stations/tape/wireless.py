"""The bench's side of the wireless tape: listens on a local socket and hands readings to the Tape station."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject
from PySide6.QtNetwork import QLocalServer, QLocalSocket

from omnipel.exchange.tape_device import LONGEST_LINE

KEPT = 500
"""So many numbers taken before are remembered, to answer a repeated line without taking it twice."""


class WirelessTape(QObject):
    """Listens for readings. `take` is given the text and says "" when it was taken, or why not."""

    def __init__(self, path: Path, take: Callable[[str], str]) -> None:
        super().__init__()
        self.path, self.take = path, take
        self.taken: dict[tuple[str, str], None] = {}
        self.peers: list[QLocalSocket] = []
        self.server = QLocalServer(self)
        self.server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self.server.newConnection.connect(self._greet)

    def start(self) -> str:
        """Begin to listen; "" or what stands in the way."""
        QLocalServer.removeServer(str(self.path))  # what a killed bench left behind
        return "" if self.server.listen(str(self.path)) else self.server.errorString()

    def stop(self) -> None:
        """Listen no more, and hang up on every device."""
        self.server.close()
        for peer in self.peers:
            peer.readyRead.disconnect(self._hear)
            peer.abort()
        self.peers.clear()

    def _greet(self) -> None:
        while (peer := self.server.nextPendingConnection()) is not None:
            self.peers.append(peer)
            peer.readyRead.connect(self._hear)

    def _hear(self) -> None:
        """Answer whatever has been said; forget who has hung up."""
        for peer in list(self.peers):
            while peer.canReadLine():
                line = bytes(peer.readLine(LONGEST_LINE).data()).decode(errors="replace").strip()
                peer.write(f"{self.answer(line)}\n".encode())
                peer.flush()
        self.peers = [peer for peer in self.peers if peer.state() is QLocalSocket.LocalSocketState.ConnectedState]

    def answer(self, line: str) -> str:
        """What is answered to a line."""
        parts = line.split(" ", 3)
        if len(parts) < 4 or parts[0] != "READ":
            return f"NO {parts[2] if len(parts) > 2 else 0} expected: READ device number length"
        key = (parts[1], parts[2])
        if key in self.taken:
            return f"OK {parts[2]}"
        refused = self.take(parts[3])
        if refused:
            return f"NO {parts[2]} {refused}"
        self.taken[key] = None
        while len(self.taken) > KEPT:
            self.taken.pop(next(iter(self.taken)))
        return f"OK {parts[2]}"
