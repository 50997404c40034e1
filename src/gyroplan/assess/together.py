"""The verdict on the whole job: every bore of every piece, bores in line, bores that must match."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

from gyrocore import BoreCentre, judge_at_most, line_of_bores
from gyroplan.assess.check import worst_word
from gyroplan.assess.features import FeatureChecked, FeatureLine
from gyroplan.assess.pairs import pair_of
from gyroplan.assess.standing import Assessment
from gyroplan.record import BoreRecord, BoreSummary, JobRecord, PieceSummary, SetUpSummary, record_to_json

_WORDS = {"in": "in", "over": "over", "undecided-high": "not-proven"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Together:
    """A limit that several bores keep together: in line, or matching. `word` as a bore's verdict; on diameter [mm]."""

    asked_mm: float
    word: str
    value_mm: float | None = None
    expanded_mm: float | None = None
    #: Bores whose part is not measured yet.
    missing: tuple[str, ...] = ()
    #: How far each bore lies off; for bores that match the smallest and the largest, by name.
    rows: tuple[tuple[str, float], ...] = ()


def name_of(record: JobRecord, piece: int, bore: str) -> str:
    """`H1`, `piece 3`, or `H1 of piece 3`."""
    word = f"piece {piece}" if record.quantity > 1 else ""
    if not record.setup.is_several:
        return word or bore
    return f"{bore} of {word}" if word else bore


def in_line(job: Assessment, piece: int) -> Together | None:
    """The bores of a piece against their common axis, as each was swept; None where it is not asked."""
    setup = job.record.setup
    asked = setup.coaxiality_mm
    if asked is None or not setup.is_several:
        return None
    swept = [(bore, job.swept(piece, bore.place)) for bore in setup.bores]
    missing = tuple(bore.name for bore, view in swept if view is None)
    if missing:
        return Together(asked_mm=asked, word="incomplete", missing=missing)
    centres, doubt = [], 0.0
    for bore, view in swept:
        assert view is not None and view.figures is not None  # noqa: S101, PT018 - none is missing
        x, y = view.figures.offset
        centres.append(BoreCentre(name=bore.name, z_mm=bore.start_mm + bore.length_mm / 2, x_mm=x, y_mm=y))
        spread = view.figures.sweep.eccentricity_sd_mm
        doubt = max(doubt, 2 * spread if spread else view.round.indicator_step_mm)
    found = line_of_bores(bores=centres)
    # as a diameter, like the limit
    expanded = 2 * doubt
    judged = judge_at_most(found_mm=found.coaxiality_mm, allowed_mm=asked, expanded_mm=expanded, rule=job.record.rule)
    return Together(
        asked_mm=asked, word=_WORDS[judged.verdict], value_mm=found.coaxiality_mm, expanded_mm=expanded,
        rows=tuple((row.name, row.off_mm) for row in found.rows),
    )  # fmt: skip


def summary_of(job: Assessment, piece: int) -> PieceSummary:
    """What a piece came to: as it is kept, where its logs are left out; else from its logs."""
    return job.summary(piece, lambda: _summarised(job, piece))


def _summarised(job: Assessment, piece: int) -> PieceSummary:
    record = job.record
    kept = next((one for one in record.summaries if one.piece == piece), None)
    if kept is not None:
        return kept
    line = in_line(job, piece)
    checks = [(bore, job.check(piece, bore.place)) for bore in record.setup.bores]
    due = [one.gauge_due_on for _, check in checks for one in check.sizes if one.gauge_due_on is not None]
    features = [
        BoreSummary(name=one.feature.name, word=one.word, mean_mm=None) for one in job.features(piece) if one.lines
    ]  # fmt: skip
    due += [r.due_on for r in record.feature_readings if r.piece == piece and r.due_on is not None]
    swept = (job.swept(piece, bore.place) for bore, _ in checks)
    used = [one.round.indicator for one in swept if one is not None and one.round.indicator is not None]
    due += [one.due_on for one in used if one.due_on is not None]
    return PieceSummary(
        piece=piece, features=tuple(features), line_word=line.word if line is not None else "",
        bores=tuple(
            BoreSummary(name=bore.name, word=check.word, mean_mm=check.mean_mm, expanded_mm=check.expanded_mm)
            for bore, check in checks
        ),
        digest=_digest(_shown_of(job, piece)), good_until=min((day for day in due if day >= job.today), default=None),
    )  # fmt: skip


def alike(job: Assessment) -> Together | None:
    """The largest mean size less the smallest, of all bores of all pieces; None where it is not asked."""
    record = job.record
    asked = record.setup.match_mm
    if asked is None:
        return None
    count = record.quantity * len(record.setup.bores)
    pairs = [
        (bore.mean_mm, name_of(record, piece, bore.name))
        for piece in job.begun for bore in summary_of(job, piece).bores if bore.mean_mm is not None
    ]  # fmt: skip
    if len(pairs) < 2:
        first = tuple(name_of(record, piece, bore.name) for piece in record.pieces for bore in record.setup.bores)
        return Together(asked_mm=asked, word="incomplete" if count > 1 else "in", missing=first[:3])
    low, high = min(pairs), max(pairs)
    apart = high[0] - low[0]
    word = "over" if apart > asked + 1e-9 else "in" if len(pairs) == count else "incomplete"
    return Together(asked_mm=asked, word=word, value_mm=apart, rows=((low[1], low[0]), (high[1], high[0])))


def piece_words(job: Assessment, piece: int) -> list[str]:
    """The verdicts of a piece: its bores, and their line."""
    found = summary_of(job, piece)
    words = [one.word for one in (*found.bores, *found.features)]
    return [*words, found.line_word] if found.line_word else words


def job_word(job: Assessment) -> str:
    """The worst verdict of all set-ups and pieces, and of what they keep together."""
    others = [one.word for one in job.record.others if not one.closed_reason]
    own = [] if job.record.setup.closed_reason else [setup_word(job)]
    return worst_word([*own, *others])


def setup_word(job: Assessment) -> str:
    """The worst verdict of this set-up: all its pieces, and what they keep together."""
    return worst_word([word for _, word in _named(job)])


def worst_named(job: Assessment) -> list[tuple[str, str]]:
    """What is not in limits, by name and word; empty where all is in. A set-up that was given up is not judged."""
    record = job.record
    here = record.setup.letter if record.others else ""
    found = [] if record.setup.closed_reason else [(_in_setup(name, here), word) for name, word in not_in(job)]
    for one in record.others:
        found += [] if one.closed_reason else [(_in_setup(name, one.letter), word) for name, word in one.not_in]
    return found


def not_in(job: Assessment) -> list[tuple[str, str]]:
    """What is not in limits of this set-up, by name and word."""
    return [(name, word) for name, word in _named(job) if word != "in"]


def _in_setup(name: str, letter: str) -> str:
    return f"{name} in set-up {letter}" if letter else name


def setup_summary(job: Assessment) -> SetUpSummary:
    """What this set-up came to, to be kept for the pages of the others."""
    setup, pieces = job.record.setup, [summary_of(job, piece) for piece in job.begun]
    due = [one.good_until for one in pieces if one.good_until is not None]
    return SetUpSummary(
        place=setup.place, closed_reason=setup.closed_reason, word=setup_word(job), not_in=tuple(not_in(job)),
        digest=_setup_digest(job), good_until=min(due, default=None), off_centre_mm=_off_centre_mm(job),
        first_bore_mm=tuple(_first_bore(job)),
    )  # fmt: skip


def _first_bore(job: Assessment) -> Iterator[tuple[int, float, float]]:
    """The mean size of its first bore, of each piece that has one."""
    for piece in job.begun:
        first = summary_of(job, piece).bores[0]
        if first.mean_mm is not None:
            yield piece, first.mean_mm, first.expanded_mm


def _off_centre_mm(job: Assessment) -> float | None:
    """How far the piece that was begun first was trued off the axis."""
    piece = job.begun[0] if job.begun else 1
    return job.boring(piece, job.record.setup.bores[0].place).off_centre_mm


def _named(job: Assessment) -> list[tuple[str, str]]:
    record = job.record
    pieces = [summary_of(job, piece) for piece in record.pieces]
    found = [(name_of(record, one.piece, bore.name), bore.word) for one in pieces for bore in one.bores]
    found += [(_of_piece(record, one.piece, of.name), of.word) for one in pieces for of in one.features]
    found += [
        (f"bores in line{f' of piece {one.piece}' if record.quantity > 1 else ''}", one.line_word)
        for one in pieces if one.line_word
    ]  # fmt: skip
    together = alike(job)
    if together is not None:
        found.append(("match between bores", together.word))
    return found


def shown_digest(job: Assessment) -> str:
    """The digest of all that stands under a signature: the same at whichever of the set-ups it is shown."""
    others = job.record.others
    if not others:
        return _setup_digest(job)
    setup = job.record.setup
    each = [[setup.place, setup.closed_reason, _setup_digest(job)]]
    each += [[one.place, one.closed_reason, one.digest] for one in others]
    return _digest(sorted(each))


def _of_piece(record: JobRecord, piece: int, name: str) -> str:
    return f"{name} of piece {piece}" if record.quantity > 1 else name


def _setup_digest(job: Assessment) -> str:
    """Of every piece's own, and what they keep together."""
    pieces = [[piece, summary_of(job, piece).digest] for piece in job.begun]
    together = alike(job)
    return _digest([setup_word(job), pieces, None if together is None else _signed_together(together)])


def signed_verdict(job: Assessment, others: Sequence[Assessment] = ()) -> tuple[str, dict[str, Any]]:
    """All that stands under the lead's name, with its digest: places, limits, uncertainty, of every bore and piece.

    The logs of all pieces are needed, and those of the other set-ups: nothing is signed from what was kept.
    """
    whole = sorted((job, *others), key=lambda one: one.record.setup.place)
    judged = [one for one in whole if not one.record.setup.closed_reason]
    shown = [(one.record.setup.letter, _shown_of(one, piece)) for one in judged for piece in one.record.pieces]
    together = [found for one in judged if (found := alike(one)) is not None]
    summaries = tuple(setup_summary(one) for one in others)
    now = replace_others(job, summaries)
    return shown_digest(now), {
        "word": job_word(now),
        "rule": job.record.rule,
        "bores": [
            {**bore, **({"setup": letter} if len(whole) > 1 else {})}
            for letter, piece in shown
            for bore in piece["bores"]
            if piece["begun"]
        ],
        "features": [
            {**feature, **({"setup": letter} if len(whole) > 1 else {})}
            for letter, piece in shown
            for feature in piece.get("features", ())
            if piece["begun"]
        ],
        "in_line": [piece["line"] for _, piece in shown],
        "alike": _signed_together(together[0]) if together else None,
        "given_up": [
            [one.record.setup.letter, one.record.setup.closed_reason] for one in whole if one.record.setup.closed_reason
        ],
    }


def replace_others(job: Assessment, others: tuple[SetUpSummary, ...]) -> Assessment:
    """The same, beside other set-ups as they stand now."""
    return replace(job, record=replace(job.record, others=others)) if others != job.record.others else job


def judged_and_written(job: Assessment, others: Sequence[Assessment] = ()) -> tuple[str, dict[str, Any], str]:
    """Digest and verdict of all that is signed, and every set-up of the job written down as it was judged."""
    summaries = {one.record.setup.place: setup_summary(one) for one in (job, *others)}
    written = [
        record_to_json(replace(one.record, others=tuple(
            summary for place, summary in sorted(summaries.items()) if place != one.record.setup.place
        )))
        for one in sorted((job, *others), key=lambda one: one.record.setup.place)
    ]  # fmt: skip
    return *signed_verdict(job, others), written[0] if len(written) == 1 else f'{{"setups": [{",".join(written)}]}}'


def _shown_of(job: Assessment, piece: int) -> dict[str, Any]:
    line = in_line(job, piece)
    return {
        "begun": piece in job.begun,
        "bores": [_signed_bore(job, piece, bore) for bore in job.record.setup.bores],
        "line": None if line is None else _signed_together(line),
        # left out where there are none: what was signed before there were features has the same digest
        **({"features": features} if (features := [_signed_feature(one) for one in job.features(piece)]) else {}),
    }


def _digest(shown: object) -> str:
    text = json.dumps(shown, sort_keys=True, separators=(",", ":"), default=str)
    return hashlib.sha256(text.encode()).hexdigest()


def _signed_together(found: Together) -> dict[str, Any]:
    return {"asked_mm": found.asked_mm, "value_mm": found.value_mm, "word": found.word}


def _signed_bore(job: Assessment, piece: int, bore: BoreRecord) -> dict[str, Any]:
    check = job.check(piece, bore.place)
    limits = check.state.limits
    named = {"size": limits.size, "taper": limits.taper, "roundness": limits.roundness, "runout": limits.runout,
             "depth": limits.depth}  # fmt: skip
    return {
        "name": name_of(job.record, piece, bore.name), "word": check.word, "lower_mm": bore.lower_mm,
        "upper_mm": bore.upper_mm, "wanted": bore.wanted, "mean_mm": check.mean_mm, "expanded_mm": check.expanded_mm,
        "target_mm": [bore.target_lower_mm, bore.target_upper_mm], "on_target": check.on_target,
        "places": [[p.z_mm, p.angle_deg, p.value_mm, p.expanded_mm, p.verdict] for p in check.places],
        "limits": {name: None if f is None else [f.value_mm, f.expanded_mm, f.verdict] for name, f in named.items()},
        "asked": {line.name: line.allowed_mm for line in check.limits}, **_signed_truing(job, piece, bore),
        # left out where there are none: what was signed before there were plugs has the same digest
        **({"plugs": plugs} if (plugs := [[p.gauge.name, p.side, p.goes, p.size_mm] for p in check.plugs]) else {}),
    }  # fmt: skip


def _signed_truing(job: Assessment, piece: int, bore: BoreRecord) -> dict[str, Any]:
    """Of work that is only set true, how far off it was read last: its verdict rests on it."""
    if not job.record.setup.only_trued:
        return {}
    standing = job.truing(piece, bore.place).standing
    return {"trued_off_mm": None if standing is None else standing.off_centre_mm}


def _signed_feature(one: FeatureChecked) -> dict[str, Any]:
    return {
        "name": one.feature.name, "kind": one.feature.kind, "word": one.word,
        "limits": [
            [line.what, line.lower, line.upper, line.value, line.expanded, line.word, *_rings(line)]
            for line in one.lines
        ],
    }  # fmt: skip


def _rings(line: FeatureLine) -> list[Any]:
    """What rings said; nothing where none was tried: what was signed before there were rings has the same digest."""
    return [] if line.bounds is None else [line.bounds.at_least_mm, line.bounds.at_most_mm, line.contradicts]


def minutes_of(job: Assessment, piece: int) -> float | None:
    """All bores of a piece under feed; two that two bits cut at once count once. None while a time is missing."""
    bores = job.record.setup.bores
    times = {bore.name: job.boring(piece, bore.place).speeds.minutes for bore in bores}
    pair = pair_of(job.boring(piece, bores[0].place).passes.at)
    if pair is not None:
        both = (times.pop(pair[0]), times.pop(pair[1]))
        times[pair[0]] = None if None in both else max(time for time in both if time is not None)
    known = [time for time in times.values() if time is not None]
    return sum(known) if len(known) == len(times) else None
