"""The inspection report in words: asked against found, the gauges, the truing, who and when."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from django.utils.timezone import localtime

from gyrodraw import Scene
from gyrometra.inspection.models import SizeReading
from gyrometra.steps import progress_words
from gyrometra.steps.check.conceded import asked_words, conceded_words, degrees, past_words, what_words
from gyrometra.steps.check.plates import two_angles
from gyrometra.steps.check.scene import report_scene
from gyrometra.steps.page import JobPage
from gyroplan.assess import BoreReport, ReportRow, report_of


@dataclass(frozen=True, kw_only=True)
class RowWords:
    """One limit in words."""

    number: int
    what: str
    place: str
    asked: str
    accepted: str
    found: str
    doubt: str
    mark: str
    words: str


@dataclass(frozen=True, kw_only=True)
class ReportPage:
    """One bore of one piece, as it is printed."""

    title: Sequence[tuple[str, str]]
    word: str
    mark: str
    summary: str
    rows: Sequence[RowWords]
    gauges: Sequence[Sequence[str]]
    facts: Sequence[tuple[str, str]]
    measured_by: str
    measured_at: str
    digest: str
    band: Scene
    name: str
    #: The word of its limits, signed or not; and how many of them are kept.
    judged: str
    kept: str


_VERDICTS = {
    "in": ("in", "in limits"), "over": ("over", "over"), "under": ("under", "metal left"),
    "undecided": ("near", "not proven"), "incomplete": ("wait", "not measured"),
    "beside": ("wait", "beside the sizes"),
}  # fmt: skip
#: Marks by the word of a verdict.
MARKS = {"in": "in", "over": "over", "metal-left": "under", "not-proven": "near", "incomplete": "wait"}
_NOT_JUDGED = "finish, straightness, form between the places, place of the bore to other surfaces"


def report_pages(page: JobPage, pages: Sequence[JobPage]) -> list[ReportPage]:
    """The reports of these bores of a job, with what is read once for all of them."""
    past, struck = _past_facts(page), _struck_out(page)
    return [_report_page(one, past, struck.get((one.bore_row.pk, one.piece), [])) for one in pages]


def _past_facts(page: JobPage) -> list[tuple[str, str]]:
    """Signatures that were taken back: those before the one that is looked at, and what became of that one."""
    past = past_words(page)
    before = [one for one in past if page.past is None or one.key < page.past]
    own = [one for one in past if one.key == page.past]
    return [*(("Reopened since", one.words) for one in own), *(("Signed before", one.words) for one in before)]


def _report_page(page: JobPage, past: Sequence[tuple[str, str]], struck: Sequence[SizeReading]) -> ReportPage:
    """The report of the bore that the page stands at."""
    found, signoff = report_of(page.assessment, page.piece, page.place), getattr(page.job, "signoff", None)
    conceded = [] if signoff is None else conceded_words(signoff.verdict, page.units)
    sizes = [page.rows.sizes[one.key] for one in page.judged.sizes if one.key in page.rows.sizes]
    word, mark = "Draft, not signed", "wait"
    if signoff is not None:
        word, mark = progress_words.VERDICT_WORDS[found.word], MARKS[found.word]
    return ReportPage(
        title=_title(page), word=word, mark=mark,
        summary=_summary(found, _reasons(signoff), signed=signoff is not None, then=page.past is not None),
        rows=[_row(page, one, conceded) for one in found.rows], gauges=[_gauge(page, one) for one in found.gauges],
        facts=_facts(page, found, conceded, _withdrawn(page, struck), past),
        digest=" ".join(found.digest[n : n + 4] for n in range(0, 16, 4)),
        measured_by=", ".join(dict.fromkeys(row.by.username for row in sizes)), measured_at=_when(sizes),
        band=report_scene(page, two_angles(page.judged)),
        judged=found.word, kept=f"{found.in_limits} of {found.asked}",
        name=f"{page.bore.name} of piece {page.piece}" if page.pieces else page.bore.name,
    )  # fmt: skip


def _title(page: JobPage) -> list[tuple[str, str]]:
    job, record = page.job, page.record
    rows = [
        ("Job", job.number), ("Part", job.part), ("Material", str(job.material)),
        ("Piece", f"{page.piece} of {job.quantity}" if job.quantity > 1 else ""),
        ("Bore", page.bore.name if page.is_several else ""),
        ("Set-up", f"{record.setup.letter} of {len(page.setups)}" if page.has_setups else ""),
        ("Bored on", record.setup.machine.name), ("Finished size", f"Ø{page.wanted_words}"),
    ]  # fmt: skip
    return [(name, words) for name, words in rows if words]


_RULES = {
    True: "Limits narrowed by the uncertainty (ISO 14253-1, k = 2).",
    False: "Judged as read, without the uncertainty: the shop's rule.",
}


def _reasons(signoff: Any) -> list[str]:
    """The reasons of the concessions, each once; the limits that each accepts stand among the facts."""
    if signoff is None:
        return []
    each = [str(one["reason"]) for one in signoff.verdict.get("concessions", ())]
    return list(dict.fromkeys(each or [str(signoff.verdict.get("reason", ""))]))


def _summary(found: BoreReport, reasons: Sequence[str], *, signed: bool, then: bool) -> str:
    said = f"{found.in_limits} of {found.asked} found in limits. {_RULES[found.guarded]} "
    if not signed:
        return said + "Not signed: this is a draft."
    locked = "Signed then, and reopened since" if then else "Signed: this record is locked"
    return said + f"{locked}. Concessions: {'; '.join(filter(None, reasons)) or 'none'}."


def _row(page: JobPage, row: ReportRow, conceded: Sequence[str]) -> RowWords:
    planned = degrees if row.is_angle else page.units.planned
    mark, words = _VERDICTS[row.verdict]
    if conceded and row.verdict in ("over", "under", "undecided"):
        words = f"{words}, accepted"
    return RowWords(
        number=row.number, what=_what(row), place=_place(page, row),
        asked=asked_words(page.units, row.lower_mm, row.upper_mm, is_angle=row.is_angle, most="≤ "),
        accepted="" if row.found_mm is None else _accepted(page, row),
        found=_found(page, row, planned),
        doubt="" if row.expanded_mm is None else degrees(row.expanded_mm) if row.is_angle else
        page.units.doubt(row.expanded_mm), mark=mark, words=words,
    )  # fmt: skip


def _what(row: ReportRow) -> str:
    return what_words(row.what, row.name)


def _place(page: JobPage, row: ReportRow) -> str:
    if row.z_mm is not None:
        return f"{page.units.length(row.z_mm)} deep, {row.angle_deg:.0f}°"
    return f"over {page.units.length(page.bore.length_mm)}" if row.what == "taper" else ""


def _found(page: JobPage, row: ReportRow, planned: Any) -> str:
    least, most = row.bounds_mm
    if least is not None and most is not None:
        return f"{planned(least)} to {planned(most)}"
    if least is not None or most is not None:
        return f"≥ {planned(least)}" if least is not None else f"≤ {planned(most)}"
    return "" if row.found_mm is None else planned(row.found_mm)


def _accepted(page: JobPage, row: ReportRow) -> str:
    """The limits narrowed by the uncertainty, rounded inward."""
    low, high = row.accepted_mm
    if low is None and not row.is_angle:
        return f"≤ {page.units.highest(max(0.0, high))}"
    return asked_words(page.units, low, high, is_angle=row.is_angle, most="≤ ")


def _gauge(page: JobPage, used: Any) -> list[str]:
    card, day = used.card, "{:%d %b %Y}".format
    numbers = list(_ranges(used.rows))
    return [
        used.gauge.name, card.serial, page.units.fine(used.gauge.resolution_mm), card.certificate,
        "" if card.certified_on is None else day(card.certified_on), "" if used.due_on is None else day(used.due_on),
        ", ".join(numbers),
    ]  # fmt: skip


def _ranges(numbers: Sequence[int]) -> Iterator[str]:
    """1 2 3 5 as `1 to 3`, `5`."""
    start = last = None
    for number in [*numbers, None]:
        if last is not None and number == last + 1:
            last = number
            continue
        if start is not None:
            yield f"{start}" if start == last else f"{start} to {last}"
        start = last = number


def _facts(
    page: JobPage, found: BoreReport, conceded: Sequence[str], struck: Sequence[str], past: Sequence[tuple[str, str]]
) -> list[tuple[str, str]]:  # fmt: skip
    part, gauge, doubt = found.temperatures
    units = page.units
    truing = page.truing.standing or page.truing.last_valid
    trued = "not read" if truing is None or truing.total_mm is None else (
        f"{page.job.setup.get_reference_display()}, run-out (TIR) {units.planned(truing.total_mm)}, limit "
        f"{units.planned(page.truing.limit_mm)}")  # fmt: skip
    counted = f"; ± {doubt:g} °C is counted in the uncertainty" if doubt else ""
    return [
        ("Truing, before boring", trued),
        ("Temperature", f"part {part:g} °C, gauge {gauge:g} °C{counted}"),
        ("Directions", f"clockwise from {page.record.setup.way.place_name(0)}, {page.record.setup.way.seen_from}"),
        ("Withdrawn", "; ".join(struck) or "none"),
        ("Not judged", _NOT_JUDGED),
        *(("Accepted by concession", words) for words in conceded),
        *past,
    ]  # fmt: skip


def _struck_out(page: JobPage) -> dict[tuple[int, int], list[SizeReading]]:
    """Sizes of the whole job that were struck out, by bore and piece: they stay in the log, and on the report."""
    found: dict[tuple[int, int], list[SizeReading]] = {}
    for row in SizeReading.objects.filter(setup__job=page.job, withdrawn=True).select_related("by").order_by("pk"):
        found.setdefault((row.bore_id, row.piece), []).append(row)
    return found


def _withdrawn(page: JobPage, rows: Sequence[SizeReading]) -> list[str]:
    return [
        f"{localtime(row.read_at):%d %b %H:%M} {row.by.username}: {page.units.planned(row.value_mm)} at "
        f"{page.units.length(row.z_mm)}, {row.angle_deg:.0f}°" for row in rows
    ]  # fmt: skip


def _when(sizes: Sequence[SizeReading]) -> str:
    if not sizes:
        return ""
    first, last = (localtime(pick(row.read_at for row in sizes)) for pick in (min, max))
    end = f"{last:%H:%M}" if first.date() == last.date() else f"{last:%d %b %Y %H:%M}"
    return f"{first:%d %b %Y %H:%M}" + (f" to {end}" if first != last else "")
