"""What of the Work form must belong together, each with its sentence at the field."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from django.utils import timezone

from gyrocore import (
    InvalidInput,
    Limits,
    holdings,
    holdings_for,
    limits_to_suit,
    method,
    unit_slip,
)
from gyrometra.bridge.units import is_bare
from gyrometra.crib.models import Machine
from gyrometra.cutting.record import why_begun
from gyrometra.inspection.records import last_piece
from gyrometra.jobs.models import Bore, Job, SetUp
from gyrometra.jobs.services import Row
from gyrometra.steps.work.breaks import BreaksForm
from gyrometra.steps.work.shown import found_rows, is_found_alone
from gyrometra.steps.work.there import ThereForm

#: A bore found between these shares of the wanted size could be a radius.
_RADIUS_FROM, _RADIUS_TO = 0.46, 0.51


def end_of(bore: Bore) -> Decimal:
    """Where a bore ends along the axis."""
    return Decimal(bore.start_mm + bore.length_mm)


def cannot(machine: Machine, key: str) -> str:
    """Why a machine cannot bore that way; empty where it can."""
    way = method(key)
    if machine.kind in way.machines:
        return ""
    able = " or a ".join(str(Machine.Kind(kind).label) for kind in way.machines)
    return f"{machine.name} is a {machine.get_kind_display()}; {way.label} needs a {able}."


class GuardedWork(BreaksForm, ThereForm):
    """A Work form that guards what was read: limits, places, bores beside it, what is cut already."""

    bore: Bore | None
    job: Job | None
    piece: int
    found: list[Row]
    outside: list[Row]

    def _settle_limits(self, values: dict[str, Any]) -> None:
        """The limits are what is wanted, or follow from the part they must suit; never both."""
        self._take_mate(values)
        wanted, mate, play = values.get("wanted"), values.get("mate_mm"), values.get("play_mm")
        if {"wanted", "mate_mm", "play_mm"} & set(self.errors):
            return
        if values.get("only_trued") and wanted is None:
            self._settle_surface(values)
            return
        if play is not None and mate is None:
            self._say("mate_mm", "The part's own measured size is missing: the clearance is counted from it.")
        elif play is not None and wanted is not None:
            self._say("wanted", "Limits and a wanted clearance are both given; leave one of them empty.")
        elif play is None and wanted is None:
            self._say(
                "wanted", "Type the size wanted with its limits, or the part that it must suit and the clearance."
            )
        elif play is not None and mate is not None:
            try:
                values["wanted"] = limits_to_suit(mate_mm=float(mate), least_mm=float(play[0]), most_mm=float(play[1]))
            except InvalidInput as error:
                self.refuse(error, {}, "play_mm")

    def _take_mate(self, values: dict[str, Any]) -> None:
        """The size of a part that was measured in another job is taken from there; one typed over it unties the two."""
        feature, bore = values.get("mate_feature"), self.bore
        if feature is None:
            return
        before = None if bore is None or bore.mate_feature_id != feature.pk else bore.mate_mm
        if before is not None and values.get("mate_mm") not in (None, before):
            values["mate_feature"] = None
        elif before is None or values.get("mate_mm") is None or "mate_take" in self.data:
            values["mate_mm"] = feature.found_mm

    def _settle_surface(self, values: dict[str, Any]) -> None:
        """Work that is only set true: the surface that is read stays as it is."""
        size = next((values[name] for name in ("found_d_0", "found_d_1", "found_d_2") if values.get(name)), None)
        if size is None:
            self._say("found_d_0", "The size of the surface that is read is missing: its Ø, or across its flats.")
            return
        value = float(size)
        values["wanted"] = Limits(None, value, value, 0.0, value, ())

    def _guard_only_trued(self, values: dict[str, Any]) -> None:
        """Once passes are logged it is not work that is only set true."""
        if values.get("only_trued") and self.bore is not None and not self.bore.setup.only_trued:
            why = why_begun(self.bore.setup)
            if why:
                self._say("only_trued", why)

    def _guard_quantity(self, values: dict[str, Any]) -> None:
        """A piece that has entries in its logs stays."""
        last = last_piece(self.bore.setup.job) if self.bore else 1
        if (values.get("quantity") or 1) < last:
            self._say("quantity", f"Piece {last} has entries in its logs: {last} pieces at least.")

    def _guard_target(self, values: dict[str, Any]) -> None:
        """The owner's own target lies inside the limits."""
        target, limits = values.get("target"), values.get("wanted")
        if target is None or limits is None:
            return
        if target.lower_mm < limits.lower_mm - 1e-9 or target.upper_mm > limits.upper_mm + 1e-9:
            self._say("target", f"Your own target must lie inside the limits, {self._words(limits.lower_mm)} to "
                                f"{self._words(limits.upper_mm)}; {self._words(target.lower_mm)} to "
                                f"{self._words(target.upper_mm)} was given.")  # fmt: skip

    @property
    def others(self) -> list[Bore]:
        """The other bores of the line."""
        if self.bore is None:
            return []
        return [bore for bore in self.bore.setup.bores.all() if bore.pk != self.bore.pk]

    def _guard_way(self, values: dict[str, Any]) -> None:
        """The machine must be able to bore that way, and one axis of several bores is bored in line."""
        machine, key = values.get("machine"), values.get("method")
        if machine is None or key is None:
            return
        way, why_not = method(key), cannot(machine, key)
        if why_not:
            self._say("machine", why_not)
        if self.others and not way.several:
            self._say("method", f"This job has {len(self.others) + 1} bores in line; {way.label} bores one.")
        self._settle_holding(values, key)
        place = self.bore.setup.place if self.bore is not None else 1
        if values.get("reference") == SetUp.Reference.FINISHED and place == 1:
            self._say("reference", "This is the first set-up: no earlier one has finished a bore to set it true to.")
        if self.bore is not None and key != self.bore.setup.method:
            why = why_begun(self.bore.setup)
            if why:
                self._say("method", why)

    def _settle_holding(self, values: dict[str, Any], key: str) -> None:
        """How the work is held goes with the method; where the method was changed, its usual way follows."""
        holding, fitting = values.get("holding") or "", holdings_for(key)
        if not holding or holding in [one.key for one in fitting]:
            return
        changed = self.bore is None or key != self.bore.setup.method
        if changed:
            values["holding"] = ""
        else:
            names = ", ".join(one.label for one in fitting)
            self._say("holding", f"{holdings()[holding].label.capitalize()} does not go with {method(key).label}; "
                                 f"it goes with {names}.")  # fmt: skip

    def _guard_place(self, values: dict[str, Any]) -> None:
        """A bore has a name of its own and a stretch of its own along the axis."""
        values["name"] = str(values.get("name") or (self.bore.name if self.bore else "bore")).strip()
        values["start_mm"] = values.get("start_mm") or Decimal(0)
        start, length = values["start_mm"], values.get("length_mm")
        for other in self.others:
            if other.name.lower() == values["name"].lower():
                self._say("name", f"There is already a bore {other.name} in this line.")
            elif length is not None and start < end_of(other) and other.start_mm < start + length:
                self._say("start_mm", f"{values['name']} would overlap {other.name}, which runs from "
                                      f"{self._words(other.start_mm)} to {self._words(end_of(other))}.")  # fmt: skip

    def _guard_shoulder(self, values: dict[str, Any]) -> None:
        """A counterbore says how deep its shoulder lies; its length is that depth."""
        depth, length = values.get("depth_wanted"), values.get("length_mm")
        if values.get("ends") != Bore.Ends.SHOULDER:
            if depth is not None:
                self._say("depth_wanted", "Only a counterbore has a shoulder; choose it, or leave this empty.")
            return
        if depth is None and "depth_wanted" not in self.errors:
            self._say("depth_wanted", "Shoulder depth is missing. Type its limits, like 24 +0.1/0.")
        elif depth is not None and length is not None and not depth.lower_mm <= float(length) <= depth.upper_mm:
            least, most = self._words(depth.lower_mm), self._words(depth.upper_mm)
            self._say("length_mm", f"The bore ends at its shoulder: its length must lie from {least} to {most}; "
                                   f"{self._words(length)} was given.")  # fmt: skip

    @property
    def was_alone(self) -> bool:
        """Whether this piece has found sizes of its own."""
        return self.bore is not None and is_found_alone(self.bore, self.piece)

    def _refuse_what_is_cut(self) -> None:
        """The bore as found is what the first pass was set from: it stands once a pass is set."""
        if self.bore is None or self.errors:
            return
        alone = bool(self.cleaned_data.get("found_alone"))
        if self.was_alone and not alone:
            self.found = []  # it came in like the others after all: theirs stand
        else:
            stored = [(row["z_mm"], row["diameter_mm"]) for row in found_rows(self.bore, self.piece)]
            typed = sorted((float(row.first_mm), float(row.second_mm)) for row in self.found)
            if sorted((float(z), float(diameter)) for z, diameter in stored) == typed:
                return
        why = why_begun(self.bore.setup, self.bore, {self.piece} if alone or self.was_alone else self._alike())
        if why:
            self.add_error("found_d_0", why)

    def _alike(self) -> set[int]:
        """Pieces without found sizes of their own."""
        assert self.bore is not None  # noqa: S101 - asked only of a stored one
        return {one for one in range(1, self.bore.setup.job.quantity + 1) if not is_found_alone(self.bore, one)}

    def _guard_found(self, values: dict[str, Any]) -> None:
        length, limits = values.get("length_mm"), values.get("wanted")
        depths = set()
        for place, row in enumerate(self.found):
            if length is not None and row.first_mm > length:
                self._say(f"found_z_{place}", f"The bore is {self._words(length)} long; "
                                              f"{self._words(row.first_mm)} lies past its end.")  # fmt: skip
            if (row.first_mm, row.angle_deg) in depths:
                self._say(f"found_z_{place}", f"Depth {self._words(row.first_mm)} stands here twice: give each its "
                                              "direction, in degrees, where the bore is oval.")  # fmt: skip
            depths.add((row.first_mm, row.angle_deg))
            if limits is None or values.get("only_trued"):
                continue
            slip = unit_slip(value_mm=float(row.second_mm), expected_mm=limits.middle_mm)
            if slip and "wanted" not in self.errors:
                likely = self._words(slip.likely_mm)
                self._say(f"found_d_{place}", f"{self._words(row.second_mm)} is 25.4 times off the wanted "
                                              f"size. Did you mean {likely}?")  # fmt: skip
            elif self._is_radius(float(row.second_mm), limits.middle_mm, place):
                self._say(f"found_d_{place}", f"{self._words(row.second_mm)} is half of about "
                                              f"{self._words(2 * row.second_mm)}: is it a radius? Type the diameter, "
                                              f"{self._words(2 * row.second_mm)}, or its unit behind it if the bore is "
                                              "really so small.")  # fmt: skip
            elif float(row.second_mm) >= limits.middle_mm and "wanted" not in self.errors:
                self._say("wanted", f"The wanted size must be over what is there now: "
                                    f"{self._words(row.second_mm)} was found at {self._words(row.first_mm)}, "
                                    f"and the middle of the limits is {self._words(limits.middle_mm)}.")  # fmt: skip

    def _is_radius(self, found_mm: float, wanted_mm: float, place: int) -> bool:
        """A bore found at about half of what is wanted was perhaps typed as a radius; a named unit says it was not."""
        text = str(self.data.get(f"found_d_{place}", ""))
        return _RADIUS_FROM * wanted_mm <= found_mm <= _RADIUS_TO * wanted_mm and is_bare(text)

    def _guard_due(self, values: dict[str, Any]) -> None:
        """Work is not due before today, unless it was so already."""
        due = values.get("due_on")
        if due is not None and due < timezone.localdate() and (self.job is None or self.job.due_on != due):
            self._say("due_on", f"{due:%d %b %Y} is past; today is {timezone.localdate():%d %b %Y}.")

    def _guard_outside(self, values: dict[str, Any]) -> None:
        limits, length = values.get("wanted"), values.get("length_mm")
        whole = sum((row.first_mm for row in self.outside), Decimal(0))
        if values.get("ends") != Bore.Ends.THROUGH and length is not None and whole and length >= whole:
            self._say("length_mm", f"The bore would end at {self._words(length)}, and the part by its outside is "
                                   f"{self._words(whole)} long: nothing is left behind it.")  # fmt: skip
        for place, row in enumerate(self.outside):
            if limits is not None and float(row.second_mm) <= limits.upper_mm and not values.get("only_trued"):
                self._say(f"outside_d_{place}", f"The outside must be over the bore, "
                                                f"{self._words(limits.upper_mm)}; "
                                                f"{self._words(row.second_mm)} was given.")  # fmt: skip

    def _say(self, name: str, sentence: str) -> None:
        self.add_error(name, sentence)

    def _words(self, value_mm: Decimal | float) -> str:
        return f"{self.units.plain(value_mm)} {self.units.label}"
