"""The built web application: its files, and its page for every other address."""

from __future__ import annotations

import mimetypes
from functools import cache
from pathlib import Path

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseNotFound
from django.middleware.csrf import get_token

mimetypes.add_type("font/woff2", ".woff2")
mimetypes.add_type("text/javascript", ".js")


@cache
def _files() -> dict[str, Path]:
    """Every file of the build by its address; nothing else is ever served."""
    root: Path = settings.WEB
    return {p.relative_to(root).as_posix(): p for p in root.rglob("*") if p.is_file()}


@cache
def _bytes(name: str) -> bytes:
    return _files()[name].read_bytes()


def web(request: HttpRequest, path: str) -> HttpResponse:
    """A file of the build, or the application's page (which makes its own addresses)."""
    if request.method not in {"GET", "HEAD"}:
        return HttpResponseNotFound()
    if path in _files() and path != "index.html":
        kind = mimetypes.guess_type(path)[0] or "application/octet-stream"
        response = HttpResponse(_bytes(path), content_type=kind)
        # Names carry a hash of the content.
        response["Cache-Control"] = "public, max-age=31536000, immutable"
        return response
    if path.startswith(("api/", "assets/")):
        return HttpResponseNotFound()
    if "index.html" not in _files():
        return HttpResponse("The web application is not built; run ./start.", status=503)
    get_token(request)  # sets the cookie that changing requests must echo
    response = HttpResponse(_bytes("index.html"), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response
