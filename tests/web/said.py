"""What pages say, read from the page's own parts."""

from __future__ import annotations

from gyrometra.steps.page import JobPage
from gyrometra.steps.progress_words import gap_words


def missing_words(page: JobPage) -> list[str]:
    """What a verdict still needs, in words."""
    return [gap_words(gap) for gap in page.judged.missing]
