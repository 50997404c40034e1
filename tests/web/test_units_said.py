"""How a length is said to a reader: limits never more than they stand for, figures to what they are worth."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrometra.bridge.units import Units

MM, INCH = Units(), Units("in")
SIZES = st.floats(0.5, 500).map(lambda size: round(size, 6))


@given(lower=SIZES, band=st.floats(0.004, 0.5))
def test_both_limits_are_rounded_inward(lower: float, band: float) -> None:
    upper = round(lower + band, 6)
    for units, unit_mm in ((MM, 1.0), (INCH, 25.4)):
        slack = 1e-6 if units.unit == "mm" else 1e-7 * unit_mm
        assert float(units.lowest(lower)) * unit_mm >= lower - slack - 1e-6
        assert float(units.highest(upper)) * unit_mm <= upper + slack + 1e-6
        assert float(units.lowest(lower)) * unit_mm - lower < 0.001 * unit_mm
        assert upper - float(units.highest(upper)) * unit_mm < 0.001 * unit_mm


@pytest.mark.parametrize(
    ("units", "lower", "upper", "words"),
    [(MM, 72, 72.03, "72.000 to 72.030"), (INCH, 90, 90.035, "3.5434 to 3.5446"),
     (INCH, 76.2, 76.2254, "3.0000 to 3.0010"), (INCH, 88.9, 88.9254, "3.5000 to 3.5010")],
)  # fmt: skip
def test_limits_are_printed(units: Units, lower: float, upper: float, words: str) -> None:
    assert units.between(lower, upper) == words


def test_a_length_that_must_not_be_passed_is_rounded_inward() -> None:
    assert (MM.limit(137.9), MM.limit(137.0), MM.limit(136.9999999999)) == ("137", "137", "137")
    assert (INCH.limit(137.9), INCH.limit(25.4)) == ("5.42", "1.00")


def test_a_rough_figure_has_two_digits_rounded_down() -> None:
    assert [MM.about(value) for value in (0.0439, 0.419, 1.299, 11.6)] == ["0.043", "0.41", "1.2", "11"]
    assert (MM.about(11.618, 3), INCH.about(11.618, 3), MM.about(0)) == ("11.6", "0.457", "0.000")
