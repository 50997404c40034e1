"""Forms of boring heads, bars and cutters."""

from __future__ import annotations

import re
from decimal import Decimal
from typing import Any

from django import forms

from gyrocore import InvalidInput, bar_kinds, error_sentence, methods
from gyrometra.bridge.fields import LengthField
from gyrometra.crib.forms.base import CribForm, lines_field, read_length, read_pairs
from gyrometra.crib.models import Bar, Cutter, Head, Numbers, Reads

_HOLE = re.compile(r"^(?P<name>[A-Za-z0-9]+)\s*[=:\s]\s*(?P<offset>.+)$")


def _turns(text: str) -> float:
    try:
        turns = float(text.replace(",", "."))
    except ValueError:
        turns = -1.0
    if not 0 <= turns < 1000:
        raise forms.ValidationError(f"{text} is no number of turns. Type overhang and turns, like 300 2.5.")
    return turns


class HeadForm(CribForm):
    """A boring head."""

    model = Head
    division_mm = LengthField(label="One division", help_text="0.01, or 0.5 thou")
    divisions_per_turn = forms.IntegerField(label="Divisions a turn", min_value=1, max_value=2000)
    dial_reads = forms.ChoiceField(label="The dial reads", choices=Reads.choices)
    dial_numbers = forms.ChoiceField(
        label="Winding out, its numbers", choices=Numbers.choices, initial=Numbers.RISE, required=False
    )
    slide_travel_mm = LengthField(label="The slide moves out by")
    shank_mm = LengthField(label="Its holes take a shank of")
    holes = forms.CharField(
        label="Holes with their offsets",
        widget=forms.Textarea(attrs={"rows": 4}),
        error_messages={"required": "A head without holes holds no bar. Type one a line: 1 0."},
        help_text="One a line: name, then offset from the axis with the slide home. 1 0",
    )
    max_rpm = forms.IntegerField(label="Largest speed swung out, rpm", required=False, min_value=1, max_value=20000)

    clearance_mm = LengthField(
        label="Room behind the bar's heel, on radius",
        positive=False,
        least=0,
        required=False,
        help_text="blank: the usual room",
    )
    carrier_mm = LengthField(label="Carried on the end of a bar of Ø", required=False,
                             help_text="blank: it sits in the spindle")  # fmt: skip
    carrier_out_mm = LengthField(label="That bar stands out", required=False, help_text="spindle nose to the head")

    def clean(self) -> dict[str, Any]:
        """What carries the head has a size and stands out by something."""
        values = super().clean() or {}
        for one, other in (("carrier_mm", "carrier_out_mm"), ("carrier_out_mm", "carrier_mm")):
            if values.get(one) is not None and values.get(other) is None and other not in self.errors:
                self.add_error(other, "A head on the end of a bar: both its diameter and how far it stands out are "
                                      "needed.")  # fmt: skip
        return values

    def clean_clearance_mm(self) -> Decimal:
        """Half a millimetre unless the shop wants another room."""
        given = self.cleaned_data.get("clearance_mm")
        return Decimal("0.5") if given is None else given

    def clean_dial_numbers(self) -> str:
        """Most dials rise as they are wound out."""
        return str(self.cleaned_data.get("dial_numbers") or Numbers.RISE)

    def clean_holes(self) -> list[tuple[str, Any]]:
        """Lines or commas; each a name and an offset, each name once."""
        found: dict[str, Any] = {}
        for line in re.split(r"[\n;]", self.cleaned_data["holes"]):
            if not line.strip():
                continue
            match = _HOLE.match(line.strip())
            if match is None:
                raise forms.ValidationError(f"{line.strip()} is not understood. Type a hole and its offset, like 2 15.")
            try:
                offset = self.units.read(match["offset"])
            except InvalidInput as error:
                raise forms.ValidationError(error_sentence(error, self.units.unit)) from None
            if match["name"] in found:
                raise forms.ValidationError(f"Hole {match['name']} stands here twice.")
            found[match["name"]] = offset
        return list(found.items())


class BarForm(CribForm):
    """A boring bar."""

    model = Bar
    folded = ("tail_mm", "inner_diameter_mm", "shank_mm", "steps_mm", "tilt_deg", "damping_ratio", "tuned",
              "tuned_turns", "bits_apart_mm", "pads_behind_mm", "pads_mm")  # fmt: skip
    method = forms.ChoiceField(
        label="Made for", choices=[(k, way.label) for k, way in methods().items() if way.bars == k]
    )
    kind = forms.ChoiceField(label="Kind", choices=[(k, v.label) for k, v in bar_kinds().items()])
    diameter_mm = LengthField(label="Diameter, measured")
    length_mm = LengthField(label="Length over all")
    min_bore_mm = LengthField(label="Smallest bore it enters", required=False,
                              help_text="empty: its diameter and a tenth")  # fmt: skip
    grip_mm = LengthField(label="Must stay in the clamp", required=False, help_text="empty: three diameters")
    tip_mm = LengthField(label="Tip from the bar's own centre", required=False,
                         help_text="only a bar for a boring head")  # fmt: skip
    tail_mm = LengthField(label="Stands out behind the axis, held crosswise", required=False, positive=False, least=0,
                          help_text="only a bar for a boring head")  # fmt: skip
    inner_diameter_mm = LengthField(
        label="Hollow, bore of the bar", required=False, positive=False, least=0, help_text="empty: solid"
    )
    shank_mm = LengthField(label="Shank", required=False, help_text="empty: as thick as the bar")
    steps_mm = lines_field("Steps from the cutter's end", "One a line: length, diameter. 60 32. Empty: plain")
    tilt_deg = forms.DecimalField(
        label="Tool angle from square, degrees", required=False, min_value=-80, max_value=80, max_digits=5,
        decimal_places=2, help_text="empty: square to the bar",
    )  # fmt: skip
    damping_ratio = forms.DecimalField(
        label="Damping ratio, where known", required=False, min_value=Decimal("0.001"), max_value=Decimal("0.9"),
        max_digits=5, decimal_places=4, help_text="empty: its kind's",
    )  # fmt: skip
    tuned = lines_field("Tuned damper: its owner's table", "One a line: overhang, turns out. 300 2.5")
    tuned_turns = forms.DecimalField(
        label="Damper set at, turns out", required=False, min_value=0, max_value=1000, max_digits=6,
        decimal_places=2,
    )  # fmt: skip
    bits_apart_mm = LengthField(
        label="Distance to the second bit", required=False, help_text="two bits are a matched pair"
    )
    pads_behind_mm = LengthField(label="Guide pads behind the cutter by", required=False, help_text="to their middle")
    pads_mm = LengthField(label="Guide pads stand at, on Ø", required=False, help_text="they run in the bore just cut")

    def _length(self, text: str) -> float:
        return read_length(text, self.units, "length")

    def clean_steps_mm(self) -> list[list[float]]:
        """Length and diameter of each step."""
        return read_pairs(self.cleaned_data["steps_mm"], self._length, self._length, "60 32")

    def clean_tuned(self) -> list[list[float]]:
        """Overhang and turns of each point; each overhang once."""
        points = read_pairs(self.cleaned_data["tuned"], self._length, _turns, "300 2.5")
        places = [out for out, _ in points]
        if len(set(places)) < len(places):
            raise forms.ValidationError("An overhang stands in the table twice.")
        if any(turns > out for out, turns in points):
            raise forms.ValidationError("The overhang comes first, then the turns: 300 2.5. Here it is the other way.")
        return sorted(points)

    def clean_inner_diameter_mm(self) -> Decimal:
        """Solid unless it is said."""
        return self.cleaned_data["inner_diameter_mm"] or Decimal(0)

    def clean_tilt_deg(self) -> Decimal:
        """Square unless it is said."""
        return self.cleaned_data["tilt_deg"] or Decimal(0)

    def clean(self) -> dict[str, Any]:
        """A bar must be longer than its grip."""
        values = super().clean() or {}
        diameter, length = values.get("diameter_mm"), values.get("length_mm")
        if diameter is None or length is None:
            return values
        if values.get("min_bore_mm") is None:
            values["min_bore_mm"] = round(diameter * 11 / 10, 6)
        elif values["min_bore_mm"] < diameter:
            self.add_error("min_bore_mm", "A bar cannot enter a bore smaller than itself, "
                                          f"{self.units.plain(diameter)} {self.units.label}.")  # fmt: skip
        if (values.get("inner_diameter_mm") or 0) >= diameter:
            self.add_error("inner_diameter_mm", "A hollow bar needs a wall: its bore must be under "
                                                f"{self.units.plain(diameter)} {self.units.label}.")  # fmt: skip
        self._guard_use(values)
        self._guard_steps(values)
        self._guard_pads(values)
        tip = values.get("tip_mm")
        if tip is not None and tip <= diameter / 2:
            self.add_error("tip_mm", f"The tip must stand past the bar's own {self.units.plain(diameter / 2)}, or the "
                                     f"bar rubs; {self.units.plain(tip)} {self.units.label} was given.")  # fmt: skip
        if values.get("kind") == "line-bar" or values.get("method") == "centres":
            return values
        grip = values.get("grip_mm") or 3 * diameter
        if length <= grip:
            self.add_error("length_mm", f"The clamp keeps {self.units.plain(grip)}; a bar of "
                                        f"{self.units.plain(length)} {self.units.label} leaves nothing.")  # fmt: skip
        return values

    def _guard_steps(self, values: dict[str, Any]) -> None:
        """Steps are shorter than the bar and no thicker than what it enters; only a damped bar is tuned."""
        steps, length, enters = values.get("steps_mm") or [], values["length_mm"], values.get("min_bore_mm")
        if sum(step for step, _ in steps) > float(length) + 1e-9:
            self.add_error("steps_mm", f"The steps are longer than the bar of {self.units.plain(length)} "
                                       f"{self.units.label}.")  # fmt: skip
        elif enters is not None and any(thick > float(enters) for _, thick in steps):
            self.add_error("steps_mm", "A step is thicker than the smallest bore it enters, "
                                       f"{self.units.plain(enters)} {self.units.label}.")  # fmt: skip
        if values.get("tuned") and not str(values.get("kind")).startswith("damped"):
            self.add_error("tuned", "Only a damped bar has a damper to tune; choose its kind, or leave this empty.")

    def _guard_pads(self, values: dict[str, Any]) -> None:
        """Pads have a place and a size over the bar's own; in bearings and between centres the bar is held already."""
        behind, size = values.get("pads_behind_mm"), values.get("pads_mm")
        if behind is None and size is None:
            return
        for name, value in (("pads_behind_mm", behind), ("pads_mm", size)):
            if value is None and name not in self.errors:
                self.add_error(name, "Guide pads need both: how far behind the cutter, and the size they stand at.")
        if size is not None and size <= values["diameter_mm"]:
            self.add_error("pads_mm", f"Pads stand out of the bar of Ø{self.units.plain(values['diameter_mm'])}; "
                                      f"Ø{self.units.plain(size)} {self.units.label} was given.")  # fmt: skip
        if behind is not None and behind >= values["length_mm"]:
            self.add_error("pads_behind_mm", f"The bar is {self.units.plain(values['length_mm'])} long; "
                                             f"{self.units.plain(behind)} {self.units.label} was given.")  # fmt: skip
        if values.get("method") in ("line", "centres"):
            self.add_error("pads_behind_mm", "A bar held at both ends is guided already; leave the pads empty.")

    def _guard_use(self, values: dict[str, Any]) -> None:
        """A line bar runs in bearings and nothing else does; a head's bar says how far its tip stands."""
        use, is_line = values.get("method"), values.get("kind") == "line-bar"
        if values.get("kind") and (use == "line") != is_line and not (use == "centres" and is_line):
            self.add_error("kind", "A bar in bearings is a line bar, and a line bar runs in bearings.")
        if values.get("method") == "head" and values.get("tip_mm") is None and "tip_mm" not in self.errors:
            self.add_error("tip_mm", "A bar for a boring head needs it: what it can reach follows from its tip.")
        if values.get("method") != "head" and values.get("tip_mm") is not None:
            self.add_error("tip_mm", "Only a bar for a boring head has this figure; leave it empty.")
        if values.get("method") != "head" and values.get("tail_mm"):
            self.add_error("tail_mm", "Only a bar for a boring head has this figure; leave it empty.")


class CutterForm(CribForm):
    """A bit."""

    model = Cutter
    made_of = forms.ChoiceField(label="Made of", choices=Cutter.Made.choices)
    nose_radius_mm = LengthField(label="Nose radius")
    entering_angle_deg = forms.DecimalField(
        label="Entering angle, degrees (90 is square; a lead angle is 90 less it)",
        min_value=1, max_value=179, initial=90, max_digits=6, decimal_places=2,
    )  # fmt: skip
    least_depth_mm = LengthField(label="Least useful depth, radial", initial="0.05")
    corners = forms.IntegerField(label="Corners in all", min_value=1, max_value=16, initial=1, required=False)
    corners_used = forms.IntegerField(label="Corners used up", min_value=0, max_value=16, initial=0, required=False)

    def clean(self) -> dict[str, Any]:
        """No more corners used than there are."""
        values = super().clean() or {}
        values["corners"] = values.get("corners") or 1
        values["corners_used"] = values.get("corners_used") or 0
        if values["corners_used"] > values["corners"]:
            self.add_error("corners_used", f"It has {values['corners']} corners; {values['corners_used']} used up "
                                           "cannot be.")  # fmt: skip
        return values
