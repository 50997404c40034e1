"""The bar's name on the Bore band: whole where it has room, cut short where it has none."""

from dataclasses import replace

import pytest

from gyrodraw import bore_band
from tests.draw.test_scenes import DETAIL, INSIDE, LADDER, PART


@pytest.mark.parametrize(
    ("words", "narrow"),
    [
        ("Bar 7 · 165 out", "Bar 7 · 165 out"),
        ("Steel bar 40 · 1654.98 out", "Steel bar 40"),
        ("Tuned damped bar, 60 with its long head · 465 out", None),
    ],
)
def test_a_bar_is_named_as_far_as_there_is_room(words: str, narrow: str | None) -> None:
    for width in (1280.0, 390.0):
        scene = bore_band(PART, replace(INSIDE, words=words), LADDER, DETAIL, width)
        texts = [shape.text for shape in scene.shapes if getattr(shape, "text", "")]
        if width > 600:
            assert words in texts
        elif narrow is not None:
            assert narrow in texts
        else:
            cut = next(text for text in texts if text.endswith("…"))
            assert words.startswith(cut[:-1])
            assert len(cut) < 25
        assert words in scene.title, "whole for a reader's ear"
