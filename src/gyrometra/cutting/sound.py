"""Reading a recording: WAV, as a browser's recorder and every phone can write it."""

from __future__ import annotations

import wave
from io import BytesIO

import numpy as np
from numpy.typing import NDArray

#: A longer or larger recording is not read.
MOST_BYTES, MOST_SECONDS = 8_000_000, 60.0
_LEAST_SAMPLES = 256
_RATES = (2_000, 200_000)


class NoSound(Exception):
    """The file cannot be read as a recording; its words say why."""


def read_wav(content: bytes) -> tuple[NDArray[np.float64], float]:
    """The samples of a WAV of whole numbers (8, 16, 24 or 32 bits), channels averaged, and its rate [Hz]."""
    if len(content) > MOST_BYTES:
        raise NoSound(f"The recording is larger than {MOST_BYTES // 1_000_000} MB: a few seconds are enough.")
    try:
        with wave.open(BytesIO(content)) as file:
            channels, width, rate, count = (
                file.getnchannels(),
                file.getsampwidth(),
                file.getframerate(),
                file.getnframes(),
            )
            frames = file.readframes(min(count, int(MOST_SECONDS * rate)))
    except (wave.Error, EOFError, ValueError, RuntimeError):
        raise NoSound("This is no recording that can be read: a WAV of 8, 16, 24 or 32 bits is.") from None
    if not _RATES[0] <= rate <= _RATES[1] or not 1 <= channels <= 8 or width not in (1, 2, 3, 4):
        raise NoSound("This is no recording that can be read: a WAV of 8, 16, 24 or 32 bits is.")
    values = _numbers(frames[: len(frames) // (width * channels) * width * channels], width)
    mono = values.reshape(-1, channels).mean(axis=1)
    if len(mono) < _LEAST_SAMPLES:
        raise NoSound(f"The recording has {len(mono)} samples: a second or two is needed.")
    return mono, float(rate)


def _numbers(frames: bytes, width: int) -> NDArray[np.float64]:
    """Samples from -1 to 1."""
    if width == 1:
        return (np.frombuffer(frames, dtype=np.uint8).astype(np.float64) - 128) / 128
    if width == 3:
        raw = np.frombuffer(frames, dtype=np.uint8).reshape(-1, 3).astype(np.int32)
        whole = (raw[:, 0] << 8 | raw[:, 1] << 16 | raw[:, 2] << 24) >> 8
        return whole.astype(np.float64) / 2**23
    kind = np.dtype("<i2") if width == 2 else np.dtype("<i4")
    return np.frombuffer(frames, dtype=kind).astype(np.float64) / float(2 ** (8 * width - 1))
