"""The cutter's side of the link: answers lines, and cuts each block once, however often it is sent (docs/cutter-protocol.md)."""

from __future__ import annotations

import contextlib
import os
import selectors
import socket
import tempfile
import zlib
from pathlib import Path
from typing import Final

from omnipel.core.words.phrases import Name, Refusal, tr
from omnipel.exchange.devices.cutter.mechanics import Cutter, Nonsense, State
from omnipel.exchange.devices.sockets import ours

LONGEST_LINE: Final = 1000
"""Bytes of a line with its end."""
AHEAD: Final = 64
"""Blocks that are kept beyond the one that is cut; more are not taken."""
MOST_BLOCKS: Final = 1_000_000


def socket_path() -> Path:
    """Where bench and cutter meet: in the user's own runtime folder."""
    folder = os.environ.get("XDG_RUNTIME_DIR")
    if folder:
        return Path(folder) / "omnipel-cutter"
    return Path(tempfile.gettempdir()) / f"omnipel-cutter-{os.getuid()}"


def checked(instruction: str) -> str:
    """The check sum that goes with a block."""
    return f"{zlib.crc32(instruction.encode()):08x}"


class Speaker:
    """What the cutter answers, line by line; knows no sockets."""

    def __init__(self, cutter: Cutter) -> None:
        self.cutter = cutter
        self.job, self.blocks, self.got = "", 0, 0
        self.told_done, self.told_state = 0, ""

    def greeting(self) -> list[str]:
        """What a bench is told that comes in."""
        self.told_done, self.told_state = self.cutter.done, ""
        return [f"HELLO omnipel-cutter 1 {self.cutter.width:g} {self.cutter.length:g}"]

    def answer(self, line: str) -> list[str]:
        """What is answered to a line."""
        word, _, rest = line.partition(" ")
        if word == "JOB":
            return self._job(rest.split())
        if word == "BLOCK":
            return self._block(rest)
        if word in ("PAUSE", "GO"):
            self.cutter.pause(word == "PAUSE")
            return []
        if word == "DROP":
            self.job, self.blocks, self.got = "", 0, 0
            self.cutter.begin(0)
            return ["DROPPED"]
        return ["NO expected: JOB, BLOCK, PAUSE, GO or DROP"]

    def _job(self, words: list[str]) -> list[str]:
        if len(words) != 2 or not words[1].isdecimal() or not 0 < int(words[1]) <= MOST_BLOCKS:
            return ["NO expected: JOB id blocks"]
        if words[0] != self.job:
            if self.job and self.cutter.state is not State.FINISHED:
                return [f"NO busy with {self.job}"]
            self.job, self.blocks, self.got = words[0], int(words[1]), 0
            self.cutter.begin(self.blocks)
        elif int(words[1]) != self.blocks:
            return [f"NO {self.job} has {self.blocks} blocks"]
        self.told_done = self.cutter.done
        return [f"HAVE {self.got} {self.cutter.done}"]

    def _block(self, rest: str) -> list[str]:
        number, _, more = rest.partition(" ")
        check, _, instruction = more.partition(" ")
        if not self.job or not number.isdecimal():
            return ["NO expected: BLOCK number check instruction, after JOB"]
        n = int(number)
        if n <= self.got:
            return [f"GOT {n}"]  # sent again: it is not cut again
        if n != self.got + 1 or n > self.blocks or check != checked(instruction) or n > self.cutter.done + AHEAD:
            return [f"AGAIN {self.got + 1}"]
        try:
            self.cutter.take(n, instruction)
        except Nonsense:
            return [f"NO block {n} is no instruction"]
        self.got = n
        return [f"GOT {n}"]

    def news(self) -> list[str]:
        """What a bench has not been told yet."""
        made = []
        if self.job and self.cutter.done > self.told_done:
            self.told_done = self.cutter.done
            made.append(f"DONE {self.told_done}")
        state = self.cutter.state.value
        if self.cutter.state is State.TOOL:
            state += f" {self.cutter.wanted}"
        if self.job and state != self.told_state:
            self.told_state = state
            made.append(f"STATE {state}")
        return made


class Occupied(Refusal):
    """Something else is where it would listen."""


class Post:
    """The socket the cutter listens at; one bench at a time, the newest."""

    def __init__(self, speaker: Speaker, path: Path) -> None:
        self.speaker, self.path = speaker, path
        self.peer: socket.socket | None = None
        self.heard = b""
        self.eyes = selectors.DefaultSelector()
        self._clear()
        self.server = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
        before = os.umask(0o177)
        try:
            self.server.bind(str(path))
        finally:
            os.umask(before)
        self.server.listen(2)
        self.server.setblocking(False)
        self.eyes.register(self.server, selectors.EVENT_READ)

    def _clear(self) -> None:
        """Remove the socket that a killed cutter of ours left behind, and nothing else.

        Raises:
            Occupied: something else is there, or another cutter listens.
        """
        whose = ours(self.path)
        if whose is None:
            return
        if not whose:
            raise Occupied(tr("{path} is there already, and is not ours", path=Name(str(self.path))))
        with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as other:
            other.settimeout(0.3)
            try:
                other.connect(str(self.path))
            except OSError:
                self.path.unlink()
                return
        raise Occupied(tr("another cutter is listening already"))

    def attend(self, seconds: float = 0.0) -> None:
        """Hear and answer what has come in, waiting for it no longer than this; tell what is new."""
        for key, _ in self.eyes.select(seconds):
            if key.fileobj is self.server:
                self._greet()
            elif key.fileobj is self.peer:
                self._hear()
        self._say(self.speaker.news())

    @property
    def linked(self) -> bool:
        """Whether a bench is there."""
        return self.peer is not None

    def hang_up(self) -> None:
        """Break the link, as a cable would."""
        if self.peer is not None:
            with contextlib.suppress(KeyError, ValueError):
                self.eyes.unregister(self.peer)
            self.peer.close()
        self.peer, self.heard = None, b""

    def close(self) -> None:
        """Listen no more."""
        self.hang_up()
        self.eyes.unregister(self.server)
        self.server.close()
        self.eyes.close()
        self.path.unlink(missing_ok=True)

    def _greet(self) -> None:
        with contextlib.suppress(OSError):
            peer, _ = self.server.accept()
            self.hang_up()
            peer.settimeout(5.0)
            self.peer = peer
            self.eyes.register(peer, selectors.EVENT_READ)
            self._say(self.speaker.greeting())

    def _hear(self) -> None:
        assert self.peer is not None
        try:
            part = self.peer.recv(65536)
        except OSError:
            part = b""
        if not part:
            self.hang_up()
            return
        self.heard += part
        while b"\n" in self.heard:
            line, _, self.heard = self.heard.partition(b"\n")
            self._say(
                self.speaker.answer(line.decode(errors="replace")) if len(line) < LONGEST_LINE else ["NO the line is too long"]
            )
            if len(line) >= LONGEST_LINE:
                self.hang_up()
        if len(self.heard) >= LONGEST_LINE:
            self._say(["NO the line is too long"])
            self.hang_up()

    def _say(self, lines: list[str]) -> None:
        if self.peer is None or not lines:
            return
        try:
            self.peer.sendall("".join(f"{line}\n" for line in lines).encode())
        except OSError:
            self.hang_up()
