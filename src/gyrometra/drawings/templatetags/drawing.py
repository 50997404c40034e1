"""Print a scene as SVG: the one place that does. In Python, since a template took ten times as long."""

from collections.abc import Callable

from django import template
from django.forms.utils import flatatt
from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from gyrodraw import Scene, Shape
from gyrometra.drawings import palette

register = template.Library()


@register.simple_tag
def draw_on_paper(scene: Scene) -> SafeString:
    """The scene as SVG that carries its own style, for a PDF."""
    known = palette.roles()

    def style(shape: Shape) -> str:
        if shape.kind == "path":
            return flatatt({**palette.PATH, **known.get(f"r-{shape.role}", {})})
        own = {**palette.TEXT, **known.get(f"t-{shape.role}", {}), **known.get(f"a-{shape.anchor}", {})}
        return flatatt({**own, "stroke": "none"})

    size = f'xmlns="http://www.w3.org/2000/svg" width="{scene.width:.0f}" height="{scene.height:.0f}"'
    return _svg(scene, size, style)


@register.simple_tag
def draw(scene: Scene, css: str = "") -> SafeString:
    """The scene as SVG; colour and weight come from CSS by role, every text is escaped."""

    def style(shape: Shape) -> str:
        return f' class="r-{shape.role}"' if shape.kind == "path" else f' class="t-{shape.role} a-{shape.anchor}"'

    drag = "" if scene.drag_scale is None else f' data-drag="{scene.drag_scale:.5f}"'
    return _svg(scene, f'class="scene {css}" role="img" aria-label="{escape(scene.title)}"{drag}', style)


def _svg(scene: Scene, attributes: str, style: Callable[[Shape], str]) -> SafeString:
    parts = [f'<svg {attributes} viewBox="0 0 {scene.width:.0f} {scene.height:.0f}">']
    for shape in scene.shapes:
        if shape.kind == "path":
            place = f' data-place="{escape(shape.place)}"' if shape.place else ""
            parts.append(f'<path{style(shape)}{place} d="{shape.path}"/>')
        else:
            parts.append(f'<text{style(shape)} x="{shape.x}" y="{shape.y}">{escape(shape.text)}</text>')
    parts.append("</svg>")
    return mark_safe("".join(parts))  # noqa: S308 - texts are escaped, the rest are numbers, roles and our own styles
