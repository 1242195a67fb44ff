"""`python -m omnipel.cutter`: the simulated cutter, with its window or without."""

from __future__ import annotations

import argparse
import signal
import sys
import time
from pathlib import Path

from omnipel.core.words.phrases import Voice, tr
from omnipel.core.words.units import Unit
from omnipel.exchange.devices.cutter.mechanics import Cutter
from omnipel.exchange.devices.cutter.speaking import Occupied, Post, Speaker, socket_path
from omnipel.shop.reasons import reason_of
from omnipel.tongues import arguments_speak, of_the_desktop, tongue_of

TICK_S = 0.02


def said(phrase: object) -> str:
    """Words for the terminal."""
    return Voice(tongue=tongue_of(of_the_desktop())).say(phrase)  # type: ignore[arg-type]


def options(parser: argparse.ArgumentParser) -> None:
    """What it can be told when it is started."""
    parser.add_argument("--width", type=float, default=1830.0, metavar="MM", help=said(tr("how wide its cloth is")))
    parser.add_argument("--length", type=float, default=4000.0, metavar="MM", help=said(tr("how much is on the roll")))
    places = said(tr("the places that hold a tool: 1 is the knife, 2 the pen"))
    parser.add_argument("--tools", default="1,2", metavar="N,N", help=places)
    parser.add_argument("--speed", type=int, default=1, metavar="TIMES", help=said(tr("so many times as fast as a real one")))
    parser.add_argument("--inches", action="store_true", help=said(tr("tell lengths in inches")))
    parser.add_argument("--socket", type=Path, metavar="PATH", help=said(tr("where it listens, when not in the usual place")))
    parser.add_argument("--no-window", action="store_true", help=said(tr("cut without showing it")))


def main(arguments: list[str] | None = None) -> int:
    """Run it until it is closed; the exit code."""
    arguments_speak()
    parser = argparse.ArgumentParser(
        prog="omnipel-cutter", description=said(tr("A simulated cutter: takes HPGL and draws what it cuts."))
    )
    options(parser)
    return run(parser.parse_args(arguments))


def run(asked: argparse.Namespace) -> int:
    """Run it as it was asked for, until it is closed; the exit code."""
    try:
        tools = {int(place) for place in asked.tools.split(",") if place.strip()}
    except ValueError:
        print(f"omnipel-cutter: {said(tr('--tools takes numbers, as 1,2'))}", file=sys.stderr)
        return 2
    cutter = Cutter(max(10.0, asked.width), max(10.0, asked.length), tools)
    path = asked.socket or socket_path()
    try:
        if asked.no_window:
            return _without_window(cutter, path, max(1, asked.speed))
        return _with_window(cutter, path, Unit.INCH_16 if asked.inches else Unit.MM, max(1, asked.speed))
    except (Occupied, OSError) as error:
        why = error.phrase if isinstance(error, Occupied) else reason_of(error)
        print(f"omnipel-cutter: {said(why)}", file=sys.stderr)
        return 2


def _without_window(cutter: Cutter, path: Path, speed: int) -> int:
    post = Post(Speaker(cutter), path)
    leave: list[int] = []
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda told, _frame: leave.append(told))
    try:
        while not leave:
            begun = time.monotonic()
            post.attend(TICK_S)
            cutter.advance((time.monotonic() - begun) * speed)
    finally:
        post.close()
    return 0


def _with_window(cutter: Cutter, path: Path, unit: Unit, speed: int) -> int:
    from omnipel.bench.screen import hindrance

    why = hindrance()
    if why.template:
        print(f"omnipel-cutter: {said(why)}", file=sys.stderr)
        return 2
    from PySide6.QtWidgets import QApplication

    from omnipel.bench.commands.tongue import take_tongue
    from omnipel.bench.parts.look import load_type
    from omnipel.bench.parts.ruler import icon
    from omnipel.cutter.window import dressed, started

    app = QApplication.instance() or QApplication(sys.argv[:1])
    app.setApplicationName("Omnipel cutter")
    take_tongue()
    load_type()
    app.setWindowIcon(icon())  # type: ignore[attr-defined]
    dressed()
    window = started(cutter, path, unit=unit, speed=speed)
    window.show()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda _told, _frame: window.close())
    return QApplication.exec()


if __name__ == "__main__":
    sys.exit(main())
