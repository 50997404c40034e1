"""The first page of a report of several bores or pieces: a line each, what they keep together, the run of a batch."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrometra.steps import progress_words
from gyrometra.steps.check.batch import run_words
from gyrometra.steps.check.plates import beside_words
from gyrometra.steps.page import JobPage
from gyrometra.steps.report import MARKS, ReportPage
from gyroplan.assess import alike, worst_word


@dataclass(frozen=True, kw_only=True)
class SummaryRow:
    """One bore of one piece: its smallest and largest size, how many of its limits are kept, its verdict."""

    name: str
    asked: str
    smallest: str
    largest: str
    kept: str
    mark: str
    words: str


@dataclass(frozen=True, kw_only=True)
class ReportSummary:
    """All that a report is of, on one page."""

    title: Sequence[tuple[str, str]]
    word: str
    mark: str
    said: str
    rows: Sequence[SummaryRow]
    facts: Sequence[tuple[str, str]]


def report_summary(page: JobPage, pages: Sequence[JobPage], reports: Sequence[ReportPage]) -> ReportSummary | None:
    """None where the report is of one bore: its own page says it all."""
    if len(reports) < 2:
        return None
    signed = page.is_signed
    match = alike(page.assessment)
    worst = worst_word([*(one.judged for one in reports), *([] if match is None else [match.word])])
    word, mark = ("Draft, not signed", "wait")
    if signed:
        word, mark = progress_words.VERDICT_WORDS[worst], MARKS[worst]
    count = sum(one.judged == "in" for one in reports)
    return ReportSummary(
        title=[row for row in reports[0].title if row[0] not in ("Piece", "Bore", "Set-up")], word=word, mark=mark,
        said=f"{count} of {len(reports)} bores in limits, each on its own page.",
        rows=[_row(one, report) for one, report in zip(pages, reports, strict=True)],
        facts=[*_facts(page), *(row for row in reports[0].facts if row[0] in _OF_ALL)],
    )  # fmt: skip


#: Facts that stand on every page of a report, and are of all of it.
_OF_ALL = ("Accepted by concession", "Reopened since", "Signed before")


def _row(page: JobPage, report: ReportPage) -> SummaryRow:
    units, ends = page.units, page.judged.extremes
    piece = f"piece {page.piece}" if page.job.quantity > 1 else ""
    setup = f"set-up {page.record.setup.letter}" if page.has_setups else ""
    bore = page.bore.name if page.is_several else ""
    smallest, largest = ("", "") if ends is None else (units.planned(place.value_mm) for place in ends)
    name = ", ".join(part for part in (setup, piece, bore) if part)
    return SummaryRow(
        name=name[:1].upper() + name[1:], asked=f"{units.lowest(page.bore.lower_mm)} to "
        f"{units.highest(page.bore.upper_mm)}", smallest=smallest, largest=largest, kept=report.kept,
        mark=MARKS[report.judged], words=progress_words.VERDICT_WORDS[report.judged].lower(),
    )  # fmt: skip


def _facts(page: JobPage) -> list[tuple[str, str]]:
    """What bores keep together, and how a batch runs."""
    runs = [(bore, run_words(page, bore.place)) for bore in page.bores] if page.job.quantity > 1 else []
    named = "Run of the pieces" if not page.is_several else "Run of the pieces, {}"
    return [
        *(("Together", words) for words in beside_words(page)),
        *((named.format(bore.name), words) for bore, words in runs if words),
    ]
