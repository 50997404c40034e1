"""The server of a shop: some processes that share one port, each a waitress, and one that looks after them.

Waitress, because it reads a request whole before a thread is given to it: a client that sends half a request, or reads
slowly, holds no thread; it is dropped when it is silent too long, and a body larger than the product ever takes is
refused before it is read. What dies is started again; a server that cannot stay up says so and ends.
"""

from __future__ import annotations

import argparse
import os
import signal
import socket
import sys
import time
from types import FrameType

#: The largest body: a picture of 12 MB in a form.
MOST_BODY_BYTES = 13_000_000
#: A client that is silent so long is dropped [s].
SILENT_S = 20
#: A process that dies sooner than this did not come up [s]; after so many in a row the server gives up.
_CAME_UP_S, _MOST_FAILURES = 3.0, 5


def main() -> None:
    """`python -m gyrometra.server --bind 127.0.0.1:8000`."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--bind", default="127.0.0.1:8000")
    parser.add_argument("--processes", type=int, default=2)
    parser.add_argument("--threads", type=int, default=8)
    asked = parser.parse_args()
    host, _, port = asked.bind.rpartition(":")
    with socket.socket(socket.AF_INET, socket.SOCK_STREAM) as listening:
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            listening.bind((host, int(port)))
        except OSError as fault:
            sys.exit(f"gyrometra: port {port} cannot be taken: {fault.strerror}.")
        listening.listen(256)
        _look_after(listening, asked.processes, asked.threads)


def _look_after(listening: socket.socket, processes: int, threads: int) -> None:
    """Start the processes, and again each that dies; end with them."""
    born: dict[int, float] = {}
    ending = False

    def end(number: int, frame: FrameType | None) -> None:
        nonlocal ending
        ending = True
        for pid in born:
            os.kill(pid, signal.SIGTERM)

    for one in (signal.SIGTERM, signal.SIGINT):
        signal.signal(one, end)
    failures = 0
    while True:
        while len(born) < processes and not ending:
            born[_start(listening, threads)] = time.monotonic()
        try:
            pid, _ = os.wait()
        except ChildProcessError:
            return
        lived = time.monotonic() - born.pop(pid, 0.0)
        failures = failures + 1 if lived < _CAME_UP_S else 0
        if not ending and failures >= _MOST_FAILURES:
            end(0, None)
            sys.exit("gyrometra: the server does not stay up; see its log.")


def _start(listening: socket.socket, threads: int) -> int:
    parent = os.getpid()
    pid = os.fork()
    if pid:
        return pid
    for one in (signal.SIGTERM, signal.SIGINT):
        signal.signal(one, signal.SIG_DFL)
    _serve(listening, threads, parent)
    os._exit(0)


def _serve(listening: socket.socket, threads: int, parent: int) -> None:
    from threading import Thread  # noqa: PLC0415 - the process that looks after these loads nothing of the product

    from waitress.server import create_server  # noqa: PLC0415

    from gyrometra.wsgi import application  # noqa: PLC0415

    def end_with_parent() -> None:
        while os.getppid() == parent:
            time.sleep(0.5)
        os._exit(1)

    Thread(target=end_with_parent, daemon=True).start()
    server = create_server(
        application, sockets=[listening], threads=threads, channel_timeout=SILENT_S, cleanup_interval=5,
        max_request_body_size=MOST_BODY_BYTES, max_request_header_size=32_768, connection_limit=500, backlog=256,
        ident=None, expose_tracebacks=False, clear_untrusted_proxy_headers=False,
    )  # fmt: skip
    server.run()


if __name__ == "__main__":
    main()
