"""The verdict on the whole job: every bore of every piece, bores in line, bores that must match."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from gyrocore import BoreCentre, judge_at_most, line_of_bores
from gyrometra.inspection.judged import worst_word
from gyrometra.steps.page import JobPage

_WORDS = {"in": "in", "over": "over", "undecided-high": "not-proven"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Together:
    """A limit that several bores keep together: in line, or alike. `word` as a bore's verdict; on diameter [mm]."""

    asked_mm: float
    word: str
    value_mm: float | None = None
    expanded_mm: float | None = None
    #: Bores whose part is not measured yet.
    missing: tuple[str, ...] = ()
    #: How far each bore lies off; for bores that match the smallest and the largest, by name.
    rows: tuple[tuple[str, float], ...] = ()


def name_of(page: JobPage) -> str:
    """`H1`, `piece 3`, or `H1 of piece 3`."""
    piece = f"piece {page.piece}" if page.pieces else ""
    if not page.is_several:
        return piece or page.bore.name
    return f"{page.bore.name} of {piece}" if piece else page.bore.name


def measured_pages(page: JobPage) -> list[JobPage]:
    """Every bore of every piece that has something in its logs."""
    return [one for piece in page.begun_pieces for one in page.at_piece(piece).each]


def all_pages(page: JobPage) -> list[JobPage]:
    """Every bore of every piece."""
    return [one for piece in (page.pieces or range(1, 2)) for one in page.at_piece(piece).each]


def in_line(page: JobPage) -> Together | None:
    """The bores of this piece against their common axis, as each was swept; None where it is not asked."""
    asked = page.job.setup.coaxiality_mm
    if asked is None or not page.is_several:
        return None
    swept = [(one, one.swept) for one in page.each]
    missing = tuple(one.bore.name for one, view in swept if view is None)
    if missing:
        return Together(asked_mm=float(asked), word="incomplete", missing=missing)
    centres, doubt = [], 0.0
    for one, view in swept:
        assert view is not None and view.figures is not None  # noqa: S101, PT018 - none is missing
        x, y = view.figures.offset
        middle = float(one.bore.start_mm) + float(one.bore.length_mm) / 2
        centres.append(BoreCentre(name=one.bore.name, z_mm=middle, x_mm=x, y_mm=y))
        spread = view.figures.sweep.eccentricity_sd_mm
        doubt = max(doubt, 2 * spread if spread else float(view.round.indicator.step_mm))
    found = line_of_bores(bores=centres)
    # as a diameter, like the limit
    expanded = 2 * doubt
    judged = judge_at_most(found_mm=found.coaxiality_mm, allowed_mm=float(asked), expanded_mm=expanded)
    return Together(
        asked_mm=float(asked), word=_WORDS[judged.verdict], value_mm=found.coaxiality_mm, expanded_mm=expanded,
        rows=tuple((row.name, row.off_mm) for row in found.rows),
    )  # fmt: skip


def alike(page: JobPage) -> Together | None:
    """The largest mean size less the smallest, of all bores of all pieces; None where it is not asked."""
    asked = page.job.setup.match_mm
    if asked is None:
        return None
    every = all_pages(page)
    sizes = [(one.judged.mean_mm, name_of(one)) for one in measured_pages(page) if one.judged.mean_mm is not None]
    if len(sizes) < 2:
        word = "incomplete" if len(every) > 1 else "in"
        return Together(asked_mm=float(asked), word=word, missing=tuple(name_of(one) for one in every)[:3])
    pairs = [(size, name) for size, name in sizes if size is not None]
    low, high = min(pairs), max(pairs)
    apart = high[0] - low[0]
    word = "in" if apart <= float(asked) + 1e-9 else "over"
    if word == "in" and len(pairs) < len(every):
        word = "incomplete"
    return Together(asked_mm=float(asked), word=word, value_mm=apart, rows=((low[1], low[0]), (high[1], high[0])))


def piece_words(page: JobPage) -> list[str]:
    """The verdicts of this piece: its bores, and their line."""
    line = in_line(page)
    return [one.judged.word for one in page.each] + ([line.word] if line is not None else [])


def job_word(page: JobPage) -> str:
    """The worst verdict of all pieces, and of what they keep together."""
    words = [word for piece in (page.pieces or range(1, 2)) for word in piece_words(page.at_piece(piece))]
    together = alike(page)
    return worst_word([*words, *([together.word] if together is not None else [])])


def worst_named(page: JobPage) -> Sequence[tuple[str, str]]:
    """What is not in limits, by name and word; empty where all is in."""
    found = [(name_of(one), one.judged.word) for one in all_pages(page) if one.judged.word != "in"]
    for piece in page.pieces or range(1, 2):
        line = in_line(page.at_piece(piece))
        if line is not None and line.word != "in":
            found.append((f"bores in line{f' of piece {piece}' if page.pieces else ''}", line.word))
    together = alike(page)
    if together is not None and together.word != "in":
        found.append(("match between bores", together.word))
    return found


def signed_verdict(page: JobPage) -> tuple[str, dict[str, Any]]:
    """All that stands under the lead's name, and its digest: places, limits, uncertainty, of every bore and piece."""
    bores = [_signed_bore(one) for one in measured_pages(page)]
    lines = [in_line(page.at_piece(piece)) for piece in (page.pieces or range(1, 2))]
    together = alike(page)
    shown = {
        "word": job_word(page),
        "rule": "guarded",
        "bores": bores,
        "in_line": [None if line is None else {"asked_mm": line.asked_mm, "value_mm": line.value_mm, "word": line.word}
                    for line in lines],
        "alike": None if together is None else {"asked_mm": together.asked_mm, "value_mm": together.value_mm,
                                                "word": together.word},
    }  # fmt: skip
    text = json.dumps(shown, sort_keys=True, separators=(",", ":"), default=str)
    return hashlib.sha256(text.encode()).hexdigest(), shown


def _signed_bore(page: JobPage) -> dict[str, Any]:
    judged, bore = page.judged, page.bore
    limits = judged.state.limits
    named = {"size": limits.size, "taper": limits.taper, "roundness": limits.roundness, "runout": limits.runout,
             "depth": limits.depth}  # fmt: skip
    return {
        "name": name_of(page), "word": judged.word, "lower_mm": float(bore.lower_mm), "upper_mm": float(bore.upper_mm),
        "wanted": bore.wanted, "mean_mm": judged.mean_mm, "expanded_mm": judged.expanded_mm,
        "target": bore.target, "on_target": judged.on_target,
        "places": [[p.z_mm, p.angle_deg, p.value_mm, p.expanded_mm, p.verdict] for p in judged.places],
        "limits": {name: None if f is None else [f.value_mm, f.expanded_mm, f.verdict] for name, f in named.items()},
        "asked": {line.name: line.allowed_mm for line in judged.lines},
    }  # fmt: skip
