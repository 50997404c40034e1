"""Print a scene as SVG: the one place that does. In Python, since a template took ten times as long."""

from django import template
from django.forms.utils import flatatt
from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from gyrodraw import Scene
from gyrometra.drawings import palette

register = template.Library()


@register.simple_tag
def draw_on_paper(scene: Scene) -> SafeString:
    """The scene as SVG that carries its own style, for a PDF."""
    known = palette.roles()
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {scene.width:.0f} {scene.height:.0f}" '
        f'width="{scene.width:.0f}" height="{scene.height:.0f}">'
    ]
    for shape in scene.shapes:
        if shape.kind == "path":
            style = {**palette.PATH, **known.get(f"r-{shape.role}", {})}
            parts.append(f'<path d="{shape.path}"{flatatt(style)}/>')
            continue
        style = {**palette.TEXT, **known.get(f"t-{shape.role}", {}), **known.get(f"a-{shape.anchor}", {})}
        style["stroke"] = "none"
        parts.append(f'<text x="{shape.x}" y="{shape.y}"{flatatt(style)}>{escape(shape.text)}</text>')
    parts.append("</svg>")
    return mark_safe("".join(parts))  # noqa: S308 - texts are escaped above, the rest are numbers and our own styles


@register.simple_tag
def draw(scene: Scene, css: str = "") -> SafeString:
    """The scene as SVG; colour and weight come from CSS by role, every text is escaped."""
    drag = "" if scene.drag_scale is None else f' data-drag="{scene.drag_scale:.5f}"'
    parts = [
        f'<svg class="scene {css}" viewBox="0 0 {scene.width:.0f} {scene.height:.0f}" role="img" '
        f'aria-label="{escape(scene.title)}"{drag}>'
    ]
    for shape in scene.shapes:
        if shape.kind == "path":
            parts.append(f'<path class="r-{shape.role}" d="{shape.path}"/>')
        else:
            parts.append(
                f'<text class="t-{shape.role} a-{shape.anchor}" x="{shape.x}" y="{shape.y}">{escape(shape.text)}</text>'
            )
    parts.append("</svg>")
    return mark_safe("".join(parts))  # noqa: S308 - texts are escaped above, the rest are numbers and roles
