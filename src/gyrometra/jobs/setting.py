"""How a cut is set: so far on a dial, to a micrometer reading over the bar, or on a setting micrometer."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import (
    CutterAdvance,
    Dial,
    DialMove,
    InvalidInput,
    NextCut,
    OverBar,
    cutter_advance,
    head_dial,
    over_bar,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """From a measured size to a wanted one; by dial, over the bar, or not known how [mm]."""

    from_mm: float
    to_mm: float
    move: DialMove | None = None
    over: OverBar | None = None
    #: With an indicator behind the bit: how far to push it along itself.
    advance: CutterAdvance | None = None
    #: On a setting micrometer: the diameter to set, with the bar's habit taken off.
    learned: NextCut | None = None

    @property
    def reads_mm(self) -> float | None:
        """What a micrometer shows when it is set; None where a dial is turned."""
        if self.learned is not None:
            return self.learned.set_diameter_mm
        return self.over.reading_mm if self.over is not None else None

    @property
    def change_mm(self) -> float:
        """The change on diameter."""
        return self.to_mm - self.from_mm

    @property
    def radial_mm(self) -> float:
        """The change on radius."""
        return self.change_mm / 2

    @property
    def stands_at(self) -> float:
        """Where the dial stands afterwards; 0 without one."""
        return self.move.set_to_division if self.move else 0.0

    @property
    def divisions(self) -> float:
        """Divisions moved, winding back negative; 0 without a dial."""
        return self.move.divisions if self.move else 0.0


def setting_by_dial(measured_mm: float, target_mm: float, dial: Dial | None, at_division: float) -> Setting:
    """The dial's move; without a dial only the sizes are known."""
    move = None
    if dial is not None:
        move = head_dial(
            measured_diameter_mm=measured_mm, target_diameter_mm=target_mm, dial=dial, at_division=at_division
        )
    return Setting(from_mm=measured_mm, to_mm=target_mm, move=move)


def setting_over_bar(measured_mm: float, target_mm: float, bar_diameter_mm: float) -> Setting:
    """The micrometer reading over bar and point; none where the bar is as thick as the bore."""
    try:
        over = over_bar(bar_diameter_mm=bar_diameter_mm, cutting_diameter_mm=target_mm)
    except InvalidInput:
        over = None
    return Setting(from_mm=measured_mm, to_mm=target_mm, over=over)


def relative_setting(measured_mm: float, target_mm: float, tilt_deg: float) -> Setting:
    """How far to push the bit along itself, watched by an indicator behind it."""
    advance = cutter_advance(measured_diameter_mm=measured_mm, target_diameter_mm=target_mm, bit_tilt_deg=tilt_deg)
    return Setting(from_mm=measured_mm, to_mm=target_mm, advance=advance)
