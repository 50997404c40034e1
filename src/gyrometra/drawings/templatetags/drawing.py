"""Print a scene."""

from typing import Any

from django import template

from gyrodraw import Scene

register = template.Library()


@register.inclusion_tag("drawings/scene.html")
def draw(scene: Scene, css: str = "") -> dict[str, Any]:
    """The scene as SVG; colour and weight come from CSS by role."""
    return {"scene": scene, "css": css}
