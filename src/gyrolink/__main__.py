"""`python -m gyrolink serial|tcp|simulate`: the bridge between a gauge and Gyrometra; see docs/gauge-link.md."""

from __future__ import annotations

import argparse
import os
import socket
import sys
import time
from collections.abc import Iterator
from queue import SimpleQueue
from threading import Thread

import serial

from gyrolink.lines import Line, read_line
from gyrolink.post import Sender
from gyrolink.simulated import DWELL_S, SimulatedIndicator, made_work

#: Two presses of a switch within this time are one [s]: contacts bounce.
BOUNCE_S = 0.3
_TICK_S = 0.04


def main() -> None:
    """Read the words of the command, then pass readings on until the gauge or the server ends it."""
    asked = _words()
    token = asked.token or os.environ.get("GYROMETRA_TOKEN", "")
    if not token:
        sys.exit("gyrolink: give the gauge's token: --token, or GYROMETRA_TOKEN.")
    sender = Sender(asked.url, token)
    try:
        if asked.source == "simulate":
            _simulate(sender, asked)
        else:
            lines = _serial_lines(asked) if asked.source == "serial" else _tcp_lines(asked.at)
            _pass_on(sender, lines, asked.unit, sign=-1.0 if asked.reverse else 1.0)
    except KeyboardInterrupt:
        pass
    except (serial.SerialException, OSError) as fault:
        sender.finish()
        sys.exit(f"gyrolink: {asked.at} cannot be read: {fault}")
    left = sender.finish()
    if sender.refused:
        sys.exit(f"gyrolink: the server refuses: {sender.refused}")
    print(f"gyrolink: {sender.stored} readings stored, {left} not.", flush=True)


def _words() -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="python -m gyrolink", description=__doc__)
    kinds = parser.add_subparsers(dest="source", required=True)
    for name, words in (("serial", "a serial port, /dev/ttyUSB0"), ("tcp", "HOST:PORT that sends lines"),
                        ("simulate", "a simulated indicator; Enter is its foot switch")):  # fmt: skip
        kind = kinds.add_parser(name, help=words)
        if name != "simulate":
            kind.add_argument("at", help=words)
            kind.add_argument("--unit", choices=("mm", "um", "in"), default="mm", help="of lines that name none")
            kind.add_argument("--reverse", action="store_true", help="the gauge counts plunger in as minus")
        if name == "serial":
            kind.add_argument("--baud", type=int, default=9600)
        if name == "simulate":
            kind.add_argument("--seed", type=int, default=1)
            kind.add_argument("--outside", action="store_true", help="the outside of the work is read, not its bore")
            kind.add_argument("--places", type=int, default=0, help="turn by itself and press at so many places")
            kind.add_argument("--rate", type=float, default=1 / _TICK_S, help="readings a second")
        kind.add_argument("--url", default="http://127.0.0.1:8000")
        kind.add_argument("--token", default="")
    return parser.parse_args()


def _serial_lines(asked: argparse.Namespace) -> Iterator[str]:
    with serial.Serial(asked.at, asked.baud, timeout=1) as port:
        while True:
            line = port.readline()
            if line:
                yield line.decode("ascii", "replace")


def _tcp_lines(at: str) -> Iterator[str]:
    host, _, port = at.rpartition(":")
    with socket.create_connection((host, int(port)), timeout=10) as peer:
        peer.settimeout(None)
        with peer.makefile("r", encoding="ascii", errors="replace") as lines:
            yield from lines


def _pass_on(sender: Sender, lines: Iterator[str], unit: str, sign: float) -> None:
    last, pressed_at = None, -1.0
    for text in lines:
        line = read_line(text, unit)
        if sender.refused:
            return
        if line is None:
            continue
        line = _debounced(line, pressed_at)
        if line.pressed:
            pressed_at = time.monotonic()
        last = line.value_mm * sign if line.value_mm is not None else last
        if last is not None and (line.value_mm is not None or line.pressed):
            sender.take(last, pressed=line.pressed)


def _debounced(line: Line, pressed_at: float) -> Line:
    bounces = line.pressed and time.monotonic() - pressed_at < BOUNCE_S
    return Line(line.value_mm, False) if bounces else line


def _simulate(sender: Sender, asked: argparse.Namespace) -> None:
    """Turn, follow, press: by what is typed, or by itself round so many places and back to the first."""
    tool = SimulatedIndicator(made_work(asked.seed, inside=not asked.outside), seed=asked.seed)
    print("Enter presses the foot switch; turn 45, to 90, jaw 2 0.03, plane 40; Ctrl-D ends it.", flush=True)
    typed: SimpleQueue[str] = SimpleQueue()
    if not asked.places:
        Thread(target=_hear, args=(typed,), daemon=True).start()
    place, stood, tick = 0, 0.0, 1 / asked.rate
    while not sender.refused:
        value = tool.step(tick)
        stood = 0.0 if tool.turns else stood + tick
        press = bool(asked.places) and stood >= DWELL_S
        if not typed.empty():
            text = typed.get()
            if not text:
                return
            press = text == "\n"
            if text.strip() and not tool.obey(text):
                print("turn 45, to 90, jaw 2 0.03, plane 40, or Enter.", flush=True)
        sender.take(value, pressed=press)
        if press and asked.places:
            place, stood = place + 1, 0.0
            tool.to_deg += 360 / asked.places
            if place > asked.places:
                return
        time.sleep(tick)


def _hear(typed: SimpleQueue[str]) -> None:
    """Every line as it is typed, the empty one at its end: a terminal may hand over several at once."""
    for line in sys.stdin:
        typed.put(line)
    typed.put("")


if __name__ == "__main__":
    main()
