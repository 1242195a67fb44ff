"""A simulated wireless tape: a small process of its own that sends readings to the bench.

Line protocol over a local (Unix) socket, UTF-8, one line each way; documented in docs/tape-protocol.md:

    device → bench    READ <device> <number> <length as written>
    bench → device    OK <number>            taken in and kept
                      NO <number> <words>    not taken, and why

The device keeps a reading until it is answered and sends it again after the connection was lost; the bench answers a number that it has
taken before with OK and does not take it twice. So nothing is lost and nothing doubled.
"""

import os
import socket
import tempfile
import time
from collections.abc import Iterable, Iterator
from pathlib import Path

from omnipel.core.words.phrases import Name, Refusal, tr

LONGEST_LINE = 300


def socket_path() -> Path:
    """Where bench and tape meet: in the user's own runtime folder."""
    folder = os.environ.get("XDG_RUNTIME_DIR")
    if folder:
        return Path(folder) / "omnipel-tape"
    return Path(tempfile.gettempdir()) / f"omnipel-tape-{os.getuid()}"


class NoBench(Refusal):
    """No bench of this user is there."""


class TapeDevice:
    """The sending side. `tries` is how often it looks for the bench before it gives up, `pause` s apart."""

    def __init__(self, path: Path, name: str = "tape", *, tries: int = 20, pause: float = 0.25) -> None:
        self.path, self.name, self.tries, self.pause = path, name, tries, pause
        self.connection: socket.socket | None = None
        self.buffer = b""

    def send(self, number: int, text: str) -> str:
        """Send a reading until it is answered; the answer.

        Raises:
            NoBench: the bench was not there for all tries, or what is there is another user's.
        """
        line = " ".join(f"READ {self.name} {number} {text}".split("\n")).encode() + b"\n"
        if len(line) > LONGEST_LINE:  # never cut short: what is left of a number is another number
            return f"NO {number} longer than {LONGEST_LINE} bytes"
        for _ in range(self.tries):
            try:
                answer = self._ask(line)
            except OSError:
                answer = ""
            if answer:
                return answer
            self.close()
            time.sleep(self.pause)
        raise NoBench(tr("no bench is listening at {path}", path=Name(str(self.path))))

    def _ask(self, line: bytes) -> str:
        if self.connection is None:
            if self.path.lstat().st_uid != os.getuid():
                raise NoBench(tr("{path} belongs to another user", path=Name(str(self.path))))
            self.connection = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
            self.connection.settimeout(5.0)
            self.connection.connect(str(self.path))
        self.connection.sendall(line)
        while b"\n" not in self.buffer and len(self.buffer) < 4 * LONGEST_LINE:
            part = self.connection.recv(LONGEST_LINE)
            if not part:
                return ""
            self.buffer += part
        answer, _, self.buffer = self.buffer.partition(b"\n")
        return answer.decode(errors="replace")

    def close(self) -> None:
        """Hang up; the next reading connects again."""
        if self.connection is not None:
            self.connection.close()
        self.connection, self.buffer = None, b""


def send_all(lines: Iterable[str], device: TapeDevice) -> Iterator[str]:
    """Send each line as a reading and yield the bench's answers. Numbers start from the clock, so that no two runs share one."""
    number = time.time_ns() // 1_000_000
    for text in lines:
        if text.strip():
            number += 1
            yield device.send(number, text.strip())
    device.close()
