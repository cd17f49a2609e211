"""The Python half of ./start: database, tables, demo, processes, and what to tell the person."""

from __future__ import annotations

import argparse
import os
import sys
from pathlib import Path

from application import ROOT, Application, ApplicationError
from cluster import ClusterError


def main() -> int:
    parser = argparse.ArgumentParser(prog="./start")
    parser.add_argument("--port", type=int, metavar="N", help="port on loopback (default: a free one)")
    parser.add_argument("--no-demo", action="store_true", help="do not load the demo project")
    parser.add_argument("--stop", action="store_true", help="stop everything; data is kept")
    options = parser.parse_args()
    application = Application(Path(os.environ.get("NEATVEIL_VAR") or ROOT / "var"))
    try:
        if options.stop:
            application.stop()
            print("Stopped; all data is kept.")
            return 0
        application.prepare(demo=not options.no_demo)
        application.start(options.port)
    except (ApplicationError, ClusterError) as error:
        print(f"./start: {error}", file=sys.stderr)
        return 1
    print(f"Neat Veil is at  {application.address}")
    password = application.var / "secret" / "demo-password"
    if password.exists():
        print(f"Sign in as  warden  with password  {password.read_text()}")
    else:
        print("No demo: add a person with  .venv/bin/python tools/add_person.py NAME")
    print("Stop it with  ./start --stop")
    return 0


if __name__ == "__main__":
    sys.exit(main())
