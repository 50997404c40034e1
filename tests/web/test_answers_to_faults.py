"""What comes when something is wrong: a sentence, the right number, no fault of ours, and a line in the log."""

from __future__ import annotations

import io
import json
import logging
import struct
import time
import zlib
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError, connection
from django.test import Client
from PIL import Image

from gyrometra.crib.models import Fixture
from gyrometra.jobs.models import Job
from gyrometra.pages.middleware import WithId, log


@pytest.fixture
def fixture(db: None) -> Fixture:
    return Fixture.objects.all()[0]


def put(client: Client, fixture: Fixture, content: bytes) -> str:
    file = SimpleUploadedFile("x.png", content)
    answer = client.post(f"/crib/fixture/{fixture.pk}/picture/", {"picture": file}, follow=True)
    return answer.content.decode()


def png_of(width: int, height: int) -> bytes:
    """A PNG that says it is so large; its data is next to nothing."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    rows = zlib.compress(b"\0" * min(3 * width * height, 30_000_000), 9)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")


@pytest.mark.parametrize(
    "content",
    [b"%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 9 9\n{} loop\n", png_of(30_000, 30_000), png_of(12_000, 12_000),
     b"<svg xmlns='http://www.w3.org/2000/svg'/>", b"GIF89a" + bytes(40), b"BM" + bytes(60)],
    ids=["eps", "900 Mpx", "144 Mpx", "svg", "gif", "bmp"],
)  # fmt: skip
def test_a_picture_that_is_none_or_a_bomb_is_refused_soon(dagny: Client, fixture: Fixture, content: bytes) -> None:
    start = time.perf_counter()
    assert "no picture that can be read" in put(dagny, fixture, content)
    assert time.perf_counter() - start < 5
    fixture.refresh_from_db()
    assert not fixture.picture


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_a_picture_is_kept_small_and_without_what_the_camera_wrote(dagny: Client, fixture: Fixture, kind: str) -> None:
    out = io.BytesIO()
    Image.new("RGB", (4000, 3000), (90, 80, 70)).save(out, kind)
    put(dagny, fixture, out.getvalue())
    fixture.refresh_from_db()
    kept = Image.open(io.BytesIO(bytes(fixture.picture or b"")))
    assert (kept.format, max(kept.size)) == ("JPEG", 1600)


def test_a_body_that_is_too_large_is_not_read(corin: Client) -> None:
    answer = corin.post(
        "/jobs/Q-214/size/", data=b"x", content_type="text/plain", headers={"Content-Length": "300000000"}
    )
    assert answer.status_code == 413
    assert "300.0 MB came, 1 MB is the most here" in answer.content.decode()
    assert "X-Entry" not in answer, "no answer to any entry"


@pytest.mark.parametrize("path", ["/?q=%00", "/crib/?q=a%00b", "/jobs/Q-214/bore/?to=%00", "/jobs/a%00b/bore/"])
def test_a_nul_in_an_address_is_not_read(dagny: Client, path: str) -> None:
    assert dagny.get(path).status_code in (400, 404)


@pytest.mark.parametrize("path", ["/jobs/Q-214/close/", "/jobs/Q-214/setups/close/", "/jobs/Q-214/sign/"])
def test_words_that_cannot_be_stored_are_cleaned(dagny: Client, path: str) -> None:
    job = Job.objects.get(number="Q-214")
    answer = dagny.post(path, {"reason": "a\0b\u202e c", "version": job.version, "unit": "mm"})
    assert answer.status_code in (200, 302)
    job.refresh_from_db()
    assert job.closed_reason in ("", "a b  c")


@pytest.mark.parametrize("path", ["/", "/jobs/Q-214/bore/", "/crib/", "/sign-in/", "/no/such/page/"])
def test_without_a_database_the_answer_is_503(corin: Client, monkeypatch: pytest.MonkeyPatch, path: str) -> None:
    corin.raise_request_exception = False

    def gone(*args: Any, **kwargs: Any) -> Any:
        raise OperationalError("the server is not there")

    with monkeypatch.context() as without:
        without.setattr(connection, "cursor", gone)
        answer = corin.get(path)
    if path == "/sign-in/" and answer.status_code == 200:
        return  # nothing of it is in the database
    assert (answer.status_code, answer["Retry-After"]) == (503, "5")
    assert "The database does not answer" in answer.content.decode()
    assert "X-Entry" not in answer


def test_alive_and_ready_are_two_things(db: None, monkeypatch: pytest.MonkeyPatch) -> None:
    client = Client()
    assert (client.get("/healthz").status_code, client.get("/readyz").status_code) == (200, 200)
    assert client.head("/readyz").status_code == 200
    monkeypatch.setattr("gyrometra.pages.views.MigrationExecutor.migration_plan", lambda *args: [1, 2])
    assert client.get("/readyz").content == b"2 migrations to run\n"

    def gone(*args: Any, **kwargs: Any) -> Any:
        raise OperationalError

    monkeypatch.setattr("gyrometra.pages.views.MigrationExecutor", gone)
    assert client.get("/readyz").status_code == 503
    assert client.get("/healthz").status_code == 200


@pytest.mark.parametrize("path", ["/", "/jobs/Q-214/work/", "/jobs/Q-214/sheet/", "/crib/", "/lines/", "/members/"])
def test_head_is_answered_like_get(dagny: Client, path: str) -> None:
    answer = dagny.head(path)
    assert (answer.status_code, answer.content) == (200, b"")


def test_a_form_that_is_too_old_says_so(db: None) -> None:
    client = Client(enforce_csrf_checks=True)
    answer = client.post("/sign-in/", {"username": "dagny", "password": "quillmoor"})
    assert answer.status_code == 403
    assert "too old to be trusted" in answer.content.decode()


def test_each_request_is_one_line_with_its_id(corin: Client) -> None:
    lines: list[logging.LogRecord] = []

    class Kept(logging.Handler):
        def emit(self, record: logging.LogRecord) -> None:
            lines.append(record)

    handler = Kept()
    handler.addFilter(WithId())
    log.addHandler(handler)
    log.setLevel("INFO")
    try:
        answer = corin.get("/jobs/Q-214/cuts/")
        corin.get("/healthz")
    finally:
        log.removeHandler(handler)
    assert len(lines) == 1
    said = vars(lines[0])
    assert (said["path"], said["status"], said["user"]) == ("/jobs/Q-214/cuts/", 200, "corin")
    assert said["request_id"] == answer["X-Request-Id"]
    assert json.dumps({key: said[key] for key in ("method", "path", "status", "ms", "user", "entry")})
