"""The house itself: lengths, no database in views, no request in services, no code in templates."""

import re
from pathlib import Path

import pytest

SRC = Path(__file__).parents[2] / "src"
PYTHON = [p for p in SRC.rglob("*.py") if "migrations" not in p.parts]
TEMPLATES = list(SRC.rglob("*.html"))


@pytest.mark.parametrize("path", PYTHON, ids=lambda p: str(p.relative_to(SRC)))
def test_modules_are_small_and_layers_keep_apart(path: Path) -> None:
    text = path.read_text()
    assert text.count("\n") <= 460, f"{path}: split it"
    if path.name.endswith("views.py"):
        assert not re.search(r"\.(create|save|delete|update)\(", text), f"{path}: writes belong in services"
    if path.name == "services.py":
        assert "HttpRequest" not in text, f"{path}: a service takes a user, never a request"
    assert path.stem not in ("utils", "helpers", "common", "misc"), path


@pytest.mark.parametrize("path", TEMPLATES, ids=lambda p: p.name)
def test_templates_hold_no_code(path: Path) -> None:
    text = path.read_text()
    assert "<style" not in text
    assert " style=" not in text
    assert not re.search(r"\son[a-z]+=", text), f"{path}: inline handlers are forbidden"
    assert not re.search(r"<script(?![^>]*src=)", text), f"{path}: inline scripts are forbidden"
    assert text.count("\n") <= 120, path


def test_public_formulas_say_where_they_come_from() -> None:
    for folder in ("formulas", "planning", "truing", "judging", "limits"):
        for path in (SRC / "gyrocore" / folder).glob("*.py"):
            for found in re.finditer(r'^def ([a-z]\w+)\(.*?"""(.*?)"""', path.read_text(), re.S | re.M):
                name, docstring = found.groups()
                if name.startswith("require_"):
                    continue
                for part in ("Parameters", "Returns", "References", "Examples"):
                    assert f"{part}\n" in docstring, f"{path.name}: {name} lacks {part}"
