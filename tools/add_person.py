"""Add a person who can sign in, with a fresh password:  .venv/bin/python tools/add_person.py NAME"""

from __future__ import annotations

import os
import secrets
import sys
from pathlib import Path

from application import ROOT, Application, ApplicationError


def main() -> int:
    if len(sys.argv) != 2:
        print(__doc__, file=sys.stderr)
        return 2
    application = Application(Path(os.environ.get("NEATVEIL_VAR") or ROOT / "var"))
    password = secrets.token_urlsafe(9)
    try:
        application.cluster.start()
        application.manage("add_person", sys.argv[1], f"--password={password}")
    except ApplicationError as error:
        print(error, file=sys.stderr)
        return 1
    print(f"{sys.argv[1]} signs in with password  {password}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
