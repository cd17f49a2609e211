"""Where a request comes from, for throttling: a header is believed only where the settings name a proxy."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest


def client_address(request: HttpRequest) -> str:
    """The address of the line, or what the outermost of our own proxies saw.

    ``settings.PROXIES`` proxies each add an address at the end of X-Forwarded-For; what stands before those
    is anybody's word.
    """
    line = str(request.META.get("REMOTE_ADDR") or "")
    if not settings.PROXIES:
        return line
    addresses = [a.strip() for a in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",") if a.strip()]
    return addresses[-settings.PROXIES] if len(addresses) >= settings.PROXIES else line
