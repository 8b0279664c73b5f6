"""Writes the hashes of what the locks pin into them, as the package index publishes them.

Change a version in ``requirements/*.lock``, then run this: a file with another hash is refused.
"""

from __future__ import annotations

import json
import re
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

LOCKS = Path(__file__).parents[1] / "requirements"
INDEX = "https://pypi.org/simple"


def hashes(pin: str) -> list[str]:
    """SHA-256 of every file that the index has for ``name==version``."""
    name, version = pin.split("==")
    request = urllib.request.Request(
        f"{INDEX}/{re.sub(r'[-_.]+', '-', name).lower()}/",
        headers={"Accept": "application/vnd.pypi.simple.v1+json"},
    )
    with urllib.request.urlopen(request, timeout=60) as answer:
        files = json.load(answer)["files"]
    stem = "[-_.]".join(map(re.escape, re.split(r"[-_.]", name)))
    file = re.compile(rf"{stem}-{re.escape(version)}(-|\.tar|\.zip)", re.I)
    of_version = [f["hashes"]["sha256"] for f in files if file.match(f["filename"])]
    if not of_version:
        raise SystemExit(f"the index has no file of {pin}")
    return sorted(of_version)


def main() -> None:
    """Renew the locks in place."""
    for lock in sorted(LOCKS.glob("*.lock")):
        lines = lock.read_text().splitlines()
        comments = [line for line in lines if line.startswith("#")]
        pins = [line.split()[0] for line in lines if re.match(r"[A-Za-z]", line)]
        with ThreadPoolExecutor(8) as pool:
            found = list(pool.map(hashes, pins))
        pinned = [
            " \\\n".join([pin, *(f"    --hash=sha256:{each}" for each in of_pin)])
            for pin, of_pin in zip(pins, found, strict=True)
        ]
        lock.write_text("\n".join([*comments, *pinned]) + "\n")


if __name__ == "__main__":
    main()
