#!/bin/sh
# Says which version of Python or Node is missing, before anything is tried with it.
set -eu
PYTHON=${PYTHON:-python3}
fail() { echo "Missing: $1" >&2; exit 1; }

command -v "$PYTHON" >/dev/null 2>&1 || fail "Python 3.11 or newer (as $PYTHON)"
"$PYTHON" -c 'import sys; sys.exit(sys.version_info < (3, 11))' ||
  fail "Python 3.11 or newer; $PYTHON is $("$PYTHON" -V 2>&1). Set PYTHON=/path/to/python3.11"
"$PYTHON" -c 'import venv, ensurepip' 2>/dev/null ||
  fail "Python's venv module. On Debian: sudo apt-get install python3-venv"
command -v node >/dev/null 2>&1 ||
  fail "Node 20.19 or newer (Debian's own nodejs package may be older)"
node -e 'const [a,b]=process.versions.node.split(".").map(Number); process.exit(a>20||(a===20&&b>=19)?0:1)' ||
  fail "Node 20.19 or newer; this one is $(node --version)"
command -v npm >/dev/null 2>&1 || fail "npm 10 or newer, which comes with Node"
