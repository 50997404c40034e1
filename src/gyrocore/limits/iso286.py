"""Limits of size by ISO 286-1:2010: standard tolerances and fundamental deviations to 500 mm.

Values are those of ISO 286-1:2010, table 1 (standard tolerances), tables 2 to 7 (fundamental
deviations) and the delta column of tables 6 and 7, in micrometres.
"""

from __future__ import annotations

from bisect import bisect_left

from gyrocore.errors import InvalidInput

#: Upper ends (included) of the main and of the finer nominal size ranges, mm.
MAIN = (3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500)
FINE = (
    3, 6, 10, 18, 24, 30, 40, 50, 65, 80, 100, 120, 140, 160, 180,
    200, 225, 250, 280, 315, 355, 400, 450, 500,
)  # fmt: skip
LARGEST_MM = 500
LEAST_GRADE, MOST_GRADE = 3, 13

_IT: dict[int, tuple[float, ...]] = {
    2: (1.2, 1.5, 1.5, 2, 2.5, 2.5, 3, 4, 5, 7, 8, 9, 10),
    3: (2, 2.5, 2.5, 3, 4, 4, 5, 6, 8, 10, 12, 13, 15),
    4: (3, 4, 4, 5, 6, 7, 8, 10, 12, 14, 16, 18, 20),
    5: (4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27),
    6: (6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40),
    7: (10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63),
    8: (14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97),
    9: (25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155),
    10: (40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250),
    11: (60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400),
    12: (100, 120, 150, 180, 210, 250, 300, 350, 400, 460, 520, 570, 630),
    13: (140, 180, 220, 270, 330, 390, 460, 540, 630, 720, 810, 890, 970),
}
#: Size of the fundamental deviation of shafts; d to g lie below zero, m to u above.
_DEVIATION: dict[str, tuple[float | None, ...]] = {
    "d": (20, 30, 40, 50, 65, 80, 100, 120, 145, 170, 190, 210, 230),
    "e": (14, 20, 25, 32, 40, 50, 60, 72, 85, 100, 110, 125, 135),
    "f": (6, 10, 13, 16, 20, 25, 30, 36, 43, 50, 56, 62, 68),
    "g": (2, 4, 5, 6, 7, 9, 10, 12, 14, 15, 17, 18, 20),
    "h": (0,) * 13,
    "k": (0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 4, 5),
    "m": (2, 4, 6, 7, 8, 9, 11, 13, 15, 17, 20, 21, 23),
    "n": (4, 8, 10, 12, 15, 17, 20, 23, 27, 31, 34, 37, 40),
    "p": (6, 12, 15, 18, 22, 26, 32, 37, 43, 50, 56, 62, 68),
    "r": (10, 15, 19, 23, 28, 28, 34, 34, 41, 43, 51, 54, 63, 65, 68, 77, 80, 84, 94, 98,
          108, 114, 126, 132),
    "s": (14, 19, 23, 28, 35, 35, 43, 43, 53, 59, 71, 79, 92, 100, 108, 122, 130, 140, 158, 170,
          190, 208, 232, 252),
    "t": (None, None, None, None, None, 41, 48, 54, 66, 75, 91, 104, 122, 134, 146, 166, 180, 196,
          218, 240, 268, 294, 330, 360),
    "u": (18, 23, 28, 33, 41, 48, 60, 70, 87, 102, 124, 144, 170, 190, 210, 236, 258, 284, 315, 350,
          390, 435, 490, 540),
}  # fmt: skip
_SHAFT_J: dict[int, tuple[float | None, ...]] = {
    5: (2, 2, 2, 3, 4, 5, 7, 9, 11, 13, 16, 18, 20),
    6: (2, 2, 2, 3, 4, 5, 7, 9, 11, 13, 16, 18, 20),
    7: (4, 4, 5, 6, 8, 10, 12, 15, 18, 21, 26, 28, 32),
    8: (6,) + (None,) * 12,
}
_HOLE_J: dict[int, tuple[float, ...]] = {
    6: (2, 5, 5, 6, 8, 10, 13, 16, 18, 22, 25, 29, 33),
    7: (4, 6, 8, 10, 12, 14, 18, 22, 26, 30, 36, 39, 43),
    8: (6, 10, 12, 15, 20, 24, 28, 34, 41, 47, 55, 60, 66),
}
#: Letters that this product reads; the rest of the standard's are not covered.
COVERED = ("d", "e", "f", "g", "h", "js", "j", "k", "m", "n", "p", "r", "s", "t", "u")
NOT_COVERED = ("a", "b", "c", "cd", "ef", "fg", "x", "y", "z", "v", "za", "zb", "zc")


def tolerance_um(nominal_mm: float, grade: int) -> float:
    """Return the standard tolerance IT`grade` of a nominal size.

    Parameters
    ----------
    nominal_mm : nominal size, over 0 up to 500 [mm]
    grade : 3 to 13

    Returns
    -------
    tolerance [um]

    Raises
    ------
    InvalidInput
        At `nominal_mm` or `grade`.

    References
    ----------
    ISO 286-1:2010, table 1.

    Examples
    --------
    >>> tolerance_um(72, 7)
    30
    """
    if not 0 < nominal_mm <= LARGEST_MM:
        raise InvalidInput("nominal_mm", "size_not_covered", given=nominal_mm, allowed=LARGEST_MM)
    if not LEAST_GRADE <= grade <= MOST_GRADE:
        raise InvalidInput("grade", "grade_not_covered", given=grade)
    return _IT[grade][bisect_left(MAIN, nominal_mm)]


def deviations_um(nominal_mm: float, letter: str, grade: int) -> tuple[float, float]:
    """Return the lower and upper limit deviations of a tolerance class.

    Parameters
    ----------
    nominal_mm : nominal size, over 0 up to 500 [mm]
    letter : upper case for a hole, lower case for a shaft
    grade : 3 to 13

    Returns
    -------
    (lower, upper) deviation from the nominal size [um]

    Raises
    ------
    InvalidInput
        Where the standard defines no such class at that size.

    References
    ----------
    ISO 286-1:2010, tables 1 to 7; holes J to U by the delta rule of 4.3.2.5 and table 7.

    Examples
    --------
    >>> deviations_um(72, "P", 7)
    (-51, -21)
    """
    width = tolerance_um(nominal_mm, grade)
    kind = letter.lower()
    if kind not in COVERED or letter not in (kind, kind.upper()):
        raise InvalidInput("spec", "letter_not_covered", given=letter)
    if kind == "js":
        return -width / 2, width / 2
    if letter.islower():
        return _shaft(nominal_mm, kind, grade, width)
    return _hole(nominal_mm, kind, grade, width)


def _deviation(kind: str, nominal_mm: float) -> float:
    row = _DEVIATION[kind]
    ends = MAIN if len(row) == len(MAIN) else FINE
    value = row[bisect_left(ends, nominal_mm)]
    if value is None:
        raise InvalidInput("spec", "class_not_defined", given=kind, nominal_mm=nominal_mm)
    return value


def _shaft(nominal_mm: float, kind: str, grade: int, width: float) -> tuple[float, float]:
    if kind in "defgh":
        upper = -_deviation(kind, nominal_mm)
        return upper - width, upper
    if kind == "j":
        row = _SHAFT_J.get(grade)
        least = row[bisect_left(MAIN, nominal_mm)] if row else None
        if least is None:
            raise InvalidInput("spec", "class_not_defined", given=f"j{grade}", nominal_mm=nominal_mm)
        return -least, width - least
    lower = _deviation(kind, nominal_mm)
    if kind == "k" and not 4 <= grade <= 7:
        lower = 0
    return lower, lower + width


def _hole(nominal_mm: float, kind: str, grade: int, width: float) -> tuple[float, float]:
    if kind in "defgh":
        lower = _deviation(kind, nominal_mm)
        return lower, lower + width
    upper = _hole_upper(nominal_mm, kind, grade)
    return upper - width, upper


def _hole_upper(nominal_mm: float, kind: str, grade: int) -> float:
    place = bisect_left(MAIN, nominal_mm)
    if kind == "j":
        if grade not in _HOLE_J:
            raise InvalidInput("spec", "class_not_defined", given=f"J{grade}", nominal_mm=nominal_mm)
        return _HOLE_J[grade][place]
    delta = _delta(place, grade)
    if kind in "kmn":
        return _hole_k_to_n(nominal_mm, kind, grade, delta)
    plain = -_deviation(kind, nominal_mm)
    return plain + delta if grade <= 7 else plain


def _hole_k_to_n(nominal_mm: float, kind: str, grade: int, delta: float) -> float:
    small = nominal_mm <= MAIN[0]
    if grade > 8:
        return _hole_coarse(nominal_mm, kind, grade)
    if kind == "m" and grade == 6 and 250 < nominal_mm <= 315:
        return -9  # the standard's own exception, in place of -11
    plain = -_deviation(kind, nominal_mm)
    return plain if small else plain + delta


def _hole_coarse(nominal_mm: float, kind: str, grade: int) -> float:
    """Upper deviation of K, M and N coarser than IT8 (table 6, columns `above IT8`)."""
    small = nominal_mm <= MAIN[0]
    undefined = (kind == "k" and not small) or (kind == "n" and nominal_mm <= 1)
    if undefined:
        given = f"{kind.upper()}{grade}"
        raise InvalidInput("spec", "class_not_defined", given=given, nominal_mm=nominal_mm)
    if kind == "n" and not small:
        return 0
    return -_deviation(kind, nominal_mm)


def _delta(place: int, grade: int) -> float:
    """ITn less IT(n-1) up to IT8; none up to 3 mm."""
    if place == 0 or grade > 8:
        return 0
    return _IT[grade][place] - _IT[grade - 1][place]
