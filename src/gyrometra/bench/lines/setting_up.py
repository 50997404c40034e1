"""Lines of setting up: a press fit, balance, two sides, a stack of packing, facing."""

from __future__ import annotations

from gyrocore import (
    Bush,
    Hub,
    InvalidInput,
    Mass,
    PackingPiece,
    SpindleReading,
    angled_face,
    balance,
    face_time,
    packing,
    press_fit,
    read_surface_speed,
    sentence,
    spindle_check,
    two_sided,
)
from gyrometra.bench.lines.answer import Answer, Line, NumberField
from gyrometra.bridge.fields import LengthField
from gyrometra.crib.models import Fixture

_LAME = "Lame's thick cylinders (Timoshenko, Strength of Materials II)."
#: So many kinds of packing are stacked; the core tries every stack of them.
_MOST_KINDS = 20


class PressLine(Line):
    """What pressing a bronze bush into a seat of grey iron does."""

    key, title, verbs = "press", "Press a bush in", ("press", "shrink")
    sizes, example = ("outside", "inside", "interference", "length", "hub"), "press 80 70 0.04 60"
    core_fields = {"bush.outside_mm": "outside", "bush.inside_mm": "inside", "interference_mm": "interference",
                   "length_mm": "length", "hub.outside_mm": "hub"}  # fmt: skip

    outside = LengthField(label="bush Ø")
    inside = LengthField(label="its bore Ø")
    interference = LengthField(label="interference, on Ø")
    length = LengthField(label="seat length")
    hub = LengthField(label="hub Ø, if thin")

    def is_needed(self, name: str) -> bool:
        return name != "hub"

    def answer(self) -> Answer:
        hub = self.cleaned_data["hub"]
        found = press_fit(
            bush=Bush(outside_mm=self.value("outside"), inside_mm=self.value("inside")),
            hub=Hub(outside_mm=None if hub is None else float(hub)),
            interference_mm=self.value("interference"), length_mm=self.value("length"),
        )  # fmt: skip
        cold = "" if found.cool_bush_to_c is None else f", or cool the bush to {found.cool_bush_to_c:.0f} °C"
        words = [
            "bronze in grey iron: the bore closes, on diameter", f"press {found.press_force_n / 1000:.1f} kN",
            f"to slip in, heat the hub to {found.heat_hub_to_c:.0f} °C{cold}: gloves, and no oil near",
        ]  # fmt: skip
        if found.hub_grows_mm is not None:
            words.append(f"the hub grows {self.shown(found.hub_grows_mm)}")
        return Answer(
            figure=self.units.planned(found.bore_closes_mm or 0.0), unit=self.units.label, words=words,
            because=self.because(
                "p from the interference and what both walls give; bore closes by 2 p d² di / ((d² - di²) E)",
                [("pressure", f"{found.pressure_mpa:.2f} MPa"), ("friction", "0.12"),
                 ("hoop stress in the hub", f"{found.hub_hoop_mpa:.0f} MPa"), ("E", "110 and 110 GPa")], _LAME),
        )  # fmt: skip


class BalanceLine(Line):
    """The counterweight for work that is heavy on one side."""

    key, title, verbs = "balance", "Balance", ("balance", "counterweight")
    sizes, example = ("mass", "radius", "counter", "rpm"), "balance 2 150 120 300"
    core_fields = {"masses.0.mass_kg": "mass", "masses.0.radius_mm": "radius", "counter_radius_mm": "counter"}

    mass = NumberField(label="heavy side, kg")
    radius = LengthField(label="off centre", positive=False, least=0)
    counter = LengthField(label="counterweight at")
    rpm = NumberField(label="rpm", min_value=0)

    def is_needed(self, name: str) -> bool:
        return name != "rpm"

    def answer(self) -> Answer:
        rpm = self.cleaned_data["rpm"]
        heavy = Mass(name="work", mass_kg=self.value("mass"), radius_mm=self.value("radius"), angle_deg=0.0)
        found = balance(masses=[heavy], counter_radius_mm=self.value("counter"), rpm=float(rpm) if rpm else None)
        words = [f"opposite, {self.units.length(self.value('counter'))} {self.units.label} off centre"]
        if found.force_n is not None:
            words.append(f"without it {found.force_n:.0f} N turn with the spindle at {rpm:g} rpm")
        return Answer(
            figure=f"{found.counter_mass_kg or 0:.2f}", unit="kg", words=[*words, "static balance only: start slow"],
            because=self.because("counterweight = m r / R; force = m r w²",
                                 [("unbalance", f"{found.unbalance_kg_mm:.0f} kg mm")], "Derived: sum of moments."),
        )  # fmt: skip


class TwoSidesLine(Line):
    """How deep each side is bored where the bar does not reach through."""

    key, title, verbs = "sides", "Bored from two sides", ("sides", "both")
    sizes, example = ("length", "a", "b", "overlap"), "sides 200 120 100"
    core_fields = {"length_mm": "length", "reach_a_mm": "a", "reach_b_mm": "b", "overlap_mm": "overlap"}

    length = LengthField(label="bore length")
    a = LengthField(label="reach from A", positive=False, least=0)
    b = LengthField(label="reach from B", positive=False, least=0)
    overlap = LengthField(label="overlap", positive=False, least=0)

    def is_needed(self, name: str) -> bool:
        return name != "overlap"

    def answer(self) -> Answer:
        overlap = self.cleaned_data["overlap"]
        found = two_sided(
            length_mm=self.value("length"), reach_a_mm=self.value("a"), reach_b_mm=self.value("b"),
            overlap_mm=1.0 if overlap is None else float(overlap),
        )  # fmt: skip
        words = [sentence(note, self.units.unit) for note in found.notes]
        if found.depth_a_mm is None or found.depth_b_mm is None:
            figure, state = self.units.length(found.short_mm), "stop"
        else:
            figure, state = f"{self.units.length(found.depth_a_mm)} + {self.units.length(found.depth_b_mm)}", "plain"
            words.insert(0, "deep from A, and from B")
        return Answer(
            figure=figure, unit=self.units.label, words=words, state=state,
            because=self.because("A as deep as it reaches, B the rest and the overlap",
                                 [("reach", f"{self.shown(self.value('a'))} and {self.shown(self.value('b'))}")],
                                 "Derived."),
        )  # fmt: skip


class StackLine(Line):
    """The stack of the shop's own packing that comes nearest to a height."""

    key, title, verbs = "stack", "Packing", ("stack", "packing", "pack")
    sizes, example = ("height",), "stack 84.5"
    core_fields = {"target_mm": "height"}

    height = LengthField(label="height wanted")

    def answer(self) -> Answer:
        owned = Fixture.objects.filter(retired=False, kind=Fixture.Kind.PACKING, height_mm__isnull=False)[:_MOST_KINDS]
        pieces = [PackingPiece(name=one.name, height_mm=float(one.height_mm)) for one in owned]
        if not pieces:
            raise InvalidInput("target_mm", "no_packing")
        found = packing(pieces=pieces, target_mm=self.value("height"))
        return Answer(
            figure=self.units.planned(found.height_mm), unit=self.units.label,
            words=[", ".join(one.name for one in found.stack), *(sentence(n, self.units.unit) for n in found.notes)],
            because=self.because("every stack of up to four pieces is tried",
                                 [("kinds of packing in the crib", str(len(pieces)))], "Derived."),
        )  # fmt: skip


class FacingLine(Line):
    """Minutes that a facing cut takes."""

    key, title, verbs = "facing", "Facing", ("facing", "face")
    sizes, example = ("outer", "inner", "feed", "rpm", "speed"), "facing 200 80 0.15 250"
    core_fields = {"outer_diameter_mm": "outer", "inner_diameter_mm": "inner", "feed_mm_rev": "feed",
                   "surface_speed_m_min": "speed", "max_rpm": "rpm"}  # fmt: skip

    outer = LengthField(label="from Ø")
    inner = LengthField(label="to Ø", positive=False, least=0)
    feed = LengthField(label="feed per rev")
    rpm = NumberField(label="rpm, or max rpm", min_value=0)
    speed = NumberField(label="surface speed, held", min_value=0)

    def is_needed(self, name: str) -> bool:
        return name != "speed"

    def answer(self) -> Answer:
        speed, rpm = self.cleaned_data["speed"], self.value("rpm")
        held = None if speed is None else read_surface_speed(str(speed), self.units.unit)
        found = face_time(
            outer_diameter_mm=self.value("outer"), inner_diameter_mm=self.value("inner"),
            feed_mm_rev=self.value("feed"),
            rpm=rpm if held is None else None, surface_speed_m_min=held, max_rpm=None if held is None else rpm,
        )  # fmt: skip
        words = (
            [] if held is None else [f"{found.rpm_at_outer:.0f} rpm at the rim, {found.rpm_at_inner:.0f} at the bore"]
        )
        return Answer(
            figure=f"{found.minutes:.1f}", unit="min",
            words=[*words, *(sentence(note, self.units.unit) for note in found.notes)],
            because=self.because("minutes = way on radius / (feed x rpm), the rpm held to the surface speed",
                                 [("way on radius", self.shown((self.value("outer") - self.value("inner")) / 2))],
                                 "Derived: integral of the feed."),
        )  # fmt: skip


class BandLine(Line):
    """Measures of a face at an angle."""

    key, title, verbs = "band", "Face at an angle", ("band", "seat", "chamfer")
    sizes, example = ("angle", "inner", "outer", "deepen"), "band 45 30 34 0.1"
    core_fields = {
        "angle_deg": "angle",
        "inner_diameter_mm": "inner",
        "outer_diameter_mm": "outer",
        "deepen_mm": "deepen",
    }

    angle = NumberField(label="from square, degrees", min_value=0)
    inner = LengthField(label="from Ø", positive=False, least=0)
    outer = LengthField(label="to Ø")
    deepen = LengthField(label="deepened by", positive=False, least=0)

    def is_needed(self, name: str) -> bool:
        return name != "deepen"

    def answer(self) -> Answer:
        deepen = self.cleaned_data["deepen"]
        found = angled_face(
            angle_deg=self.value("angle"), inner_diameter_mm=self.value("inner"), outer_diameter_mm=self.value("outer"),
            deepen_mm=0.0 if deepen is None else float(deepen),
        )  # fmt: skip
        words = [f"wide along the slope; {self.shown(found.height_mm)} high",
                 f"top slide at {found.top_slide_deg:g}° from the axis"]  # fmt: skip
        if deepen and found.inner_shift_mm is not None:
            words.append(
                f"{self.shown(float(deepen))} deeper moves the inner edge {self.shown(found.inner_shift_mm)} on Ø"
            )
        return Answer(
            figure=self.units.planned(found.width_mm), unit=self.units.label, words=words,
            because=self.because("width = (outer - inner) / 2 / cos; inner edge moves 2 x deepening / tan",
                                 [("angle", f"{self.value('angle'):g}°")], "Derived: a right triangle."),
        )  # fmt: skip


class SpindleLine(Line):
    """A spindle read near its nose and farther out: how much it runs out at the tool."""

    key, title, verbs = "spindle", "Spindle, near and far", ("spindle",)
    sizes, example = ("near", "near_at", "far", "far_at", "tool", "turned"), "spindle 0.008 50 0.024 250 350"
    core_fields = {"near.total_reading_mm": "near", "near.distance_mm": "near_at", "far.total_reading_mm": "far",
                   "far.distance_mm": "far_at", "tool_length_mm": "tool", "far.high_angle_deg": "turned"}  # fmt: skip

    near = LengthField(label="swing near", positive=False, least=0)
    near_at = LengthField(label="at, from the nose", positive=False, least=0)
    far = LengthField(label="swing far", positive=False, least=0)
    far_at = LengthField(label="at")
    tool = LengthField(label="tool stands out", positive=False, least=0)
    turned = NumberField(label="high place turned by, °")

    def is_needed(self, name: str) -> bool:
        return name != "turned"

    def answer(self) -> Answer:
        turned = self.cleaned_data["turned"]
        near, far = (
            SpindleReading(distance_mm=self.value(f"{end}_at"), total_reading_mm=self.value(end), high_angle_deg=angle)
            for end, angle in (("near", 0.0), ("far", float(turned or 0)))
        )
        found = spindle_check(near=near, far=far, tool_length_mm=self.value("tool"))
        return Answer(
            figure=self.units.planned(found.total_reading_at_tool_mm), unit=self.units.label,
            words=[
                "run-out (TIR) at the tool",
                f"at the nose {self.shown(2 * found.nose_eccentricity_mm)}, tilt {found.tilt_mm_m:.3g} mm in a metre",
                "the bar turns: round, but off size by up to it; the work turns: taper and an axis that leans",
                *(sentence(one, self.units.unit) for one in found.notes),
            ],
            because=self.because(
                "half of each swing toward its high place, on a straight line from the nose to the tool",
                [("near", f"{self.shown(self.value('near'))} at {self.shown(self.value('near_at'))}"),
                 ("far", f"{self.shown(self.value('far'))} at {self.shown(self.value('far_at'))}"),
                 ("high place turned between them", f"{float(turned or 0):g}°")], "Derived: a straight axis in space."),
        )  # fmt: skip


SETTING_UP: tuple[type[Line], ...] = (
    PressLine, BalanceLine, TwoSidesLine, StackLine, FacingLine, BandLine, SpindleLine,
)  # fmt: skip
