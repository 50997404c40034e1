"""Pictures of fixtures: any common format in, one JPEG of a sane size out."""

from __future__ import annotations

import io

from PIL import Image, ImageOps, UnidentifiedImageError

#: Of the file as it comes, and of a side once kept [px].
MOST_BYTES, MOST_SIDE = 12_000_000, 1600


class BadPicture(Exception):
    """The file is no picture that can be kept."""


def jpeg_of(content: bytes) -> bytes:
    """The picture upright, at most 1600 px a side, as a JPEG without what a camera wrote beside it."""
    if len(content) > MOST_BYTES:
        raise BadPicture("The picture is larger than 12 MB: take a smaller one.")
    try:
        with Image.open(io.BytesIO(content)) as opened:
            upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (UnidentifiedImageError, OSError, Image.DecompressionBombError, ValueError):
        raise BadPicture("This file is no picture that can be read: JPEG or PNG will do.") from None
    upright.thumbnail((MOST_SIDE, MOST_SIDE))
    out = io.BytesIO()
    upright.save(out, "JPEG", quality=82)
    return out.getvalue()
