"""WebKit's GTK port over W3C WebDriver, on a screen that nobody sees."""

from __future__ import annotations

import json
import os
import shutil
import socket
import subprocess
import time
import urllib.error
import urllib.request
from pathlib import Path
from typing import Any

from tests.engines.engine import PATIENCE, Engine, as_expression, from_base64


def _free_port() -> int:
    with socket.socket() as one:
        one.bind(("127.0.0.1", 0))
        return int(one.getsockname()[1])


class WebKit(Engine):
    name = "WebKit"

    def __init__(self, width: int, height: int) -> None:
        assert shutil.which("WebKitWebDriver") and shutil.which("Xvfb"), "WebKit or Xvfb is not installed"
        reading, writing = os.pipe()
        screen = [
            "Xvfb",
            "-displayfd",
            str(writing),
            "-screen",
            "0",
            f"{width + 200}x{height + 300}x24",
            "-nolisten",
            "tcp",
        ]
        self.screen = subprocess.Popen(screen, pass_fds=(writing,), stderr=subprocess.DEVNULL)
        os.close(writing)
        with os.fdopen(reading) as said:
            display = f":{said.readline().strip()}"
        port = _free_port()
        self.address = f"http://127.0.0.1:{port}"
        # Its sandbox needs rights that a container does not give; only this application's own pages are opened.
        environment = {
            **os.environ,
            "DISPLAY": display,
            "WEBKIT_DISABLE_SANDBOX_THIS_IS_DANGEROUS": "1",
            "NO_AT_BRIDGE": "1",
        }
        self.driver = subprocess.Popen(
            ["WebKitWebDriver", f"--port={port}"], env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )
        browser = next(path for path in Path("/usr/lib").rglob("MiniBrowser") if path.is_file())
        options = {"binary": str(browser), "args": ["--automation", f"--geometry={width}x{height + 60}"]}
        wanted = {"browserName": "MiniBrowser", "webkitgtk:browserOptions": options}
        self.session = ""
        self._until_it_listens()
        self.session = self.say("POST", "/session", {"capabilities": {"alwaysMatch": wanted}})["sessionId"]
        self._fit(width, height)

    def _until_it_listens(self) -> None:
        end = time.monotonic() + PATIENCE
        while True:
            try:
                self.say("GET", "/status")
                return
            except (urllib.error.URLError, ConnectionError):
                if time.monotonic() > end:
                    raise
                time.sleep(0.1)

    def _fit(self, width: int, height: int) -> None:
        """Make the window so large that the page has the size that was asked for."""
        for _ in range(3):
            inner = self.run("() => [innerWidth, innerHeight]")
            outer = self.say("GET", "/window/rect")
            wanted = {"width": outer["width"] + width - inner[0], "height": outer["height"] + height - inner[1]}
            self.say("POST", "/window/rect", wanted)
            time.sleep(0.3)

    def say(self, method: str, path: str, body: dict[str, Any] | None = None) -> Any:
        """One command, and what comes back."""
        whole = f"{self.address}/session/{self.session}{path}" if self.session else f"{self.address}{path}"
        data = json.dumps(body or {}).encode() if method == "POST" else None
        request = urllib.request.Request(whole, data, {"Content-Type": "application/json"}, method=method)
        try:
            with urllib.request.urlopen(request, timeout=4 * PATIENCE) as answer:
                return json.load(answer)["value"]
        except urllib.error.HTTPError as error:
            raise AssertionError(f"{method} {path}: {error.read()[:400]!r}") from error

    def go(self, address: str) -> None:
        self.say("POST", "/url", {"url": address})

    def run(self, function: str, *given: object) -> Any:
        script = {"script": f"return {as_expression(function, given)}", "args": []}
        return json.loads(self.say("POST", "/execute/sync", script))

    def act(self, actions: list[dict[str, Any]]) -> None:
        self.say("POST", "/actions", {"actions": actions})

    def picture(self) -> bytes:
        return from_base64(self.say("GET", "/screenshot"))

    def close(self) -> None:
        try:
            self.say("DELETE", "")
        finally:
            for process in (self.driver, self.screen):
                process.terminate()
                process.wait(PATIENCE)
