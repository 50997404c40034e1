"""What a concession accepts: every limit that is not found in limits, of every bore and piece, one by one."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from hashlib import sha256

from gyroplan.assess.report import ReportRow, report_of
from gyroplan.assess.standing import Assessment
from gyroplan.assess.together import alike, name_of, summary_of

#: The worst first: what cannot be cut away, what can, what nobody can say.
_WORST = ("over", "under", "undecided", "incomplete")


@dataclass(frozen=True, slots=True, kw_only=True)
class NotIn:
    """One limit that is not found in limits [mm]."""

    #: Its set-up's letter where there are several, else empty.
    setup: str
    #: The bore with its piece, as it is named beside others; empty where there is only one.
    of: str
    #: As a row of a report: size, plug, taper, runout ..; `piece` where only the word of a piece was kept; `match`.
    what: str
    #: Of a feature.
    name: str = ""
    lower_mm: float | None = None
    upper_mm: float | None = None
    found_mm: float | None = None
    verdict: str = "over"
    is_angle: bool = False

    @property
    def key(self) -> str:
        """The same for the same limit, whenever it is asked."""
        return sha256(repr((self.setup, self.of, self.what, self.name)).encode()).hexdigest()[:12]


def not_in_limits(job: Assessment, others: Sequence[Assessment] = ()) -> tuple[NotIn, ...]:
    """Return every limit that is not in limits, each once with its worst place.

    Parameters
    ----------
    job : the job at the set-up in hand
    others : at its other set-ups; one that was given up is not judged

    Returns
    -------
    NotIn by set-up, piece and bore; empty where all is in limits
    """
    whole = sorted((job, *others), key=lambda one: one.record.setup.place)
    letters = len(whole) > 1 or bool(job.record.others)
    judged = (one for one in whole if not one.record.setup.closed_reason)
    return tuple(found for one in judged for found in _of_setup(one, one.record.setup.letter if letters else ""))


def _of_setup(job: Assessment, letter: str) -> Iterator[NotIn]:
    setup = job.record.setup
    kept = set(job.begun) if setup.only_trued else {one.piece for one in job.record.summaries}
    for piece in job.begun:
        if piece in kept:
            yield from _by_word(job, piece, letter)
            continue
        for bore in setup.bores:
            is_only = job.record.quantity == 1 and not setup.is_several
            of = "" if is_only else name_of(job.record, piece, bore.name)
            yield from _of_bore(report_of(job, piece, bore.place).rows, of, letter)
    together = alike(job)
    if together is not None and together.word != "in":
        verdict = "over" if together.word == "over" else "incomplete"
        yield NotIn(setup=letter, of="match between bores", what="match", upper_mm=together.asked_mm,
                    found_mm=together.value_mm, verdict=verdict)  # fmt: skip


_OF_WORD = {"over": "over", "metal-left": "under", "not-proven": "undecided", "incomplete": "incomplete"}


def _by_word(job: Assessment, piece: int, letter: str) -> Iterator[NotIn]:
    """Work that is only set true, and a piece of a large batch of which only what it came to was read."""
    for bore in summary_of(job, piece).bores:
        if bore.word != "in":
            of = name_of(job.record, piece, bore.name)
            yield NotIn(setup=letter, of=of, what="piece", verdict=_OF_WORD[bore.word])


def _of_bore(rows: Sequence[ReportRow], of: str, letter: str) -> Iterator[NotIn]:
    worst: dict[tuple[str, str], ReportRow] = {}
    for row in rows:
        known = worst.get((row.what, row.name))
        if row.verdict not in ("in", "beside") and (known is None or _rank(row) < _rank(known)):
            worst[row.what, row.name] = row
    for (what, name), row in worst.items():
        yield NotIn(setup=letter, of=of, what=what, name=name, lower_mm=row.lower_mm, upper_mm=row.upper_mm,
                    found_mm=row.found_mm, verdict=row.verdict, is_angle=row.is_angle)  # fmt: skip


def _rank(row: ReportRow) -> tuple[int, float]:
    """Of two places the worse verdict, then the one farther off."""
    found = row.found_mm
    if found is None or row.upper_mm is None:
        return _WORST.index(row.verdict), 0.0
    below = 0.0 if row.lower_mm is None else row.lower_mm - found
    return _WORST.index(row.verdict), -max(found - row.upper_mm, below)
