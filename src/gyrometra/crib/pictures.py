"""Pictures of fixtures: a common format in, one JPEG of a sane size out."""

from __future__ import annotations

import subprocess
import sys

#: Of the file as it comes.
MOST_BYTES = 12_000_000
#: Longer than any picture takes; its own limit of work is shorter [s].
_PATIENCE_S = 20


class BadPicture(Exception):
    """The file is no picture that can be kept."""


def jpeg_of(content: bytes) -> bytes:
    """The picture as `crib.decode` makes it, in a process of its own; raises BadPicture."""
    if len(content) > MOST_BYTES:
        raise BadPicture("The picture is larger than 12 MB: take a smaller one.")
    decoder = [sys.executable, "-m", "gyrometra.crib.decode"]
    try:
        found = subprocess.run(decoder, input=content, capture_output=True, timeout=_PATIENCE_S, check=False)  # noqa: S603
    except subprocess.TimeoutExpired:
        raise BadPicture("This picture takes too long to read: take another one.") from None
    if found.returncode != 0 or not found.stdout:
        raise BadPicture("This file is no picture that can be read, or a very large one: JPEG, PNG or WebP will do.")
    return found.stdout
