"""Limits against the printed tables of ISO 286-2 and against the standard's own rules."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import InvalidInput, read_limits
from gyrocore.limits.iso286 import COVERED, MAIN, deviations_um, tolerance_um

#: (spec, lower, upper) in micrometres, as printed in ISO 286-2.
PRINTED = [
    ("72 H7", 0, 30), ("55 H7", 0, 30), ("90 H7", 0, 35), ("10 H8", 0, 22), ("500 H6", 0, 40),
    ("72 P7", -51, -21), ("30 N7", -28, -7), ("50 K7", -18, 7), ("25 M7", -21, 0), ("60 J7", -12, 18),
    ("100 R7", -73, -38), ("280 M6", -41, -9), ("3 K7", -10, 0), ("40 S7", -59, -34), ("72 F7", 30, 60),
    ("72 G7", 10, 40), ("72 D9", 100, 174), ("20 E8", 40, 73), ("65 U7", -106, -76), ("2 N9", -29, -4),
    ("72 N9", -74, 0), ("50 JS7", -12.5, 12.5), ("150 H11", 0, 250), ("6 H13", 0, 180), ("45 T7", -70, -45),
    ("72 f7", -60, -30), ("72 g6", -29, -10), ("72 h6", -19, 0), ("25 k6", 2, 15), ("25 m6", 8, 21),
    ("25 n6", 15, 28), ("72 p6", 32, 51), ("100 r6", 51, 73), ("72 s6", 59, 78), ("45 t6", 54, 70),
    ("72 u6", 102, 121), ("20 d9", -117, -65), ("20 e8", -73, -40), ("10 j6", -2, 7), ("50 j7", -10, 15),
    ("72 js6", -9.5, 9.5), ("72 k8", 0, 46), ("25 h9", -52, 0),
]  # fmt: skip


@pytest.mark.parametrize(("spec", "lower", "upper"), PRINTED)
def test_classes_as_printed(spec: str, lower: float, upper: float) -> None:
    found = read_limits(spec)
    assert found.nominal_mm is not None
    assert (found.lower_mm - found.nominal_mm) * 1000 == pytest.approx(lower, abs=1e-6)
    assert (found.upper_mm - found.nominal_mm) * 1000 == pytest.approx(upper, abs=1e-6)


@given(st.sampled_from(COVERED), st.integers(3, 13), st.floats(0.1, 500))
def test_a_class_is_as_wide_as_its_grade(letter: str, grade: int, size: float) -> None:
    for kind in (letter, letter.upper()):
        try:
            lower, upper = deviations_um(size, kind, grade)
        except InvalidInput as refused:
            assert refused.code == "class_not_defined"
            continue
        assert upper - lower == pytest.approx(tolerance_um(size, grade))


@given(st.sampled_from("defgh"), st.integers(3, 13), st.floats(0.1, 500))
def test_clearance_holes_mirror_their_shafts(letter: str, grade: int, size: float) -> None:
    low, high = deviations_um(size, letter, grade)
    assert deviations_um(size, letter.upper(), grade) == pytest.approx((-high, -low))


@given(st.sampled_from("prs"), st.floats(3.01, 500))
def test_hole_one_grade_coarser_gives_the_fit_of_the_hole_basis(letter: str, size: float) -> None:
    """ISO 286-1: H7/p6 and P7/h6 have exactly the same clearances: what the delta rule is for."""
    h_hole, p_shaft = deviations_um(size, "H", 7), deviations_um(size, letter, 6)
    p_hole, h_shaft = deviations_um(size, letter.upper(), 7), deviations_um(size, "h", 6)
    assert h_hole[1] - p_shaft[0] == pytest.approx(p_hole[1] - h_shaft[0])
    assert h_hole[0] - p_shaft[1] == pytest.approx(p_hole[0] - h_shaft[1])


def test_grades_grow_with_number_and_size() -> None:
    for size in MAIN:
        widths = [tolerance_um(size, grade) for grade in range(3, 14)]
        assert widths == sorted(widths)


@pytest.mark.parametrize(
    ("spec", "lower", "upper", "nominal"),
    [
        ("72 +0.03/0", 72, 72.03, 72),
        ("72 \u00b10.01", 71.99, 72.01, 72),
        ("72 +0,03/-0,01", 71.99, 72.03, 72),
        ("72 -0.01/-0.04", 71.96, 71.99, 72),
        ("72.00-72.03", 72, 72.03, None),
        ("72.00/72.03", 72, 72.03, None),
        ("72,00 - 72,03", 72, 72.03, None),
        ('2.8340-2.8346"', 2.834 * 25.4, 2.8346 * 25.4, None),
        ('2 1/2-2 3/4"', 63.5, 69.85, None),
        ('2.5 +0.001/0"', 63.5, 63.5254, 63.5),
    ],
)
def test_other_writings(spec: str, lower: float, upper: float, nominal: float | None) -> None:
    found = read_limits(spec)
    assert (found.lower_mm, found.upper_mm) == pytest.approx((lower, upper))
    assert found.nominal_mm == (None if nominal is None else pytest.approx(nominal))
    assert found.tolerance_mm == pytest.approx(upper - lower)
    assert found.middle_mm == pytest.approx((upper + lower) / 2)


@pytest.mark.parametrize(
    ("spec", "nominal", "field", "code"),
    [
        ("H7", None, "nominal_mm", "nominal_missing"),
        ("72 H7", 70, "nominal_mm", "nominal_contradicts"),
        ("72.03-72.00", None, "spec", "reversed_range"),
        ("72 0/+0.03", None, "spec", "upside_down"),
        ('13/16"', None, "spec", "no_limits"),
        ("72/73", None, "spec", "fraction_in_mm"),
        ("72", None, "spec", "no_limits"),
        ("72 a9", None, "spec", "letter_not_covered"),
        ("72 Js6", None, "spec", "letter_not_covered"),
        ("72 H2", None, "spec", "grade_not_covered"),
        ("72 H14", None, "spec", "grade_not_covered"),
        ("501 H7", None, "spec", "size_not_covered"),
        ("20 t6", None, "spec", "class_not_defined"),
        ("72 K9", None, "spec", "class_not_defined"),
        ('2.8346" +0.0012/0', None, "spec", "deviation_unit"),
        ("72,000-72,030", None, "spec", "doubtful_comma"),
        ("0 H7", None, "spec", "not_positive"),
    ],
)
def test_refusals(spec: str, nominal: float | None, field: str, code: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        read_limits(spec, nominal)
    assert (refused.value.field, refused.value.code) == (field, code)


def test_nominal_beside_a_class_alone() -> None:
    assert read_limits("H7", 72).upper_mm == pytest.approx(72.03)
