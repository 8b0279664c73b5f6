"""One warm process for a whole test run, which servers fork from.

Everything is loaded and the demo worked out once there, and not by each of fifty servers. Answers
are the same: what is remembered is keyed by all that it depends on. Servers that start
cold, as a rider's does, are tested in ``test_serving``, ``test_cli`` and ``test_wheel``.
"""

from __future__ import annotations

import gc
import json
import os
import shutil
import signal
import socket
import sys
import tempfile
import time
import traceback
from collections.abc import Callable
from functools import partial
from multiprocessing import forkserver
from pathlib import Path
from typing import Any, NoReturn

LOOK_S = 1.0
READY_S = 240.0
RUN = os.environ.get("PYTEST_XDIST_TESTRUNUID", str(os.getpid()))
ROOT = Path(tempfile.gettempdir()) / f"warm-{RUN}"
"""What all workers of a run share; the warm process clears it away."""
LOG, ADDRESS = ROOT / "log", str(ROOT / "socket")


def begin() -> None:
    """Starts the warm process where no worker of the run has; it ends with the run."""
    try:
        ROOT.mkdir(mode=0o700)
    except FileExistsError:
        return
    # The run is the parent of several workers, or the only process.
    owner = os.getppid() if "PYTEST_XDIST_WORKER" in os.environ else os.getpid()
    command = [sys.executable, __file__, str(ROOT), str(owner)]
    flags = os.O_CREAT | os.O_WRONLY
    words = [(os.POSIX_SPAWN_OPEN, fd, str(LOG), flags, 0o600) for fd in (1, 2)]
    os.posix_spawn(sys.executable, command, os.environ, file_actions=words, setsid=True)


def forked(argv: list[str], data: Path, out: Path) -> int:
    """A server with these arguments on ``data``, its words in ``out``; returns its number."""
    begin()
    asked = json.dumps({"argv": argv, "data": str(data), "out": str(out)})
    end = time.monotonic() + READY_S
    while True:
        try:
            with socket.socket(socket.AF_UNIX) as link:
                link.settimeout(READY_S)
                link.connect(ADDRESS)
                link.sendall(asked.encode() + b"\n")
                return int(link.makefile().readline())
        except (FileNotFoundError, ConnectionRefusedError):
            words = LOG.read_text() if LOG.exists() else ""
            if "Traceback" in words or time.monotonic() > end:
                raise AssertionError(f"no warm process: {words}") from None
            time.sleep(0.05)


def _serve(asked: dict[str, Any], template: Path) -> None:
    """The forked side: a server as ``shield`` starts it, with its worker forked first."""
    from rugged_shield.cli import main
    from rugged_shield.web.worker import SHARED

    signal.signal(signal.SIGCHLD, signal.SIG_DFL)
    # Readers of files are forked from what the warm process has begun, one for all servers.
    setattr(forkserver._forkserver, "ensure_running", lambda: None)  # noqa: B010
    out = os.open(asked["out"], os.O_CREAT | os.O_WRONLY | os.O_TRUNC)
    os.dup2(out, 1)
    os.dup2(os.open(os.devnull, os.O_RDONLY), 0)
    if not Path(asked["data"]).exists():
        shutil.copytree(template, asked["data"])
    SHARED.method = "fork"
    SHARED.begin()
    sys.exit(main(asked["argv"]))


def _ended(work: Callable[..., None], *args: Any) -> NoReturn:
    """A fork's work and its end, whatever happens: it must not go on as its parent does."""
    code = 1
    try:
        work(*args)
    except SystemExit as end:
        code = int(end.code or 0)
    except BaseException:
        traceback.print_exc()
    finally:
        sys.stdout.flush()
        os._exit(code)


def _warm(template: Path) -> None:
    """All loaded, the demo in ``template``, what every page of its jobs asks for worked out."""
    import rugged_shield.cli
    import rugged_shield.serve
    import rugged_shield.web.serving
    from rugged_shield.demo.jobs import load_demo
    from rugged_shield.instruments.simulate import MOST_PACE, serve_simulators
    from rugged_shield.web import app as application

    rugged_shield.serve.serve_simulators = partial(serve_simulators, pace=MOST_PACE)
    app = application.routes()
    application.routes = lambda: app  # every fork opens its own folder on the same addresses
    application.open_folder(app, template)
    db = app.extensions["rugged_shield_db"]
    load_demo(db)
    client = app.test_client()
    while any(job["pending"] for job in client.get("/api/jobs").get_json()["jobs"]):
        pass
    for job in client.get("/api/jobs").get_json()["jobs"]:
        assert client.get(f"/api/jobs/{job['id']}/weigh-up").status_code == 200
    db.close()


def _main(root: Path, owner: int) -> None:
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # who ends is not waited for
    servers: list[int] = []
    from rugged_shield.formats.guarded import PRELOADED

    with socket.socket(socket.AF_UNIX) as listening:
        _warm(root / "demo")
        forkserver.set_forkserver_preload(PRELOADED)
        forkserver.ensure_running()
        gc.freeze()
        listening.settimeout(LOOK_S)
        listening.bind(str(root / "socket"))
        listening.listen(8)
        while Path(f"/proc/{owner}").exists():
            try:
                link, _ = listening.accept()
            except TimeoutError:
                continue
            with link:
                asked = json.loads(link.makefile().readline())
                number = os.fork()
                if number == 0:
                    listening.close()
                    link.close()
                    _ended(_serve, asked, root / "demo")
                servers.append(number)
                link.sendall(f"{number}\n".encode())
    for number in servers:
        if Path(f"/proc/{number}").exists():
            os.kill(number, signal.SIGTERM)
    shutil.rmtree(root)


if __name__ == "__main__":
    _main(Path(sys.argv[1]), int(sys.argv[2]))
