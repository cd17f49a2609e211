#!/usr/bin/env bash
# The web application's types must be those of the API's description (the description itself is
# checked against the API by the server's tests).
set -euo pipefail
. "$(dirname "$0")/setup.sh"
made=$(mktemp); trap 'rm -f "$made"' EXIT
cd web
npx openapi-typescript ../docs/openapi.json -o "$made" --default-non-nullable=false >/dev/null
cmp -s "$made" src/api/schema.d.ts || { say "web/src/api/schema.d.ts is out of date; run tools/openapi.sh"; exit 1; }
