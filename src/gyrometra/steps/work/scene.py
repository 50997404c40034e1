"""The Work band: the part as it is and as it must become."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from itertools import pairwise

from gyrodraw import (
    BesideBore,
    FeatureMark,
    Flag,
    Labels,
    LineBore,
    Marks,
    Scene,
    Stock,
    stock_band,
    work_band,
    work_line_band,
)
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.scene import WIDTHS, bands, outside_mm, part_of
from gyrometra.steps.work.features import part_length_mm, size_words
from gyrometra.steps.work.places import first_feature
from gyrometra.steps.work.setups import SetUpRow
from gyrometra.steps.work.whole import PlacedBore
from gyroplan.assess import band_of
from gyroplan.record import letter_of

#: How wide the drawing is beside the open place of a wide page.
BESIDE_PANEL = 860.0


#: A finished size that is longer as it was written would run into the sizes found: its nominal stands instead.
MOST_WRITTEN = 10


def labels_of(page: JobPage) -> Labels:
    """The figures of the work drawing."""
    bore, units, start, wall = page.bore, page.units, page.at.start_mm, page.boring.wall_left_mm
    nominal = bore.aim_mm if bore.nominal_mm is None else bore.nominal_mm
    short = len(bore.wanted) <= MOST_WRITTEN
    as_written = bore.nominal_mm is not None and page.wanted_words == bore.wanted and short
    return Labels(
        length=units.length(bore.length_mm),
        now=f"Ø{units.planned(start)}" if start else "Ø ?",
        wanted=f"Ø{bore.wanted}" if as_written else f"Ø{units.planned(nominal)}",
        upper=units.signed(bore.upper_mm - nominal),
        lower=units.signed(bore.lower_mm - nominal),
        wall=f"{units.plain(wall)} wall left" if wall is not None else "",
        stations=[_station(page, z, diameter) for z, diameter in bore.found_mm],
    )


def _station(page: JobPage, z_mm: float, diameter_mm: float) -> tuple[str, str]:
    """Depth and size as found, with the direction of an oval."""
    units, deg = page.units, page.bore.found_in_deg(z_mm, diameter_mm)
    size = units.planned(diameter_mm)
    return units.length(z_mm), size if deg is None else f"{size} at {deg:g}°"


def work_scenes(page: JobPage, asks: Mapping[str, str] | None = None) -> list[tuple[str, Scene]]:
    """The work as it is and must become, over the whole width: for steps that have nothing of their own to draw yet."""
    if page.record.setup.only_trued:
        return bands(lambda width: stock_band(_stock(page), width))
    part, labels = part_of(page.record.material, page.bore, words=True), labels_of(page)
    return bands(lambda width: work_band(part, labels, width, Marks(asks=asks or {})))


def whole_scenes(
    page: JobPage, bores: Sequence[PlacedBore], rows: Sequence[SetUpRow], feature: int | None = None
) -> list[tuple[str, Scene]]:  # fmt: skip
    """The Work band: the whole part, beside the open place on a wide page."""
    if page.record.setup.only_trued:
        return _bands(lambda width: stock_band(_stock(page), width))
    if page.is_several:
        line, gaps = [*_line(page, bores), *_there_in_line(page, len(bores))], _gaps(page)
        letter = page.record.setup.letter
        marked = _features(page, len(bores), feature)
        return _bands(lambda width: work_line_band(line, gaps, letter, page.record.material.hatch, width, marked))
    beside = [*_beside(page, bores), *_only_there(page, len(bores))]
    part = replace(part_of(page.record.material, page.bore, words=True), beside=beside)
    here = next((one for one in bores if one.here), None)
    marks = Marks(number=f"{here.number}" if here else "", letter=page.record.setup.letter, flags=_flags(page, rows),
                  features=_features(page, len(bores), feature))  # fmt: skip
    labels = labels_of(page)
    return _bands(lambda width: work_band(part, labels, width, marks))


def _stock(page: JobPage) -> Stock:
    """The surface of work that is only set true."""
    units, bore, setup = page.units, page.bore, page.record.setup
    size = bore.smallest_found_mm or bore.aim_mm
    return Stock(
        length_mm=bore.length_mm, size_mm=size, inside=setup.surface == "inside", hatch=page.record.material.hatch,
        length=units.length(bore.length_mm), size=units.planned(size), letter=setup.letter,
    )  # fmt: skip


def _bands(draw: Callable[[float], Scene]) -> list[tuple[str, Scene]]:
    return [(name, draw(BESIDE_PANEL if name == "wide" else width)) for name, width in WIDTHS.items()]


def _beside(page: JobPage, bores: Sequence[PlacedBore]) -> list[BesideBore]:
    """The bores of other set-ups, as they lie from the face of this one."""
    own = page.record.setup
    axis = next((one.axis for one in bores if one.here), 0)
    others = [one for one in bores if one.setup != own.place and one.axis == axis]
    outside = sum(length for length, _ in page.bore.outside_mm)
    whole = max([page.bore.length_mm, outside, *(one.start_mm + one.length_mm for one in others)])
    found = []
    for one in others:
        a, b = one.start_mm, one.start_mm + one.length_mm
        same = one.turned == (own.side == "other")
        a, b = (a, b) if same else (whole - b, whole - a)
        found.append(BesideBore(
            from_mm=a, to_mm=b, now_mm=one.now_mm, aim_mm=one.aim_mm, number=f"{one.number}", letter=one.letter,
            words=f"Ø{one.wanted}", shoulder_mm=(b if same else a) if one.ends == "shoulder" else None,
        ))  # fmt: skip
    return found


def _only_there(page: JobPage, before: int) -> list[BesideBore]:
    """Holes that are not cut, numbered after the bores and the outside."""
    first = before + (1 if page.bore.outside_mm else 0) + 1
    return [
        BesideBore(from_mm=one.from_mm, to_mm=one.to_mm, now_mm=one.diameter_mm, aim_mm=one.diameter_mm,
                   number=f"{first + n}", letter="", words=one.name)
        for n, one in enumerate(page.bore.there)
    ]  # fmt: skip


def _features(page: JobPage, bores: int, here: int | None) -> list[FeatureMark]:
    """What this set-up makes beside its bores, numbered as in the list."""
    first, found = first_feature(page, bores), []
    for number, one in enumerate(page.record.setup.features, start=first):
        band, aim = band_of(one), one.aim_mm or 0.0
        size = aim if one.kind in ("outside", "relief") else one.outer_mm or 0.0
        found.append(FeatureMark(
            kind=one.kind, number=f"{number}", letter=page.record.setup.letter, here=one.place == here,
            words=f"{size_words(page, one)} to the axis of {letter_of(one.to_setup)}" if one.to_setup else "",
            z_mm=aim if one.kind == "face" else one.z_mm, length_mm=one.length_mm or part_length_mm(page) - one.z_mm,
            inner_mm=one.inner_mm or 0.0, outer_mm=size, height_mm=band.height_mm if band else 0.0,
        ))  # fmt: skip
    return found


def _flags(page: JobPage, rows: Sequence[SetUpRow]) -> list[Flag]:
    """Each set-up that stands, on the side that it bores from; this one's side is drawn at the right."""
    own = page.record.setup
    return [
        Flag(letter=one.row.letter, words=one.machine, left=one.row.side != own.side)
        for one in rows if not one.row.closed_reason
    ]  # fmt: skip


def _line(page: JobPage, bores: Sequence[PlacedBore]) -> list[LineBore]:
    units, own = page.units, page.record.setup.place
    outside = {bore.place: outside_mm(bore) for bore in page.bores}
    return [
        LineBore(
            number=f"{one.number}", name=one.name, start_mm=one.start_mm, end_mm=one.start_mm + one.length_mm,
            outside_mm=outside[one.place], now_mm=one.now_mm, aim_mm=one.aim_mm, here=one.here,
            found="Ø ?" if one.found_mm is None else f"Ø{units.planned(one.found_mm)}", wanted=f"Ø{one.wanted}",
        )
        for one in bores if one.setup == own
    ]  # fmt: skip


#: How thick a hole that is not cut is drawn round, as a share of it: its own outside is not asked.
_ROUND_IT = 1.3


def _there_in_line(page: JobPage, before: int) -> list[LineBore]:
    """Holes on the line that are not cut, numbered as in the list."""
    units, first = page.units, before + (1 if page.bore.outside_mm else 0) + 1
    return [
        LineBore(
            number=f"{first + n}", name=one.name, start_mm=one.from_mm, end_mm=one.to_mm, here=False,
            outside_mm=_ROUND_IT * one.diameter_mm, now_mm=one.diameter_mm, aim_mm=one.diameter_mm,
            found=f"Ø{units.planned(one.diameter_mm)}", wanted="not cut",
        )
        for n, one in enumerate(page.bore.there)
    ]  # fmt: skip


def _gaps(page: JobPage) -> list[tuple[float, float, str]]:
    """From face to face along the line."""
    ordered = sorted(page.bores, key=lambda one: one.start_mm)
    return [(a.start_mm, b.start_mm, page.units.length(b.start_mm - a.start_mm)) for a, b in pairwise(ordered)]
