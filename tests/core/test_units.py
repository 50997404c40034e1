"""Reading lengths: what people write, and what is refused because it could mean two things."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import InvalidInput, read_indicator, read_length


@pytest.mark.parametrize(
    ("text", "unit", "expected_mm"),
    [
        ("72.03", "mm", 72.03),
        ("31,47", "mm", 31.47),
        ("0,125", "mm", 0.125),
        ("-0.02", "mm", -0.02),
        ("\u22120.02", "mm", -0.02),
        (".419", "in", 0.419 * 25.4),
        ('2.8346"', "mm", 2.8346 * 25.4),
        ("2 11/16 in", "mm", 68.2625),
        ("2-11/16\u201d", "mm", 68.2625),
        ("1-7/8", "in", 47.625),
        ('13/16"', "mm", 20.6375),
        ("18 thou", "mm", 0.4572),
        ("+0.5 thou", "mm", 0.0127),
        ("2 tenths", "in", 0.00508),
        ("5 hundredths mm", "in", 0.05),
        ("20 um", "mm", 0.02),
        ("20 \u03bcm", "mm", 0.02),
        ("5 micron", "mm", 0.005),
        ("6 cm", "mm", 60),
        ("2\u00bd in", "mm", 63.5),
    ],
)
def test_reads_what_people_write(text: str, unit: str, expected_mm: float) -> None:
    assert read_length(text, unit).length_mm == pytest.approx(expected_mm, abs=1e-12)


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("1,250", "doubtful_comma"),
        ("1.250,5", "comma_and_point"),
        ("11/16", "fraction_in_mm"),
        ("2 tenths", "tenths_in_mm"),
        ("5 hundredths", "bare_part"),
        ("3 mil", "mil"),
        ("3-1", "two_numbers"),
        ("1/0 in", "not_a_fraction"),
        ("2 17/16 in", "not_a_fraction"),
        ("1e3", "unknown_unit"),
        ("", "no_length"),
        ("nan", "not_a_length"),
        ("five", "not_a_length"),
        ("9" * 80, "not_a_length"),
    ],
)
def test_refuses_doubt(text: str, code: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        read_length(text, "mm")
    assert (refused.value.field, refused.value.code) == ("text", code)


def test_own_decimal_mark_ends_the_doubt() -> None:
    assert read_length("1,250", "mm", ",").length_mm == 1.25
    assert read_length("1,250", "mm", ".").length_mm == 1250
    assert read_length("1.250,5", "mm", ",").length_mm == 1250.5


@given(st.integers(-(10**9), 10**9))
def test_inches_and_millimetres_agree(ten_thousandths: int) -> None:
    inches = ten_thousandths / 10000
    assert read_length(f"{inches:.4f}", "in").length_mm == pytest.approx(inches * 25.4, rel=1e-12)


@given(st.text(max_size=30))
def test_any_text_is_read_or_refused_at_the_text(text: str) -> None:
    try:
        read_length(text, "mm")
    except InvalidInput as refused:
        assert refused.field == "text"


@pytest.mark.parametrize(
    ("text", "unit", "step", "pointed", "mm"),
    [
        ("27", "mm", 0.001, None, 0.027), ("-27", "mm", 0.001, None, -0.027), ("27", "mm", 0.01, None, 0.27),
        ("0.5", "mm", 0.001, None, 0.5), (".0015", "in", 0.00254, None, 0.0381), ("0.008", "in", 0.0254, None, 0.2032),
        ("2.5", "in", 0.0254, "divisions", 0.0635), ("2.5", "in", 0.0254, "unit", 63.5),
        ("3 thou", "mm", 0.001, None, 0.0762), ("0,027", "mm", 0.001, None, 0.027),
    ],
)  # fmt: skip
def test_a_whole_number_is_divisions_and_a_point_is_the_unit(
    text: str, unit: str, step: float, pointed: str | None, mm: float
) -> None:
    assert read_indicator(text, unit, step, pointed).length_mm == pytest.approx(mm, abs=1e-12)


@pytest.mark.parametrize(
    ("text", "unit", "step", "code"),
    [
        ("2.5", "mm", 0.01, "reading_asked"), ("0.001", "mm", 0.01, "reading_too_fine"),
        ("1,250", "mm", 0.001, "doubtful_comma"), ("y", "mm", 0.001, "not_a_length"),
    ],
)  # fmt: skip
def test_a_reading_in_doubt_is_asked(text: str, unit: str, step: float, code: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        read_indicator(text, unit, step)
    assert refused.value.code == code
