"""A scene is a list of shapes with roles; colour, weight and dash follow from the role."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from math import cos, radians, sin

Point = tuple[float, float]


def around(centre: Point, radius: float, angle_deg: float) -> Point:
    """A point round a centre: 0 degrees at the top, clockwise, as places are numbered."""
    turn = radians(angle_deg)
    return centre[0] + radius * sin(turn), centre[1] - radius * cos(turn)


def number(value: float) -> str:
    """A coordinate as printed: two places, a point, no locale."""
    text = f"{value:.2f}".rstrip("0").rstrip(".")
    return "0" if text in ("", "-0") else text


@dataclass(frozen=True, slots=True)
class Shape:
    """One SVG shape: a path with a role, or a text."""

    kind: str
    role: str
    path: str = ""
    x: str = ""
    y: str = ""
    text: str = ""
    anchor: str = "start"
    #: The place that a touch here opens, by its number; empty for none.
    place: str = ""


@dataclass(slots=True)
class Scene:
    """A drawing of a size, with a title that says it in words."""

    width: float
    height: float
    title: str
    shapes: list[Shape] = field(default_factory=list)
    #: Sheet units a millimetre, where a hand may drag the shapes of the role `bar` along the axis; None where not.
    drag_scale: float | None = None

    def line(self, a: Point, b: Point, role: str) -> None:
        """A straight line."""
        self.poly([a, b], role)

    def poly(self, points: Sequence[Point], role: str, *, closed: bool = False) -> None:
        """A chain of straight lines."""
        path = "M" + "L".join(f"{number(x)} {number(y)}" for x, y in points)
        self.shapes.append(Shape("path", role, path + ("Z" if closed else "")))

    def lines(self, pairs: Iterable[tuple[Point, Point]], role: str) -> None:
        """Many lines of one role as one path."""
        path = "".join(f"M{number(a[0])} {number(a[1])}L{number(b[0])} {number(b[1])}" for a, b in pairs)
        if path:
            self.shapes.append(Shape("path", role, path))

    def rect(self, a: Point, b: Point, role: str) -> None:
        """An upright rectangle between two corners."""
        self.poly([a, (b[0], a[1]), b, (a[0], b[1])], role, closed=True)

    def circle(self, centre: Point, radius: float, role: str) -> None:
        """A whole circle."""
        x, y, r = number(centre[0] - radius), number(centre[1]), number(radius)
        d = number(2 * radius)
        self.shapes.append(Shape("path", role, f"M{x} {y}a{r} {r} 0 1 0 {d} 0a{r} {r} 0 1 0 -{d} 0Z"))

    def target(self, centre: Point, size: float, place: str) -> None:
        """A square that is not seen, to be touched: it opens a place."""
        x, y, half = *centre, size / 2
        path = f"M{number(x - half)} {number(y - half)}h{number(size)}v{number(size)}h{number(-size)}Z"
        self.shapes.append(Shape("path", "touch", path, place=place))

    def text(self, at: Point, text: str, role: str = "label", anchor: str = "start") -> None:
        """A text on its baseline; anchor is start, middle or end."""
        self.shapes.append(Shape("text", role, "", number(at[0]), number(at[1]), text, anchor))

    def arrow(self, tip: Point, towards: Point, role: str = "arrowhead") -> None:
        """A solid drafting arrowhead, 12 by 4.6, its tip at `tip`, pointing away from `towards`."""
        dx, dy = tip[0] - towards[0], tip[1] - towards[1]
        size = (dx * dx + dy * dy) ** 0.5 or 1.0
        ux, uy = dx / size, dy / size
        back = (tip[0] - 12 * ux, tip[1] - 12 * uy)
        self.poly(
            [tip, (back[0] - 2.3 * uy, back[1] + 2.3 * ux), (back[0] + 2.3 * uy, back[1] - 2.3 * ux)],
            role,
            closed=True,
        )

    def dimension(self, a: Point, b: Point, text: str, *, role: str = "narrow", above: float = 6) -> None:
        """A level dimension line between two points, its figure above the middle."""
        self.line(a, b, role)
        head = "arrowhead" if role == "narrow" else "arrowhead-blue"
        if abs(b[0] - a[0]) > 30:
            self.arrow(a, b, head)
            self.arrow(b, a, head)
        middle = ((a[0] + b[0]) / 2, a[1] - above)
        self.text(middle, text, "figure" if role == "narrow" else "figure-blue", "middle")
