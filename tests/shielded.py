"""The command line as a person calls it, and without a process: words in, words and exit code out.

A process takes a second and a half to load; what is asked here is what it says.
"""

from __future__ import annotations

import io
import subprocess
import sys
from contextlib import redirect_stderr, redirect_stdout

from rugged_shield.cli import main

SHIELD = [sys.executable, "-m", "rugged_shield.cli"]


def process(*args: str, text: str = "") -> subprocess.CompletedProcess[str]:
    """A ``shield`` of its own."""
    return subprocess.run(
        [*SHIELD, *args], input=text, capture_output=True, text=True, check=False, timeout=240
    )


def shield(*args: str, text: str = "") -> subprocess.CompletedProcess[str]:
    """What ``shield`` says to these arguments, with ``text`` on its input."""
    out, err = io.StringIO(), io.StringIO()
    was, sys.stdin = sys.stdin, io.TextIOWrapper(io.BytesIO(text.encode()), "utf-8")
    try:
        with redirect_stdout(out), redirect_stderr(err):
            code = main(list(args))
    except SystemExit as end:
        code = end.code if isinstance(end.code, int) else 1
    finally:
        sys.stdin = was
    return subprocess.CompletedProcess(args, code, out.getvalue(), err.getvalue())
