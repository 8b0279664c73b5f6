"""The command line: ``shield demo | serve | calc | export | import | backup | …``."""

from __future__ import annotations

import argparse
import json
import os
import sys
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Any

from rugged_shield import __version__
from rugged_shield.garbage import collect_seldom

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from rugged_shield.store.database import Database

DEFAULT_PORT = 8440


def _instruments(first_port: int) -> int:
    """Run the simulated instruments until stopped."""
    import time

    from rugged_shield.instruments.simulate import serve_simulators

    running = serve_simulators(first_port)
    for kind, url in running.urls.items():
        print(f"{kind}={url}", flush=True)
    try:
        while True:
            time.sleep(3600)
    except KeyboardInterrupt:
        running.stop()
    return 0


def _print_json(answer: Any) -> None:
    from rugged_shield.core.amounts import in_system

    print(in_system(json.dumps(answer, indent=1, ensure_ascii=False)))


def _answered(work: Callable[[], Any], file: str) -> int:
    """Print what the work answers; what it refuses is printed in the one shape, with exit 2."""
    from rugged_shield.core.errors import InputError
    from rugged_shield.formats.jsontext import error_json

    try:
        answer, code = work(), 0
    except InputError as error:
        answer, code = error_json(error), 2
    except OSError as error:
        problem = InputError("file", file, "a file that can be read", str(error))
        answer, code = error_json(problem), 2
    _print_json(answer)
    return code


def _read(file: str) -> bytes:
    return sys.stdin.buffer.read() if file == "-" else Path(file).read_bytes()


def _calc(args: argparse.Namespace) -> int:
    from rugged_shield.calc import registry
    from rugged_shield.formats.jsontext import read_json

    if args.list or not args.name:
        print("\n".join(registry.names()))
        return 0

    def work() -> Any:
        if args.schema:
            return registry.schema(args.name)
        if args.example:
            return registry.example(args.name)
        # A name that is not known is refused before anybody types a page of input to it.
        registry.check_name(args.name)
        return registry.calculate(args.name, read_json(_read(args.file)))

    return _answered(work, args.file)


def _assess(args: argparse.Namespace) -> int:
    from rugged_shield.calc.beside import beside
    from rugged_shield.calc.whole import assess

    return _answered(lambda: assess(_read(args.file), args.quick, beside), args.file)


def _database(folder: Path | None) -> Database:
    from rugged_shield.store.database import Database, default_folder

    db = Database(folder or default_folder())
    db.migrate()
    return db


def _export(args: argparse.Namespace) -> int:
    from rugged_shield.formats.jobfile import job_file_schema

    if args.job == "schema":
        print(json.dumps(job_file_schema(), indent=1, ensure_ascii=False))
        return 0
    with _to_read(args.data) as db:
        return _write_out(db, args)


def _write_out(db: Database, args: argparse.Namespace) -> int:
    from rugged_shield.formats.bundle import write_bundle
    from rugged_shield.formats.jobfile import write_job_file
    from rugged_shield.formats.photos import photos_zip
    from rugged_shield.store.repository import NotFoundError, job_ids, load_job, raw_job
    from rugged_shield.store.shelf import photos

    try:
        if args.raw:
            text = raw_job(db, args.job)
        else:
            row = load_job(db, args.job)
            text = write_job_file(row.job, row.records)
    except NotFoundError:
        known = ", ".join(job_ids(db)) or "none yet"
        print(f"There is no job “{args.job}”. Known: {known}.", file=sys.stderr)
        return 2
    pictures = {} if args.raw else photos(db, args.job)
    if args.file.endswith(".zip"):
        Path(args.file).write_bytes(write_bundle(text, pictures))
        return 0
    if pictures and args.file != "-":
        beside = Path(args.file).with_suffix(".photos.zip")
        beside.write_bytes(photos_zip(pictures))
        print(f"{len(pictures)} photos beside it: {beside.name}", file=sys.stderr)
    if args.file == "-":
        sys.stdout.write(text)
    else:
        Path(args.file).write_text(text, encoding="utf-8")
    return 0


@contextmanager
def _to_read(data: Path | None) -> Iterator[Database]:
    """The database to read from; of a folder that cannot be written to, a copy."""
    from rugged_shield.store.care import aside
    from rugged_shield.store.database import default_folder

    folder = data or default_folder()
    if folder.is_dir() and not os.access(folder, os.W_OK):
        with aside(folder) as db:
            db.migrate()
            yield db
        return
    db = _database(data)
    try:
        yield db
    finally:
        db.close()


def _import(args: argparse.Namespace) -> int:
    import secrets

    from rugged_shield.core.errors import InputError
    from rugged_shield.formats.bundle import load_brought
    from rugged_shield.formats.jsontext import error_json
    from rugged_shield.formats.photos import read_photos_zip
    from rugged_shield.store.repository import add_job

    try:
        file, pictures = load_brought(Path(args.file))
        beside = Path(args.file).with_suffix(".photos.zip")
        if beside.is_file():
            pictures |= read_photos_zip(beside.read_bytes())
    except OSError as error:
        print(f"Cannot read {args.file}: {error.strerror}", file=sys.stderr)
        return 2
    except InputError as error:
        _print_json(error_json(error))
        return 2
    db = _database(args.data)
    row = add_job(db, f"job-{secrets.token_hex(4)}", file.job, file.records, pictures)
    print(row.id)
    return 0


def _care(args: argparse.Namespace) -> int:
    from rugged_shield.store.care import check
    from rugged_shield.store.copies import backup, restore
    from rugged_shield.store.database import default_folder

    folder = args.data or default_folder()
    if args.command == "check":
        found = check(folder)
        print("\n".join(found) if found else "The database is sound.")
        return 1 if found else 0
    if args.command == "backup":
        backup(folder, args.file, args.overwrite)
        print(f"Saved and verified: {args.file}")
        return 0
    kept = restore(folder, args.file)
    print("Restored." + (f" What was there is kept as {kept}." if kept else ""))
    return 0


def _openapi() -> int:
    from rugged_shield.web.api import openapi
    from rugged_shield.web.app import create_app as _registers_routes  # noqa: F401

    print(json.dumps(openapi(), indent=1, ensure_ascii=False))
    return 0


_PORT = f"port to listen at (default {DEFAULT_PORT}; 0: any that is free)"
_JSON_IN = "its input as JSON (default: standard input)"


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="shield", description="Rugged Shield")
    parser.add_argument("--version", action="version", version=f"Rugged Shield {__version__}")
    commands = parser.add_subparsers(dest="command", required=True)
    for name, words in (("demo", "serve the demo data"), ("serve", "serve your own data")):
        sub = commands.add_parser(name, help=words)
        sub.add_argument("--data", type=Path, help="data folder (default: the platform's)")
        sub.add_argument("--port", type=int, default=DEFAULT_PORT, help=_PORT)
        sub.add_argument("--host", default="127.0.0.1", help="address to bind (default loopback)")
        sub.add_argument(
            "--lan",
            nargs="?",
            const="",
            metavar="ADDRESS",
            help="let phones in on the garage's network, each by a code (default: off)",
        )
        sub.add_argument("--cert", type=Path, help="certificate for --lan, PEM")
        sub.add_argument("--key", type=Path, help="its key, PEM")
        sub.add_argument(
            "--instrument",
            action="append",
            default=[],
            metavar="KIND=URL",
            help="scale, calliper or wrench on a pyserial URL; may be given several times",
        )
    simulated = commands.add_parser("instruments", help="run the simulated instruments")
    simulated.add_argument("--port", type=int, default=0, help="first of three ports")
    calc = commands.add_parser("calc", help="run one computation: JSON in, JSON out")
    calc.add_argument("name", nargs="?", help="which one; none: all their names")
    calc.add_argument("file", nargs="?", default="-", help=_JSON_IN)
    calc.add_argument("--list", action="store_true", help="all names")
    calc.add_argument("--schema", action="store_true", help="the JSON Schema of its input")
    calc.add_argument("--example", action="store_true", help="an input that it answers")
    whole = commands.add_parser("assess", help="judge a whole job file: JSON out")
    whole.add_argument("file", nargs="?", default="-", help="job file (default: standard input)")
    whole.add_argument("--quick", action="store_true", help="without strikes")
    out = commands.add_parser("export", help="write a job file; as FILE.zip with its photos")
    out.add_argument("job", help="id of a job, or “schema” for the JSON Schema of job files")
    out.add_argument("file", nargs="?", default="-", help="where to (default: standard output)")
    out.add_argument("--raw", action="store_true", help="as it is stored, readable or not")
    back = commands.add_parser("import", help="read a job file or its zip; prints the new job's id")
    back.add_argument("file", help="a job file, or a zip with its photos")
    saved = commands.add_parser("backup", help="a verified copy of the database, also while in use")
    saved.add_argument("file", type=Path, help="where the copy goes")
    saved.add_argument("--overwrite", action="store_true", help="replace a file that is there")
    again = commands.add_parser("restore", help="put a backup in place; keeps what was there")
    again.add_argument("file", type=Path, help="a backup")
    sound = commands.add_parser("check", help="look whether the database is sound")
    for sub in (out, back, saved, again, sound):
        sub.add_argument("--data", type=Path, help="data folder (default: the platform's)")
    commands.add_parser("openapi", help="print the OpenAPI document")
    return parser


def main(argv: list[str] | None = None) -> int:
    """Entry point of ``shield``: trouble with the store is said plainly, with exit 3."""
    collect_seldom()
    args = _parser().parse_args(argv)
    try:
        return _carry_out(args)
    except BrokenPipeError:
        # Whoever read us has seen enough (“| head”): end quietly, and keep the interpreter
        # from flushing into the closed pipe once more.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0


def _carry_out(args: argparse.Namespace) -> int:
    if args.command in ("calc", "assess"):
        done = _calc(args) if args.command == "calc" else _assess(args)
        sys.stdout.flush()
        return done
    from sqlalchemy.exc import DBAPIError

    from rugged_shield.core.amounts import in_system
    from rugged_shield.core.errors import InputError
    from rugged_shield.store.care import plain_words
    from rugged_shield.store.database import StoreTroubleError

    try:
        return _run(args)
    except InputError as error:
        print(in_system(f"{error.message}: {error.remedy}"), file=sys.stderr)
        return 2
    except (StoreTroubleError, DBAPIError, OSError) as error:
        trouble = error if isinstance(error, StoreTroubleError) else plain_words(error)
        print(f"{trouble.message} {trouble.remedy}", file=sys.stderr)
        return 3


def _run(args: argparse.Namespace) -> int:
    plain = {
        "openapi": lambda _: _openapi(),
        "export": _export,
        "import": _import,
        "backup": _care,
        "restore": _care,
        "check": _care,
    }
    if args.command in plain:
        return plain[args.command](args)
    from rugged_shield.store.database import default_folder

    if args.command == "instruments":
        return _instruments(args.port)
    is_demo = args.command == "demo"
    folder = args.data or (default_folder() / "demo" if is_demo else default_folder())
    from rugged_shield.serve import serve

    return serve(folder, args, is_demo)


if __name__ == "__main__":
    sys.exit(main())
