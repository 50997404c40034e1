"""Forms of a round: how it is read, and each reading."""

from __future__ import annotations

import re
from decimal import Decimal
from typing import Any
from uuid import uuid4

from django import forms

from gyrocore import (
    InvalidInput,
    Method,
    read_needle,
)
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.fields import LengthField, TypedForm
from gyrometra.bridge.units import Units, to_decimal
from gyrometra.crib.models import Indicator
from gyrometra.steps.shared.entries import EntryForm, worded
from gyrometra.truing.models import Round
from gyroplan.assess import ASKED, OFF_SCALE, centring

#: Readings of one round (the table keeps as many).
MOST_PLACES = 36
#: Typed for a place that cannot be read: a port, a slot, a keyway.
BLOCKED = "x"


_ONE_PLANE = forms.TextInput(attrs={"placeholder": "one plane"})
_AT_CENTRE = forms.TextInput(attrs={"placeholder": "true, 0"})
_BY_RULE = forms.TextInput(attrs={"placeholder": "by rule"})


#: What is read place by place.
ROUND_BY_ROUND = [(one.value, one.label) for one in (Round.Method.SWEEP, Round.Method.FLATS, Round.Method.WALLS)]


class RoundForm(TypedForm):
    """Begin a round."""

    method = forms.ChoiceField(choices=ROUND_BY_ROUND, initial=Round.Method.SWEEP)
    places = forms.TypedChoiceField(choices=[(4, "4"), (8, "8"), (12, "12")], coerce=int, initial=8, required=False)
    #: Of a sweep: the depth of its plane, where more planes than one are read.
    plane_mm = LengthField(label="Plane at depth", required=False, positive=False, least=0, widget=_ONE_PLANE)
    #: Of runs along the wall: at how many sides, and how deep each is read.
    sides = forms.TypedChoiceField(choices=[(n, f"{n}") for n in (4, 3, 2, 1)], coerce=int, initial=4, required=False)
    depths = forms.CharField(max_length=120, required=False)
    indicator = ChoiceOfRow(Indicator.objects.filter(retired=False), empty_label=None)
    closing_mm = LengthField(label="Back at start may differ by", required=False, widget=_BY_RULE)
    #: Which way the needle counts, and how far off centre the work is wanted on purpose; asked once, then as before.
    plus = forms.ChoiceField(
        label="Plus is", choices=[("in", "plunger in"), ("out", "plunger out")], initial="in", required=False
    )
    view = forms.ChoiceField(
        label="Seen", choices=[("usual", "as usual"), ("other", "from the other end")], initial="usual", required=False
    )
    target_mm = LengthField(label="Wanted off centre by", required=False, widget=_AT_CENTRE, ask_over_mm=20)
    target_deg = forms.TypedChoiceField(label="toward", coerce=int, required=False, empty_value=None)
    client_id = forms.UUIDField(required=False)

    def __init__(self, *args: Any, part_mm: float | None = None, way: Method | None = None, **kwargs: Any) -> None:
        """`part_mm`: how long the part is known to be; nothing is read past it. `way` names the places."""
        self.part_mm = part_mm
        super().__init__(*args, **kwargs)
        names = way.place_name if way is not None else str
        if way is not None:
            view: Any = self.fields["view"]
            view.choices = [("usual", way.seen_from), ("other", "seen from the other end")]
        toward: Any = self.fields["target_deg"]
        toward.choices = [(angle, names(angle)) for angle in range(0, 360, 45)]

    @property
    def says_more(self) -> bool:
        """Whether one of the fields that are folded away says something."""
        shown = ("target_mm", "closing_mm")
        said = self["plus"].value() == "out" or self["view"].value() == "other"
        return said or any(self[name].value() or self[name].errors for name in shown)

    def clean(self) -> dict[str, Any]:
        """Flats are read at the four jaws; walls at so many sides and depths; only a sweep has a plane."""
        values = super().clean() or {}
        values["places"] = values.get("places") or 8
        values["depths_mm"], sides = [], values.pop("sides", None) or 4
        if values.get("method") == Round.Method.FLATS:
            values["places"] = 4
        if values.get("method") == Round.Method.WALLS:
            values["depths_mm"] = self._depths(str(values.get("depths") or ""))
            values["places"] = sides * max(1, len(values["depths_mm"]))
            if values["places"] > MOST_PLACES:
                self.add_error("depths", f"{sides} walls at {len(values['depths_mm'])} depths are {values['places']} "
                                         f"readings; {MOST_PLACES} at most in a round.")  # fmt: skip
        if values.get("method") != Round.Method.SWEEP:
            values["plane_mm"] = None
        self._guard_depth("plane_mm", values.get("plane_mm"))
        self._guard_depth("depths", max(values["depths_mm"], default=None))
        values.pop("depths", None)
        values["client_id"] = values.get("client_id") or uuid4()
        values["plus_out"] = values.pop("plus", "in") == "out"
        values["seen_other"] = values.pop("view", "usual") == "other"
        return values

    def _guard_depth(self, name: str, depth_mm: Decimal | float | None) -> None:
        if depth_mm is None or self.part_mm is None or float(depth_mm) <= self.part_mm + 1e-6:
            return
        length = self.units.length
        self.add_error(name, f"The part is {length(self.part_mm)} {self.units.label} long; a depth of "
                             f"{length(float(depth_mm))} was given.")  # fmt: skip

    def _depths(self, text: str) -> list[float]:
        """Two depths or more, each once; apart by commas with a space, semicolons or spaces."""
        found: list[float] = []
        for piece in (one for one in re.split(r"[;\s]+|,\s+", text.strip()) if one):
            try:
                found.append(float(self.units.read(piece)))
            except InvalidInput as error:
                self.add_error("depths", worded(error, self.units))
                return []
        if len(found) < 2 or len(set(found)) < len(found) or min(found) < 0:
            self.add_error("depths", f"Type two depths or more from the open face, each once: 10 45 85; "
                                     f"{text or 'nothing'} was given.")  # fmt: skip
        return found


_BEYOND = re.compile(r"^(?:>|over|beyond)\s*(?P<sign>[+-]?)\s*[\d.,]+\s*[a-z]*$", re.IGNORECASE)


def _beyond(text: str) -> str:
    """`>100`, `beyond -100`: off the scale, and which way; empty for a reading on it."""
    found = _BEYOND.match(text.strip())
    return "" if found is None else f"off{found['sign'] or '+'}"


def logged_text(text: str) -> str:
    """What a reading without a value is logged as: `off+` for `>100`, else as typed."""
    return _beyond(text) or text.strip().lower()


class CentredForm(TypedForm):
    """Centred by eye, over a plug, with a coaxial indicator or an edge-finder."""

    how = forms.ChoiceField(label="Centred", choices=[(one, Round.Method(one).label) for one in ASKED], initial="plug")
    within_mm = LengthField(label="May lie off by", required=False, help_text="as far as the eye tells: 0.5")
    clearance_mm = LengthField(label="Clearance of the plug, on Ø", required=False, positive=False, least=0)
    swing_mm = LengthField(label="Swing left after both (TIR)", required=False, positive=False, least=0)
    left_mm = LengthField(label="Touched at the left, X", required=False, positive=False)
    right_mm = LengthField(label="at the right, X", required=False, positive=False)
    front_mm = LengthField(label="in front, Y", required=False, positive=False)
    back_mm = LengthField(label="at the back, Y", required=False, positive=False)
    sure_mm = LengthField(label="Each touch sure to", required=False, help_text="0.01")
    client_id = forms.UUIDField(required=False)

    def clean(self) -> dict[str, Any]:
        """What the way asks must be there, and must make sense together."""
        values = super().clean() or {}
        how = str(values.get("how") or "")
        missing = [name for name in ASKED.get(how, ()) if values.get(name) is None and name not in self.errors]
        for name in missing:
            self.add_error(name, f"{self.fields[name].label} is missing.")
        if self.errors:
            return values
        values["numbers"] = {name: float(values[name]) for name in ASKED[how]}
        try:
            values["found"] = centring(how, values["numbers"])
        except InvalidInput as error:
            self.refuse(error, {}, ASKED[how][-1])
        return values

    @property
    def asked(self) -> list[tuple[str, list[Any]]]:
        """The fields of each way."""
        return [(how, [self[name] for name in names]) for how, names in ASKED.items()]


class ReadingForm(EntryForm):
    """One indicator reading."""

    value = forms.CharField(max_length=60, error_messages={"required": "Type the reading, then Enter."})
    place = forms.IntegerField(min_value=0, max_value=MOST_PLACES)

    def __init__(self, *args: Any, units: Units, round: Round | None = None, **kwargs: Any) -> None:
        self.units, self.round = units, round
        #: The number could be divisions or the unit; or it lies past the end of the scale.
        self.is_asked = self.is_past = False
        super().__init__(*args, **kwargs)

    def clean_value(self) -> Decimal | None:
        """Read it as called out at the machine; refuse what the indicator cannot show; x is blocked, off+ is off it."""
        text = self.cleaned_data["value"]
        if text.strip().lower() in (BLOCKED, *OFF_SCALE) or _beyond(text):
            self._require_not_last()
            return None
        indicator = self.round.indicator if self.round else None
        step = float(indicator.step_mm) if indicator else 0.001
        pointed = str(self.data.get("pointed") or (indicator.pointed if indicator else "")) or None
        try:
            per_turn = indicator.per_turn if indicator else None
            size = read_needle(text, self.units.unit, step, pointed, per_turn).length_mm
        except InvalidInput as error:
            self.is_asked = error.code == "reading_asked"
            raise forms.ValidationError(worded(error, self.units)) from None
        reach = float(indicator.range_mm) if indicator else None
        if reach is not None and abs(size) > reach:
            self.is_past = True
            raise forms.ValidationError(
                f"{text} reads as {self.units.plain(size)} {self.units.label}; this indicator goes to "
                f"{self.units.plain(reach)} {self.units.label}. Off the scale is a reading too: say which way."
            )
        return to_decimal(size)

    def _require_not_last(self) -> None:
        """A blocked place has no reading; "first again" must have one."""
        if self.round is not None and str(self.data.get("place")) == str(self.round.places):
            raise forms.ValidationError("First again closes the round: read it where the first reading was taken.")
