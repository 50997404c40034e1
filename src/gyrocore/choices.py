"""Words that a text must be one of: said beside the type, for whoever reads it from outside."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated


@dataclass(frozen=True, slots=True)
class Choices:
    """The words that are known; `Annotated[str, Choices(...)]` is a text for Python and one of these for JSON."""

    words: tuple[str, ...]


BarKindName = Annotated[
    str, Choices(("steel", "heavy-metal", "carbide", "damped-steel", "damped-carbide", "line-bar"))
]  # fmt: skip
SurfaceName = Annotated[str, Choices(("outside", "inside"))]
DialReads = Annotated[str, Choices(("radius", "diameter"))]
TaperOn = Annotated[str, Choices(("diameter", "radius"))]
LineFeed = Annotated[str, Choices(("bar", "head"))]
RuleName = Annotated[str, Choices(("guarded", "simple"))]
SupportKind = Annotated[str, Choices(("clamped", "bearing"))]
UnitName = Annotated[str, Choices(("mm", "in"))]
DecimalMark = Annotated[str, Choices((",", "."))]
ReadOver = Annotated[str, Choices(("centres", "near-walls", "far-walls"))]
SeenBy = Annotated[str, Choices(("go", "no-go", "value"))]
SizeVerdict = Annotated[str, Choices(("in", "under", "over", "undecided"))]
NoSize = Annotated[str, Choices(("no-metal", "thin-wall"))]
ToneName = Annotated[str, Choices(("bar", "turn", "other"))]
LevelAbout = Annotated[str, Choices(("lowest", "pivot"))]
