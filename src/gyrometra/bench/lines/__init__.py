"""Bench lines: answers without a job. Each is a small form that works out one thing and says it."""

from gyrometra.bench.lines.answer import Answer, Line
from gyrometra.bench.lines.between import BETWEEN
from gyrometra.bench.lines.cutting import CUTTING
from gyrometra.bench.lines.setting_up import SETTING_UP
from gyrometra.bench.lines.sizes import SIZES

#: Every line by its key, in the order of the page.
LINES: dict[str, type[Line]] = {line.key: line for line in (*CUTTING, *SIZES, *BETWEEN, *SETTING_UP)}
#: The four that stand on the bench itself.
ON_BENCH = ("speed", "cutter", "overhang", "half")

__all__ = ["LINES", "ON_BENCH", "Answer", "Line"]
