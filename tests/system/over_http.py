"""A signed-in person on the real server, over HTTP."""

from __future__ import annotations

import http.client
import json
import time
from typing import Any
from urllib.parse import urlsplit


class Person:
    """Keeps the cookies itself: standard clients send secure ones over TLS only."""

    def __init__(self, address: str, name: str, password: str) -> None:
        self.host = urlsplit(address).netloc
        self.cookies: dict[str, str] = {}
        self("GET", "session")
        status, body = self("POST", "session", {"name": name, "password": password})
        assert status == 200, body

    def __call__(self, method: str, path: str, data: Any = None, timeout: float = 120) -> tuple[int, Any]:
        """Status and JSON; 0 where the line dropped."""
        connection = http.client.HTTPConnection(self.host, timeout=timeout)
        headers = {
            "Content-Type": "application/json",
            "X-CSRFToken": self.cookies.get("csrftoken", ""),
            "Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items()),
        }
        try:
            connection.request(
                method, f"/api/{path}", json.dumps(data) if data is not None else None, headers
            )
            answer = connection.getresponse()
            for value in answer.headers.get_all("Set-Cookie") or []:
                name, _, rest = value.partition("=")
                self.cookies[name] = rest.split(";")[0]
            body = answer.read()
        except OSError:
            return 0, None
        finally:
            connection.close()
        is_json = answer.headers.get("Content-Type", "").startswith("application/json")
        return answer.status, json.loads(body) if is_json and body else body

    def wait_for_delivery(self, number: int, seconds: float = 600) -> dict[str, Any]:
        """The delivery once it has ended."""
        deadline = time.monotonic() + seconds
        while time.monotonic() < deadline:
            status, row = self("GET", f"deliveries/{number}")
            if status == 200 and row["job"]["state"] in {"done", "failed", "cancelled"}:
                return row
            time.sleep(0.2)
        raise AssertionError(f"delivery {number} has not ended: {row}")
