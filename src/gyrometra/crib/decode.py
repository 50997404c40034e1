"""Reads a picture from standard input and writes it as a JPEG: a process of its own, with limits that hold.

A picture is code for its decoder: it may ask for any amount of memory, or never end. So it is read where nothing else
is, by formats of a list, its pixels counted before they are decoded.
"""

from __future__ import annotations

import io
import resource
import sys

from PIL import Image, ImageOps

FORMATS = ("JPEG", "PNG", "WEBP")
#: Of the picture as it comes [pixels], of a side once kept [px].
MOST_PIXELS, MOST_SIDE = 50_000_000, 1600
#: Memory [bytes] and time [s] of the whole process.
_MEMORY, _SECONDS = 900_000_000, 10


def decode(content: bytes) -> bytes:
    """The picture upright, at most 1600 px a side, as a JPEG without what a camera wrote beside it."""
    with Image.open(io.BytesIO(content), formats=FORMATS) as opened:
        if opened.width * opened.height > MOST_PIXELS:
            raise ValueError("too many pixels")
        opened.draft("RGB", (2 * MOST_SIDE, 2 * MOST_SIDE))
        opened.thumbnail((2 * MOST_SIDE, 2 * MOST_SIDE))
        upright = ImageOps.exif_transpose(opened).convert("RGB")
    upright.thumbnail((MOST_SIDE, MOST_SIDE))
    out = io.BytesIO()
    upright.save(out, "JPEG", quality=82)
    return out.getvalue()


def main() -> None:
    """Limit this process, then decode."""
    resource.setrlimit(resource.RLIMIT_AS, (_MEMORY, _MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (_SECONDS, _SECONDS))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    try:
        sys.stdout.buffer.write(decode(sys.stdin.buffer.read()))
    except Exception:
        sys.exit(1)


if __name__ == "__main__":
    main()
