"""What pages say, read from the page's own parts."""

from __future__ import annotations

from typing import Any

from gyrometra.steps.page import JobPage
from gyrometra.steps.progress_words import gap_words


def missing_words(page: JobPage) -> list[str]:
    """What a verdict still needs, in words."""
    return [gap_words(gap) for gap in page.judged.missing]


def flat(answer: Any) -> str:
    """The page of an answer, its lines joined: where a template breaks its lines means nothing."""
    return " ".join(answer.content.decode().split())
