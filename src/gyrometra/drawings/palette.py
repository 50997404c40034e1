"""The style of each role as presentation attributes, for paper: PDF makers ignore a page's CSS inside SVG.

The style sheets are the one place where a role's colour, weight and dash stand; they are read from there.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from functools import cache
from pathlib import Path
from types import MappingProxyType

import tinycss2
from django.contrib.staticfiles import finders

#: What SVG takes as an attribute of its own.
_KEPT = (
    "fill", "stroke", "stroke-width", "stroke-dasharray", "stroke-linejoin", "fill-opacity", "font-size",
    "font-weight", "text-anchor",
)  # fmt: skip
_ROLE = re.compile(r"\.((?:r|t|a)-[a-z0-9-]+)\s*$")
_VARIABLE = re.compile(r"var\((--[a-z0-9-]+)(?:,[^)]*)?\)")
#: What a shape has before its role says otherwise.
PATH = MappingProxyType({"fill": "none"})
TEXT = MappingProxyType({"font-size": "16px", "font-weight": "500", "font-family": "Barlow Semi Condensed"})


def _sheet(name: str) -> list[tuple[str, dict[str, str]]]:
    """Selectors and declarations of a style sheet, its media queries left out."""
    found = finders.find(f"css/{name}.css")
    if not isinstance(found, str):
        raise FileNotFoundError(f"css/{name}.css")
    text = Path(found).read_text(encoding="utf-8")
    rules = tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True)
    pairs = []
    for rule in rules:
        if rule.type != "qualified-rule":
            continue
        declared = tinycss2.parse_blocks_contents(rule.content, skip_comments=True, skip_whitespace=True)
        values = {d.name: tinycss2.serialize(d.value).strip() for d in declared if d.type == "declaration"}
        pairs += [(selector.strip(), values) for selector in tinycss2.serialize(rule.prelude).split(",")]
    return pairs


@cache
def roles() -> Mapping[str, Mapping[str, str]]:
    """Attributes by class: `r-outline`, `t-figure`, `a-middle`."""
    tokens = {
        name: value for selector, values in _sheet("base") if selector == ":root" for name, value in values.items()
    }
    found: dict[str, dict[str, str]] = {}
    for selector, values in _sheet("scene"):
        role = _ROLE.search(selector)
        if role is None:
            continue
        kept = {name: _resolved(value, tokens) for name, value in values.items() if name in _KEPT}
        found.setdefault(role[1], {}).update(kept)
    return MappingProxyType(found)


def _resolved(value: str, tokens: Mapping[str, str]) -> str:
    return _VARIABLE.sub(lambda match: tokens.get(match[1], "none"), value)
