"""A start that cannot be is told in a sentence, before anything says that it is on."""

from __future__ import annotations

import errno
import os
import signal
import socket
import subprocess
from pathlib import Path

import httpx
import pytest
from fastapi.testclient import TestClient
from peewee import DatabaseError, IntegrityError, OperationalError

from rough_draw.api.app import create_app
from rough_draw.cli.base import Refused
from rough_draw.cli.listening import listening
from rough_draw.cli.main import main
from rough_draw.store import jobs
from rough_draw.store.database import Unusable, open_database
from tests.serving import CLI, PATIENCE_S, free_port


def refused(argv: list[str], capsys: pytest.CaptureFixture[str]) -> str:
    """What is said by a command that is refused: one line, and nothing of it on the way out."""
    assert main(argv) == 2
    said = capsys.readouterr()
    assert "Rough Draw on" not in said.out
    assert said.err.startswith("rough-draw: ")
    assert said.err.count("\n") == 1
    return said.err


def test_a_port_that_is_taken(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    with socket.create_server(("127.0.0.1", 0)) as other:
        port = other.getsockname()[1]
        said = refused(["serve", "--db", str(tmp_path / "a.sqlite3"), "--port", str(port)], capsys)
    assert str(port) in said
    assert "--port" in said


@pytest.mark.parametrize(
    ("host", "port", "wanted"),
    [("127.0.0.1", 70_000, "65535"), ("192.0.2.1", 0, "192.0.2.1"), ("no-such.invalid", 0, "no-such")],
)
def test_an_address_that_cannot_be(host: str, port: int, wanted: str) -> None:
    with pytest.raises(Refused, match=wanted):
        listening(host, port, "--tls-port")


def test_a_port_that_is_the_administrators(monkeypatch: pytest.MonkeyPatch) -> None:
    def kept(*_: object, **__: object) -> socket.socket:
        raise PermissionError(errno.EACCES, "Permission denied")

    monkeypatch.setattr(socket, "create_server", kept)
    with pytest.raises(Refused, match="--tls-port"):
        listening("", 443, "--tls-port")


def test_every_address_of_the_machine_is_listened_at() -> None:
    with listening("", 0) as taken:
        port = taken.getsockname()[1]
        socket.create_connection(("127.0.0.1", port), timeout=5).close()


@pytest.mark.parametrize("kind", ["text", "zeros", "cut", "scribbled"])
@pytest.mark.parametrize("command", ["serve", "demo", "export"])
def test_a_file_that_is_damaged(kind: str, command: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "b.sqlite3"
    open_database(path).close()
    whole = path.read_bytes()
    path.write_bytes(
        {
            "text": b"no database at all, " * 300,
            "zeros": b"SQLite format 3\0" + bytes(9000),
            "cut": whole[:5000],
            "scribbled": whole[:100] + os.urandom(len(whole) - 100),
        }[kind]
    )
    more = ["nope", "--out", str(tmp_path / "o.json")] if command == "export" else ["--port", "0"]
    assert str(path) in refused([command, *more, "--db", str(path)], capsys)


def test_a_place_that_cannot_be_written(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("in the way")
    for path in (tmp_path / "file" / "d.sqlite3", tmp_path):
        with pytest.raises(Unusable):
            open_database(path)


@pytest.mark.parametrize(
    ("fault", "status"),
    [
        (OperationalError("database or disk is full"), 503),
        (OperationalError("attempt to write a readonly database"), 503),
        (DatabaseError("database disk image is malformed"), 503),
    ],
)
def test_a_file_that_fails_while_it_is_served(
    fault: Exception, status: int, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def fails(*_: object, **__: object) -> None:
        raise fault

    with TestClient(create_app(str(tmp_path / "c.sqlite3")), base_url="http://localhost") as api:
        monkeypatch.setattr(jobs, "get", fails)
        answer = api.get("/api/jobs/any")
        assert answer.status_code == status
        assert str(fault) in answer.json()["detail"]


def test_a_fault_of_the_code_is_not_laid_to_the_file(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def fails(*_: object, **__: object) -> None:
        raise IntegrityError("UNIQUE constraint failed")

    with TestClient(create_app(str(tmp_path / "d.sqlite3"), warm=False), base_url="http://localhost") as api:
        monkeypatch.setattr(jobs, "get", fails)
        with pytest.raises(IntegrityError):
            api.get("/api/jobs/any")


def test_it_is_stopped_as_it_says_and_no_fault_is_told_of(tmp_path: Path) -> None:
    port = free_port()
    command = [*CLI, "serve", "--db", str(tmp_path / "s.sqlite3"), "--port", str(port)]
    server = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)
    assert server.stdout is not None
    assert "Ctrl-C" in server.stdout.readline()
    # It listens by then: who asks waits until it answers.
    httpx.get(f"http://127.0.0.1:{port}/api/health", timeout=PATIENCE_S).raise_for_status()
    server.send_signal(signal.SIGINT)
    _, faults = server.communicate(timeout=PATIENCE_S)
    assert faults == ""
    assert server.returncode == 0
