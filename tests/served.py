"""Ridge as it is served, by gunicorn on a free port, and a client in front of it."""

from __future__ import annotations

import atexit
import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from functools import lru_cache
from http.client import HTTPConnection, HTTPResponse, RemoteDisconnected
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parent.parent


class Served:
    """gunicorn as ``./run demo`` or ``./run serve`` starts it, on a free port, with its data in a folder; ``further`` arguments of
    gunicorn. It may be killed and started again."""

    def __init__(self, folder: str, mode: str = "demo", *further: str, **environment: str) -> None:
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port: int = free.getsockname()[1]
        self.environment = {
            **os.environ,
            "RIDGE_MODE": mode,
            "RIDGE_DATA": folder,
            "RIDGE_HOSTS": "127.0.0.1",
            "RIDGE_GUESTS_A_MINUTE": "100000",  # all visitors of a test come from one address
            "RIDGE_LANE_EARLY": os.environ.get("RIDGE_LANE_EARLY", "0"),
            **environment,
        }
        self._arguments = [
            "--config",
            "python:ridge.site.serving",
            "--bind",
            f"127.0.0.1:{self.port}",
            "--log-level",
            "critical",
            *further,
        ]
        self._process: subprocess.Popen[bytes] | None = None

    def prepare(self) -> None:
        """An empty database, or that of the demo: a copy of one that is made once, since the migrations take their time."""
        if "RIDGE_DATABASE" in self.environment:
            self.manage("migrate", "-v0")
            return
        for file in _made(self.environment["RIDGE_MODE"]).iterdir():
            shutil.copy(file, self.environment["RIDGE_DATA"])

    def manage(self, *command: str) -> subprocess.CompletedProcess[bytes]:
        """A command of ``manage.py`` on the same data."""
        return subprocess.run(
            [sys.executable, "manage.py", *command], cwd=ROOT, env=self.environment, check=True, capture_output=True
        )

    def start(self, limit: Callable[[], None] | None = None) -> None:
        """Returns when it answers. ``limit`` is called in the new process before anything else."""
        self._process = subprocess.Popen(
            [sys.executable, "-m", "gunicorn", *self._arguments],
            cwd=ROOT,
            env=self.environment,
            start_new_session=True,
            stderr=subprocess.DEVNULL,
            preexec_fn=limit,
        )
        for _ in range(2400):  # a busy machine is slow, not wrong
            try:
                first = urllib.request.Request(f"http://127.0.0.1:{self.port}/", headers={"X-Forwarded-Proto": "https"})
                urllib.request.urlopen(first).close()
                return
            except OSError:
                time.sleep(0.05)

    @property
    def pid(self) -> int:
        assert self._process is not None
        return self._process.pid

    def kill(self) -> None:
        """At once, with all that it has started, as when the power fails."""
        assert self._process is not None
        with suppress(ProcessLookupError):
            os.killpg(self._process.pid, signal.SIGKILL)
        self._process.wait()

    def stop(self) -> None:
        """As whoever runs it stops it: requests under way are finished."""
        assert self._process is not None
        self._process.terminate()
        self._process.wait()
        self.kill()


@lru_cache
def _made(mode: str) -> Path:
    folder = tempfile.mkdtemp(prefix="ridge-made-")
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    served = Served(folder, mode)
    served.manage("migrate", "-v0")
    if mode == "demo":
        served.manage("load_demo")
    return Path(folder)


@contextmanager
def server(mode: str = "demo", *further: str) -> Iterator[int]:
    """The port of one with an empty database, or that of the demo."""
    with tempfile.TemporaryDirectory() as folder:
        served = Served(folder, mode, *further)
        served.prepare()
        served.start()
        try:
            yield served.port
        finally:
            served.stop()


def processes_of(port: int) -> dict[int, list[str]]:
    """The server at a port with all that descends from it: the fields of each process in /proc/…/stat from its state on."""
    fields: dict[int, list[str]] = {}
    own = set()
    for path in Path("/proc").glob("[0-9]*/stat"):
        try:
            text, command = path.read_text(), (path.parent / "cmdline").read_text()
        except OSError:
            continue
        fields[int(path.parent.name)] = text.rpartition(")")[2].split()
        if f"127.0.0.1:{port}" in command:
            own.add(int(path.parent.name))

    def descends(process: int) -> bool:
        while process in fields and process not in own:
            process = int(fields[process][1])
        return process in own

    return {process: found for process, found in fields.items() if descends(process)}


def kill(process: int) -> None:
    """At once. One that has meanwhile ended by itself is as dead."""
    with suppress(ProcessLookupError):
        os.kill(process, signal.SIGKILL)


class Visitor:
    """A client that keeps its connection and cookies, as a browser does; in front of a server for real use it stands for the TLS proxy,
    too."""

    def __init__(self, port: int, cookies: dict[str, str] | None = None) -> None:
        self.connection = HTTPConnection("127.0.0.1", port, timeout=240)
        self.cookies = dict(cookies or {})
        self._always = {
            "Content-Type": "application/json",
            "X-Forwarded-Proto": "https",
            "Referer": f"https://127.0.0.1:{port}/",
        }
        if not self.cookies:
            self.ask("GET", "/")
            self.ask("GET", "/api/shelf")

    def ask(self, method: str, path: str, body: object = None) -> Any:
        """What is answered, JSON read. Raises RuntimeError for a refusal."""
        response, text = self.send(method, path, body)
        if response.status >= 400:
            raise RuntimeError(f"{path}: {response.status} {text[:200]!r}")
        return json.loads(text) if "json" in response.headers.get("Content-Type", "") else text

    def send(self, method: str, path: str, body: object = None) -> tuple[HTTPResponse, bytes]:
        return self._send(method, path, None if body is None else json.dumps(body).encode(), {})

    def send_file(self, path: str, data: bytes, name: str) -> tuple[HTTPResponse, bytes]:
        """A file in a form, as a page sends it."""
        head = f'--part\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n\r\n'.encode()
        form = {"Content-Type": "multipart/form-data; boundary=part"}
        return self._send("POST", path, head + data + b"\r\n--part--\r\n", form)

    def _send(self, method: str, path: str, sent: bytes | None, further: dict[str, str]) -> tuple[HTTPResponse, bytes]:
        headers = {
            **self._always,
            **further,
            "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items()),
            "X-CSRFToken": next((value for name, value in self.cookies.items() if name.endswith("-csrf")), ""),
        }
        try:
            self.connection.request(method, path, sent, headers)
            response = self.connection.getresponse()
        except (RemoteDisconnected, BrokenPipeError):  # kept open for too long: begun anew, as a browser does
            self.connection.close()
            self.connection.request(method, path, sent, headers)
            response = self.connection.getresponse()
        text = response.read()
        for cookie in response.headers.get_all("Set-Cookie") or []:
            name, _, value = cookie.partition(";")[0].partition("=")
            self.cookies[name] = value
        return response, text
