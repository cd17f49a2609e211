"""One command for each role that a process of the application can have: `./run ROLE` leads here.

web        answers browsers
worker     does what is in the queues (NEATVEIL_QUEUES)
scheduler  does what is due by the clock: watching libraries, caring for jobs whose worker is gone
migrate    brings the database's tables up to date, and ends
check      checks the settings, and ends
"""

from __future__ import annotations

import os
import socket
import sys
from collections.abc import Callable, Sequence
from pathlib import Path

from .environment import LARGEST_BODY, Environment, SettingsRefused, read_environment

MANAGE = str(Path(__file__).resolve().parents[1] / "manage.py")
#: What an operating system expects of a program whose configuration is wrong (sysexits.h).
EX_CONFIG = 78


def web(environment: Environment) -> int:
    """Answer browsers until told to end. Several share the port, and the kernel deals out the lines."""
    import uvicorn

    config = uvicorn.Config(
        "config.asgi:application",
        ssl_certfile=environment.tls_certificate,
        ssl_keyfile=environment.tls_key,
        # Django's settings say how lines are written
        log_config=None,
        timeout_graceful_shutdown=2,
        timeout_keep_alive=75,
        # a line's message is a document at most; its pictures are packed already
        ws_max_size=LARGEST_BODY,
        ws_per_message_deflate=False,
        lifespan="off",
        access_log=False,
        # whose word is believed of who asks is for the settings to say
        proxy_headers=False,
    )
    listening = listen(environment.bind, environment.port, shared=environment.web_processes > 1)
    uvicorn.Server(config).run(sockets=[listening])
    return 0


def listen(address: str, port: int, *, shared: bool) -> socket.socket:
    """A listening socket; ``shared``: other web processes of ours listen on the same port."""
    family = socket.AF_INET6 if ":" in address else socket.AF_INET
    listening = socket.socket(family, socket.SOCK_STREAM)
    listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    if shared:
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
    listening.bind((address, port))
    return listening


def worker(environment: Environment) -> int:
    """Take from the queues until told to end; what is begun by then is given back."""
    queues = ",".join(environment.queues)
    return _manage("procrastinate", "worker", "--concurrency", "1", "--queues", queues)


def scheduler(environment: Environment) -> int:
    """Do what is due by the clock; of several, one does each."""
    return _manage("procrastinate", "worker", "--concurrency", "1", "--queues", "care")


def migrate(environment: Environment) -> int:
    return _manage("migrate", "--verbosity", "0")


def check(environment: Environment) -> int:
    print("The settings are in order.")
    return 0


ROLES: dict[str, Callable[[Environment], int]] = {
    each.__name__: each for each in (web, worker, scheduler, migrate, check)
}


def main(arguments: Sequence[str]) -> int:
    if len(arguments) != 1 or arguments[0] not in ROLES:
        print(__doc__, file=sys.stderr)
        return os.EX_USAGE
    try:
        environment = read_environment()
    except SettingsRefused as error:
        print(f"{error}\ndocs/SETTINGS.md lists every setting.", file=sys.stderr)
        return EX_CONFIG
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    for folder in ("tmp", "run", "log"):
        (environment.var / folder).mkdir(parents=True, exist_ok=True)
    try:
        return ROLES[arguments[0]](environment)
    except OSError as error:
        print(f"{arguments[0]} cannot start: {error.strerror}.", file=sys.stderr)
        return EX_CONFIG


def _manage(*command: str) -> int:
    """Become Django's command of this name."""
    os.execv(sys.executable, [sys.executable, MANAGE, *command])


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
