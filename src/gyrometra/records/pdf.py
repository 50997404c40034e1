"""A page of ours as a PDF: only our own style sheet and fonts are read, nothing from anywhere else."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.contrib.staticfiles import finders


class NoPdf(Exception):
    """The libraries that set type on paper are not on this machine."""


def _folder() -> Path:
    found = finders.find("css/paper.css")
    if not isinstance(found, str):
        raise NoPdf("The style of the paper is missing: was the product installed whole?")
    return Path(found).parents[1]


def _only_ours(url: str, *_: Any, **__: Any) -> Any:
    """Files of our own static folder, and nothing else."""
    from weasyprint.urls import URLFetcherResponse  # noqa: PLC0415 - as in `to_pdf`

    folder = _folder().resolve()
    path = Path(url.removeprefix("file://")).resolve()
    if not url.startswith("file://") or folder not in path.parents:
        raise NoPdf(f"{url} is not ours.")
    kind = "text/css" if path.suffix == ".css" else "font/woff2"
    return URLFetcherResponse(url, path.read_bytes(), {"Content-Type": kind})


def set_on_paper(html: str) -> Any:
    """The pages as they are set, not written yet; raises NoPdf where the machine lacks the libraries."""
    try:
        # here, since it needs system libraries, and without them all else must still run
        from weasyprint import CSS, HTML  # noqa: PLC0415
        from weasyprint.text.fonts import FontConfiguration  # noqa: PLC0415
    except OSError as error:
        raise NoPdf("This machine lacks the library Pango that sets type on paper; print from the browser.") from error
    path, fonts = _folder() / "css" / "paper.css", FontConfiguration()
    style = CSS(filename=str(path), font_config=fonts, url_fetcher=_only_ours)
    page = HTML(string=html, base_url=path.parent.as_uri(), url_fetcher=_only_ours)
    return page.render(stylesheets=[style], font_config=fonts)


def to_pdf(html: str) -> bytes:
    """A page as a PDF; raises NoPdf where the machine lacks the libraries."""
    written: bytes = set_on_paper(html).write_pdf()
    return written
