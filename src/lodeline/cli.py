"""The commands behind ``./lodeline`` that need the Python environment."""

import gc
import os
import sys
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import socket

# How the server stands. What was begun is finished within its time, as the watchdog gives it.
GUNICORN = (
    "--worker-class",
    "lodeline.site.worker.Worker",
    "--workers",
    "2",
    "--threads",
    "4",
    "--log-level",
    "warning",
    "--timeout",
    "60",
    "--graceful-timeout",
    "12",
    "--no-control-socket",
    "--preload",
)
# How long a port is waited for that another holds: an older server that is ending.
_PORT_S, _MOMENT_S = 20.0, 0.05
_OF_FILES = ("forecast", "plan", "stay")
# Without those that are taken for each other.
_CODE_LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789"


def _django() -> None:
    import django

    from lodeline.site.logs import LEVELS, level

    if level() not in LEVELS:
        sys.exit(f"lodeline: LODELINE_LOG is {level()}; it has to be one of {', '.join(LEVELS)}.")
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lodeline.site.settings")
    django.setup()


def _migrate() -> None:
    from lodeline.site.data import DATABASE, data_folder
    from lodeline.site.upgrade import upgrade

    kept = upgrade(data_folder() / DATABASE)
    if kept is not None:
        print(f"The data was brought to this version. What stood before is kept in {kept}.", file=sys.stderr)


def _lan_address() -> str:
    """This machine's address on its network, found without sending anything."""
    import socket

    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("192.0.2.1", 9))
            return str(probe.getsockname()[0])
        except OSError:
            return "127.0.0.1"


def _claim() -> str:
    """The code with which the first account is made, so that it is made by whoever sees this terminal."""
    from secrets import choice

    from django.contrib.auth.models import User

    if User.objects.exists():
        return ""
    letters = [choice(_CODE_LETTERS) for _ in range(8)]
    os.environ["LODELINE_CLAIM"] = code = "".join(letters[:4]) + "-" + "".join(letters[4:])
    return code


def _announce(host: str, port: int, lan: bool, code: str) -> None:
    print(f"Lodeline is at http://127.0.0.1:{port}  (Ctrl+C ends it)")
    if lan:
        import segno

        address = f"http://{host}:{port}"
        print(f"From a phone on the same network: {address}")
        segno.make(address).terminal(compact=True)
    if code:
        print(f"The first account is made with this code: {code}")
    sys.stdout.flush()


def serve(port: int, lan: bool, demo: bool) -> int:
    """Migrate, load the demo where asked, and serve with gunicorn."""
    host = _lan_address() if lan else "127.0.0.1"
    if lan:
        os.environ["LODELINE_HOSTS"] = ",".join(filter(None, [os.environ.get("LODELINE_HOSTS", ""), host]))
    _django()
    _migrate()
    from django.contrib.sessions.backends.db import SessionStore

    from lodeline.logbook.services import chunks
    from lodeline.logbook.services.shared import forget_other_versions

    SessionStore.clear_expired()
    forget_other_versions()
    chunks.finish()
    if demo:
        from lodeline.demo.load import load_demo

        load_demo()
    code = _claim() if lan and not demo else ""
    listening = _listening("0.0.0.0" if lan else "127.0.0.1", port)
    _announce(host, port, lan, code)
    _stand(listening.detach())
    return 0


def _listening(address: str, port: int) -> "socket.socket":
    """A socket at the port; where another program holds it, waited for.

    Raises
    ------
    OSError
        It is not given free.
    """
    import errno
    import socket
    from time import monotonic, sleep

    until, said = monotonic() + _PORT_S, False
    while True:
        try:
            return socket.create_server((address, port), backlog=1024)
        except OSError as error:
            if error.errno != errno.EADDRINUSE:
                raise
            if monotonic() > until:
                raise OSError(f"Another program holds port {port}. End it, or choose another with --port") from None
        if not said:
            print(f"Port {port} is taken; waiting up to {_PORT_S:.0f} s for it.", file=sys.stderr, flush=True)
            said = True
        sleep(_MOMENT_S)


def _stand(socket_number: int) -> None:
    """Serve on a socket, in this process: what it has loaded need not be loaded again."""
    from django.db import connections
    from gunicorn.app.wsgiapp import WSGIApplication

    connections.close_all()
    sys.argv = ["gunicorn", "lodeline.site.wsgi:application", "--bind", f"fd://{socket_number}", *GUNICORN]
    code: object = 0
    try:
        WSGIApplication("%(prog)s [OPTIONS] [APP_MODULE]", prog="gunicorn").run()
    except SystemExit as ended:
        code = ended.code
    # master and workers: taking all that was loaded apart would take a second
    sys.stdout.flush()
    sys.stderr.flush()
    os._exit(code if isinstance(code, int) else int(code is not None))


def _account(argv: list[str]) -> int:
    import getpass

    if len(argv) != 1:
        print("usage: ./lodeline account NAME", file=sys.stderr)
        return 2
    _django()
    _migrate()
    from django.contrib.auth.models import User

    from lodeline.accounts.names import as_kept, check_password, new_account
    from lodeline.core.errors import Refused
    from lodeline.text.problems import problem

    password = getpass.getpass("Password: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
    user = User.objects.filter(username=as_kept(argv[0])).first()
    try:
        if user is None:
            new_account(argv[0], password)
        else:
            check_password(password, user, "password")
            user.set_password(password)
            user.save()
    except Refused as refused:
        print(f"{refused.place}: {problem(refused.problem)}", file=sys.stderr)
        return 1
    print(f"Account {argv[0]} {'has a new password' if user else 'made'}.")
    return 0


def _backup(argv: list[str]) -> int:
    """Copy the database safely while it is in use, to a file."""
    from lodeline.site.backups import backup
    from lodeline.site.data import DATABASE, data_folder

    if len(argv) != 1:
        print("usage: ./lodeline backup FILE", file=sys.stderr)
        return 2
    backup(data_folder() / DATABASE, Path(argv[0]))
    print(f"Kept {argv[0]}.")
    return 0


def _restore(argv: list[str]) -> int:
    """Put a back-up in the place of the database; what stood there is kept beside it."""
    from lodeline.site.backups import restore
    from lodeline.site.data import DATABASE, data_folder

    if len(argv) != 1:
        print("usage: ./lodeline restore FILE", file=sys.stderr)
        return 2
    _django()
    from lodeline.site.upgrade import bring_up, check_copy

    check_copy(Path(argv[0]))
    kept = restore(Path(argv[0]), data_folder() / DATABASE, bring_up)
    if kept is not None:
        print(f"What stood before is kept in {kept}.")
    from lodeline.logbook.services.shared import forget

    forget()
    print(f"Restored from {argv[0]}.")
    return 0


def _export(argv: list[str]) -> int:
    if len(argv) != 2 or not argv[0].isdigit():
        print("usage: ./lodeline export RIG FILE", file=sys.stderr)
        return 2
    _django()
    _migrate()
    from lodeline.logbook.models import Rig
    from lodeline.logbook.services import transfer

    rig = Rig.objects.filter(pk=int(argv[0]), aside="").first()
    if rig is None:
        known = ", ".join(f"{each.pk} {each.name}" for each in Rig.objects.filter(aside="").order_by("pk")) or "none"
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
        rig = transfer.import_new(read_logbook(data).doc, by=user, also=lambda rig: grant(user, rig, "owner"))
    except Refused as problem:
        print(f"{argv[0]}: {refusal(problem.place, problem.problem)}", file=sys.stderr)
        return 2
    print(f"Rig {rig.pk}, {rig.name}, now belongs to {user.username}.")
    return 0


_DERIVE = "usage: ./lodeline derive --all [--scheduler tcp://HOST:PORT]"


def _derive(argv: list[str]) -> int:
    """Bring every rig up to date: on this machine's cores, or on the cluster whose scheduler is named."""
    if argv[:1] != ["--all"] or (argv[1:] and (len(argv) != 3 or argv[1] != "--scheduler")):
        print(_DERIVE, file=sys.stderr)
        return 2
    _django()
    _migrate()
    from time import monotonic

    from lodeline.logbook.services import everybody
    from lodeline.logbook.services.shared import forget_other_versions

    forget_other_versions()
    began = monotonic()

    def tell(done: int, of: int) -> None:
        print(f"\r{done} of {of} rigs", end="", file=sys.stderr, flush=True)

    try:
        with everybody.cluster(argv[2]) if argv[1:] else everybody.local() as executor:
            done = everybody.bring_up_to_date(executor, tell if sys.stderr.isatty() else lambda done, of: None)
    except everybody.NoCluster as error:
        print(f"lodeline: {error}", file=sys.stderr)
        return 1
    if sys.stderr.isatty():
        print(file=sys.stderr)
    for rig in done.failed:
        print(f"lodeline: rig {rig} could not be derived; the lines above say why.", file=sys.stderr)
    took = f"in {monotonic() - began:.1f} s"
    print(f"{done.rigs} rigs: {done.derived} derived, {done.up_to_date} up to date already, {took}.")
    return 1 if done.failed else 0


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


def _of_files(argv: list[str]) -> int:
    """Commands that read files alone: nothing of the server is loaded for them, and no litter looked for meanwhile."""
    gc.disable()
    if argv[0] == "forecast":
        from lodeline.formats.command import main as forecast_main

        run = forecast_main
    else:
        from lodeline.formats.stops_commands import plan_main, stay_main

        run = plan_main if argv[0] == "plan" else stay_main
    gc.freeze()
    gc.enable()
    try:
        return run(argv[1:])
    except OSError as error:
        print(f"lodeline: {error}.", file=sys.stderr)
        return 1


def _run(argv: list[str]) -> int:
    command, rest = argv[0], argv[1:]
    if command in ("demo", "serve"):
        return serve(_port(rest), "--lan" in rest, command == "demo")
    commands = {
        "account": _account,
        "backup": _backup,
        "restore": _restore,
        "export": _export,
        "import": _import,
        "derive": _derive,
    }
    if command in commands:
        return commands[command](rest)
    if command == "generate":
        return _generate(rest)
    print(f"lodeline: no command {command}", file=sys.stderr)
    return 2


def main(argv: list[str]) -> int:
    """Run one command; the first word names it. What is wrong with disk or data is said in one line."""
    if argv[0] in _OF_FILES:
        return _of_files(argv)
    if argv[0] in ("demo", "serve"):
        gc.disable()  # until it serves
    from django.db import DatabaseError

    from lodeline.logbook.services.storage import fault_of
    from lodeline.site.backups import NoCopy
    from lodeline.site.data import close_to_others, data_folder
    from lodeline.site.upgrade import NewerData
    from lodeline.text import answers

    os.umask(0o077)
    if argv[0] == "demo":
        os.environ["LODELINE_DEMO"] = "1"
    elif argv[0] == "serve":
        os.environ.pop("LODELINE_DEMO", None)  # the demo's door is not one to somebody's own data
    try:
        if argv[0] != "generate":
            close_to_others(data_folder())
        return _run(argv)
    except (NoCopy, NewerData) as error:
        print(f"lodeline: {error}", file=sys.stderr)
    except (DatabaseError, OSError) as error:
        fault = fault_of(error)
        if fault is None and not isinstance(error, OSError):
            raise
        said = f"{answers.storage_line(fault)} ({error})" if fault else f"{error}."
        print(f"lodeline: {said}", file=sys.stderr)
    return 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
