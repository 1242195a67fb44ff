"""The bench's side of the link to a cutter: sends blocks, hears what was cut, and goes on where it was after the link broke."""

from __future__ import annotations

import contextlib
import hashlib
import os
import socket
import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Final

from omnipel.core.words.phrases import Name, Phrase, Refusal, mm, tr
from omnipel.exchange.devices.cutter.speaking import LONGEST_LINE, checked
from omnipel.shop.reasons import reason_of

UNANSWERED: Final = 16
"""So many blocks are on their way at a time."""
TRIES, PAUSE_S = 40, 0.25
"""So often one looks for a cutter whose link broke, so far apart, s."""
LOOK_S: Final = 0.05
TOOLS: Final = {"1": tr("the knife in place 1"), "2": tr("the pen in place 2")}


class NotCut(Refusal):
    """Nothing more is cut, and why."""


class Unreachable(NotCut):
    """No cutter is there."""


class CutBefore(NotCut):
    """The cutter has cut this very job; a person has to say that it is to be cut once more."""


class Forgotten(NotCut):
    """The cutter no longer knows what it had cut of the job; a person has to say whether it is begun anew."""


@dataclass(frozen=True, slots=True)
class Progress:
    """How far it is: blocks cut of all, what the cutter says of itself, and whether the link holds."""

    done: int
    blocks: int
    state: str = "running"
    linked: bool = True

    @property
    def words(self) -> Phrase:
        """What the cutter says of itself, in words."""
        word, _, rest = self.state.partition(" ")
        if not self.linked:
            return tr("The link is broken; it goes on by itself once the cutter answers.")
        match word:
            case "paused":
                return tr("Paused.")
            case "cloth":
                return tr("The cutter is out of cloth: put more cloth on, and it goes on where it is.")
            case "edge":
                return tr("The cloth on the cutter is narrower than what is to be cut.")
            case "tool":
                return tr("The cutter wants {tool}: put it in.", tool=TOOLS.get(rest, tr("a tool in place {n}", n=Name(rest))))
            case "finished":
                return tr("Done.")
            case _:
                return tr("Cutting.")


def job_id(instructions: Sequence[str], run: int = 1) -> str:
    """What a job is called: the same instructions the same, a further run otherwise."""
    digest = hashlib.sha256("".join(instructions).encode()).hexdigest()[:20]
    return digest if run == 1 else f"{digest}-{run}"


def blocks_of(instructions: Sequence[str]) -> list[str]:
    """Instructions as the blocks they are sent in.

    Raises:
        ValueError: one is too long for a line.
    """
    if any(len(each.encode()) > LONGEST_LINE - 40 or "\n" in each for each in instructions):
        raise ValueError("an instruction is too long for a block")
    return list(instructions)


@dataclass
class Sending:
    """A job that is sent to a cutter.

    Args:
        instructions: what it is told.
        path: where it listens.
        told: is given how far it is, whenever that changes; from the thread that sends.
        run: which run of these instructions it is.
        anew: whether a job that the cutter forgot half-way may be begun anew.
        tries: how often one looks for it.
        wide: what is cut is so wide, mm: nothing is begun on narrower cloth.
    """

    instructions: Sequence[str]
    path: Path
    told: Callable[[Progress], object] = lambda _progress: None
    run: int = 1
    anew: bool = False
    tries: int = TRIES
    wide: float = 0.0
    left: threading.Event = field(default_factory=threading.Event)

    def __post_init__(self) -> None:
        self.blocks = blocks_of(self.instructions)
        self.id = job_id(self.instructions, self.run)
        self.done, self.got, self.sent, self.state = 0, 0, 0, "running"
        self.asked: list[str] = []

    def pause(self, on: bool) -> None:
        """Ask the cutter to stop where it is, or to go on."""
        self.asked.append("PAUSE" if on else "GO")

    def leave(self) -> None:
        """Send nothing more; what the cutter has, it cuts."""
        self.left.set()

    def drop(self) -> None:
        """Ask the cutter to stop at once and to forget the job."""
        self.asked.append("DROP")

    def send(self) -> None:
        """Send everything and hear of the last block, over as many links as it takes.

        Raises:
            Unreachable: no cutter was there for all tries, or it is another user's.
            CutBefore: it was cut before.
            Forgotten: the cutter does not know it any more.
            NotCut: the cutter refuses, or was told to forget the job.
        """
        missed = 0
        while not self.left.is_set():
            before = self.done
            try:
                with self._connected() as link:
                    self._speak(link)
                    return
            except PermissionError as error:
                raise Unreachable(tr("{path}: {reason}", path=Name(str(self.path)), reason=reason_of(error))) from None
            except (OSError, EOFError):
                missed = 0 if self.done > before else missed + 1
            if missed >= self.tries:
                raise Unreachable(tr("no cutter is listening at {path}", path=Name(str(self.path))))
            self.told(Progress(self.done, len(self.blocks), self.state, linked=False))
            self.left.wait(PAUSE_S)

    def _connected(self) -> socket.socket:
        if self.path.lstat().st_uid != os.getuid():
            raise Unreachable(tr("{path} belongs to another user", path=Name(str(self.path))))
        link = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
        try:
            link.settimeout(5.0)
            link.connect(str(self.path))
        except OSError:
            link.close()
            raise
        return link

    def _speak(self, link: socket.socket) -> None:
        """Say what there is to say over one link."""
        lines = _Lines(link)
        hello = lines.next()
        if not hello.startswith("HELLO omnipel-cutter 1 "):
            raise NotCut(tr("what answers there is no cutter: {words}", words=Name(hello[:60])))
        wide = float(hello.split()[3])
        if self.wide > wide + 0.5:
            there, needed = mm(wide), mm(self.wide)
            raise NotCut(tr("the cloth on the cutter is {there} wide; this takes {needed}", there=there, needed=needed))
        lines.say(f"JOB {self.id} {len(self.blocks)}")
        answer = lines.next()
        while answer.startswith(("DONE ", "STATE ")):
            answer = lines.next()
        if not answer:
            raise EOFError
        self._begin(answer)
        while self.done < len(self.blocks) and not self.left.is_set():
            while self.asked:
                word = self.asked.pop(0)
                lines.say(word)
                if word == "DROP":
                    raise NotCut(
                        tr(
                            "it was stopped after {done} of {all} steps",
                            done=Name(str(self.done)),
                            all=Name(str(len(self.blocks))),
                        )
                    )
            while self.sent < len(self.blocks) and self.sent - self.got < UNANSWERED and self.sent - self.done < 4 * UNANSWERED:
                self.sent += 1
                block = self.blocks[self.sent - 1]
                lines.say(f"BLOCK {self.sent} {checked(block)} {block}")
            self._hear(lines.next(LOOK_S))
        self.told(Progress(self.done, len(self.blocks), self.state))

    def _begin(self, answer: str) -> None:
        word, _, rest = answer.partition(" ")
        if word != "HAVE":
            raise NotCut(tr("the cutter refuses: {words}", words=Name((rest or answer)[:80])))
        got, done = (int(part) for part in rest.split())
        first = not self.done and not self.sent
        if first and done >= len(self.blocks):
            raise CutBefore(tr("this was cut already"))
        if got < self.got and not self.anew:
            raise Forgotten(
                tr(
                    "the cutter was switched off and no longer knows what it had cut: look at the cloth; sent again it begins anew"
                )
            )
        self.got = self.sent = got
        self.done = done
        self.told(Progress(self.done, len(self.blocks), self.state))

    def _hear(self, line: str) -> None:
        word, _, rest = line.partition(" ")
        if word == "GOT":
            self.got = max(self.got, int(rest))
        elif word == "AGAIN":
            self.sent = self.got = int(rest) - 1
            time.sleep(LOOK_S)  # it has as many as it keeps: no hurry
        elif word == "DONE":
            self.done = max(self.done, int(rest))
        elif word == "STATE":
            self.state = rest
        elif word == "NO":
            raise NotCut(tr("the cutter refuses: {words}", words=Name(rest[:80])))
        if word in ("DONE", "STATE"):
            self.told(Progress(self.done, len(self.blocks), self.state))


class _Lines:
    """Lines over a socket."""

    def __init__(self, link: socket.socket) -> None:
        self.link, self.heard = link, b""

    def say(self, line: str) -> None:
        self.link.sendall(f"{line}\n".encode())

    def next(self, seconds: float = 5.0) -> str:
        """The next line; "" where none came in time.

        Raises:
            EOFError: the link is broken.
        """
        self.link.settimeout(seconds)
        while b"\n" not in self.heard:
            part = b""
            with contextlib.suppress(TimeoutError):
                part = self.link.recv(4096)
                if not part:
                    raise EOFError
            if not part:
                return ""
            self.heard += part
            if len(self.heard) > 4 * LONGEST_LINE and b"\n" not in self.heard:
                raise EOFError
        line, _, self.heard = self.heard.partition(b"\n")
        return line.decode(errors="replace")
