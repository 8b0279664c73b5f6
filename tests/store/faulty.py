"""What goes wrong around a store: a small disk that fills up, a process that is killed."""

from __future__ import annotations

import multiprocessing
import os
import signal
import subprocess
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

import pytest

Acknowledge = Callable[[str], None]


@contextmanager
def small_disk(at: Path, size: str) -> Iterator[Path]:
    """A file system of this size, where this user may mount one; skips the test elsewhere."""
    at.mkdir()
    made = subprocess.run(
        ["mount", "-t", "tmpfs", "-o", f"size={size}", "tmpfs", str(at)],
        capture_output=True,
        check=False,
    )
    if made.returncode:
        pytest.skip(f"no small file system can be mounted here: {made.stderr.decode()[:80]}")
    try:
        yield at
    finally:
        subprocess.run(["umount", "-l", str(at)], check=True)


def fill(ballast: Path, left: int = 0) -> None:
    """Write until nothing fits any more, or only so many bytes."""
    with ballast.open("wb", buffering=0) as file, suppress(OSError):
        while True:
            file.write(b"x" * 4096)
    with ballast.open("r+b") as file:
        file.truncate(max(0, ballast.stat().st_size - left))


def killed(
    work: Callable[[Acknowledge], None], when: Callable[[Callable[[], bool]], None]
) -> list[str]:
    """A process of its own, killed once ``when`` returns; what it had acknowledged by then.

    ``when`` is given a function that waits for the first word, and says whether there was one.
    """
    fork = multiprocessing.get_context("fork")
    reader, writer = fork.Pipe(duplex=False)

    def tell(said: str) -> None:
        os.write(writer.fileno(), f"{said}\n".encode())

    child = fork.Process(target=work, args=(tell,))
    child.start()
    writer.close()
    when(lambda: reader.poll(30))
    os.kill(child.pid or 0, signal.SIGKILL)
    child.join()
    said = b""
    while chunk := os.read(reader.fileno(), 65536):
        said += chunk
    reader.close()
    return said.decode().split("\n")[:-1]
