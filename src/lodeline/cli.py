"""The commands behind ``./lodeline`` that need the Python environment."""

import os
import sys
from pathlib import Path

# How the server stands, whoever starts it.
GUNICORN = (
    "--worker-class", "lodeline.site.worker.Worker", "--workers", "2", "--threads", "4", "--log-level", "warning",
    "--timeout", "60", "--no-control-socket",
)  # fmt: skip


def _django() -> None:
    import django

    from lodeline.site.logs import LEVELS, level

    if level() not in LEVELS:
        sys.exit(f"lodeline: LODELINE_LOG is {level()}; it has to be one of {', '.join(LEVELS)}.")
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lodeline.site.settings")
    django.setup()


def _migrate() -> None:
    from django.core.management import call_command

    call_command("migrate", verbosity=0, interactive=False)


def _lan_address() -> str:
    """This machine's address on its network, found without sending anything."""
    import socket

    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("192.0.2.1", 9))
            return str(probe.getsockname()[0])
        except OSError:
            return "127.0.0.1"


def _announce(host: str, port: int, lan: bool) -> None:
    print(f"Lodeline is at http://127.0.0.1:{port}  (Ctrl+C ends it)")
    if lan:
        import segno

        address = f"http://{host}:{port}"
        print(f"From a phone on the same network: {address}")
        segno.make(address).terminal(compact=True)
    sys.stdout.flush()


def serve(port: int, lan: bool, demo: bool) -> int:
    """Migrate, load the demo where asked, and serve with gunicorn."""
    if demo:
        os.environ["LODELINE_DEMO"] = "1"
    host = _lan_address() if lan else "127.0.0.1"
    if lan:
        os.environ["LODELINE_HOSTS"] = ",".join(filter(None, [os.environ.get("LODELINE_HOSTS", ""), host]))
    _django()
    _migrate()
    from lodeline.logbook.services.derived import forget

    forget()  # what another version, or another database in this place, derived
    if demo:
        from lodeline.demo.load import load_demo

        load_demo()
    _announce(host, port, lan)
    command = [
        sys.executable, "-m", "gunicorn", "lodeline.site.wsgi:application", "--bind",
        f"{'0.0.0.0' if lan else '127.0.0.1'}:{port}", *GUNICORN,
    ]  # fmt: skip
    os.execv(sys.executable, command)


def _account(argv: list[str]) -> int:
    import getpass

    if len(argv) != 1:
        print("usage: ./lodeline account NAME", file=sys.stderr)
        return 2
    _django()
    _migrate()
    from django.contrib.auth import password_validation
    from django.contrib.auth.models import User
    from django.core.exceptions import ValidationError

    password = getpass.getpass("Password: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
    try:
        password_validation.validate_password(password)
    except ValidationError as error:
        print(" ".join(error.messages), file=sys.stderr)
        return 1
    user, made = User.objects.get_or_create(username=argv[0])
    user.set_password(password)
    user.save()
    print(f"Account {argv[0]} {'made' if made else 'has a new password'}.")
    return 0


def _backup(argv: list[str]) -> int:
    """Copy the database safely while it is in use, to a file."""
    import sqlite3

    from lodeline.site.data import data_folder

    source = data_folder() / "lodeline.sqlite3"
    if len(argv) != 1:
        print("usage: ./lodeline backup FILE", file=sys.stderr)
        return 2
    if not source.exists():
        print(f"There is nothing to keep yet: {source} does not exist.", file=sys.stderr)
        return 1
    target = Path(argv[0])
    if target.exists():
        print(f"{target} exists already; choose another name.", file=sys.stderr)
        return 1
    try:
        with sqlite3.connect(source) as here, sqlite3.connect(target) as there:
            here.backup(there)
        target.chmod(0o600)
    except (sqlite3.Error, OSError) as error:
        print(f"{target} cannot be written: {error}.", file=sys.stderr)
        return 1
    print(f"Kept {target}.")
    return 0


def _restore(argv: list[str]) -> int:
    """Put a back-up in the place of the database; what stood there is kept beside it."""
    import sqlite3
    from datetime import datetime

    from lodeline.site.data import data_folder

    if len(argv) != 1:
        print("usage: ./lodeline restore FILE", file=sys.stderr)
        return 2
    source, target = Path(argv[0]), data_folder() / "lodeline.sqlite3"
    try:
        with sqlite3.connect(f"file:{source}?mode=ro", uri=True) as here:
            here.execute("select count(*) from logbook_rig").fetchone()
            if here.execute("pragma quick_check").fetchone()[0] != "ok":
                raise sqlite3.DatabaseError("it is damaged")
    except sqlite3.Error as error:
        print(f"{source} is not a Lodeline back-up: {error}.", file=sys.stderr)
        return 1
    if target.exists():
        kept = target.with_name(f"before-restore-{datetime.now():%Y%m%dT%H%M%S}.sqlite3")  # noqa: DTZ005
        with sqlite3.connect(target) as old, sqlite3.connect(kept) as copy:
            old.backup(copy)
        print(f"What stood before is kept in {kept}.")
    with sqlite3.connect(f"file:{source}?mode=ro", uri=True) as here, sqlite3.connect(target) as there:
        here.backup(there)
    _django()
    _migrate()
    print(f"Restored from {source}. Start Lodeline again if it was running.")
    return 0


def _export(argv: list[str]) -> int:
    if len(argv) != 2 or not argv[0].isdigit():
        print("usage: ./lodeline export RIG FILE", file=sys.stderr)
        return 2
    _django()
    _migrate()
    from lodeline.logbook.models import Rig
    from lodeline.logbook.services import transfer

    rig = Rig.objects.filter(pk=int(argv[0])).first()
    if rig is None:
        known = ", ".join(f"{each.pk} {each.name}" for each in Rig.objects.order_by("pk")) or "none"
        print(f"There is no rig {argv[0]}; there are: {known}.", file=sys.stderr)
        return 1
    try:
        Path(argv[1]).write_bytes(transfer.export(rig))
    except OSError as error:
        print(f"{argv[1]} cannot be written: {error.strerror}.", file=sys.stderr)
        return 1
    print(f"Wrote {argv[1]}.")
    return 0


def _import(argv: list[str]) -> int:
    if len(argv) != 2:
        print("usage: ./lodeline import FILE ACCOUNT", file=sys.stderr)
        return 2
    try:
        data = Path(argv[0]).read_bytes()
    except OSError as error:
        print(f"{argv[0]} cannot be read: {error.strerror}.", file=sys.stderr)
        return 1
    _django()
    _migrate()
    from django.contrib.auth.models import User

    from lodeline.accounts.access import grant
    from lodeline.core.errors import Refused
    from lodeline.formats.logbook import read_logbook
    from lodeline.logbook.services import transfer
    from lodeline.text.problems import refusal

    user = User.objects.filter(username=argv[1]).first()
    if user is None:
        print(f"There is no account {argv[1]}; make it with ./lodeline account {argv[1]}", file=sys.stderr)
        return 1
    try:
        rig = transfer.import_new(read_logbook(data).doc, by=user)
    except Refused as problem:
        print(f"{argv[0]}: {refusal(problem.place, problem.problem)}", file=sys.stderr)
        return 2
    grant(user, rig, "owner")
    print(f"Rig {rig.pk}, {rig.name}, now belongs to {user.username}.")
    return 0


def _port(argv: list[str]) -> int:
    if "--port" in argv:
        return int(argv[argv.index("--port") + 1])
    return 8000


def _generate(argv: list[str]) -> int:
    if argv not in ([], ["--check"]):
        print("usage: ./lodeline generate [--check]", file=sys.stderr)
        return 2
    _django()
    from lodeline import generate

    return generate.run(check=bool(argv))


def main(argv: list[str]) -> int:
    """Run one command; the first word names it."""
    command, rest = argv[0], argv[1:]
    if command == "forecast":
        from lodeline.formats.command import main as forecast_main

        return forecast_main(rest)
    if command in ("demo", "serve"):
        return serve(_port(rest), "--lan" in rest, command == "demo")
    commands = {"account": _account, "backup": _backup, "restore": _restore, "export": _export, "import": _import}
    if command in commands:
        return commands[command](rest)
    if command == "generate":
        return _generate(rest)
    print(f"lodeline: no command {command}", file=sys.stderr)
    return 2


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
