"""Firefox over WebDriver BiDi (W3C), which it speaks without a driver of its own."""

from __future__ import annotations

import json
import re
import shutil
import subprocess
import tempfile
from typing import Any

from websocket import create_connection

from tests.engines.engine import PATIENCE, Engine, as_expression, from_base64


class Firefox(Engine):
    name = "Firefox"

    def __init__(self, width: int, height: int) -> None:
        program = shutil.which("firefox-esr") or shutil.which("firefox")
        assert program, "Firefox is not installed"
        self.folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        command = [program, "--headless", "--no-remote", "--profile", self.folder.name, "--remote-debugging-port", "0"]
        self.process = subprocess.Popen(command, stderr=subprocess.PIPE, stdout=subprocess.DEVNULL, text=True)
        assert self.process.stderr is not None
        address = ""
        for line in self.process.stderr:
            if found := re.search(r"BiDi listening on (ws://\S+)", line):
                address = found[1]
                break
        self.socket = create_connection(f"{address}/session", timeout=PATIENCE, suppress_origin=True)
        self.number = 0
        self.say("session.new", {"capabilities": {}})
        self.page = self.say("browsingContext.getTree", {})["contexts"][0]["context"]
        size = {"width": width, "height": height}
        self.say("browsingContext.setViewport", {"context": self.page, "viewport": size})

    def say(self, method: str, params: dict[str, Any]) -> dict[str, Any]:
        """One command, and what comes back."""
        self.number += 1
        self.socket.send(json.dumps({"id": self.number, "method": method, "params": params}))
        while True:
            answer: dict[str, Any] = json.loads(self.socket.recv())
            if answer.get("id") == self.number:
                break
        if answer.get("type") == "error":
            raise AssertionError(f"{method}: {answer.get('message')}")
        result: dict[str, Any] = answer["result"]
        return result

    def go(self, address: str) -> None:
        self.say("browsingContext.navigate", {"context": self.page, "url": address, "wait": "complete"})

    def run(self, function: str, *given: object) -> Any:
        asked = {"expression": as_expression(function, given), "target": {"context": self.page}, "awaitPromise": False}
        found = self.say("script.evaluate", asked)
        if found["type"] == "exception":
            raise AssertionError(found["exceptionDetails"]["text"])
        return json.loads(found["result"]["value"])

    def act(self, actions: list[dict[str, Any]]) -> None:
        self.say("input.performActions", {"context": self.page, "actions": actions})

    def picture(self) -> bytes:
        return from_base64(self.say("browsingContext.captureScreenshot", {"context": self.page})["data"])

    def close(self) -> None:
        self.socket.close()
        self.process.terminate()
        self.process.wait(PATIENCE)
        self.folder.cleanup()
