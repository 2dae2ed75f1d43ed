"""Bringing the database to this version: after a copy was kept and checked; never one that a newer version wrote."""

import contextlib
from collections.abc import Iterable
from datetime import datetime
from pathlib import Path

from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.loader import MigrationLoader

from lodeline import __version__
from lodeline.site.backups import backup, check, opened

_OURS = ("logbook", "accounts")


class NewerData(Exception):
    """Data of a newer version; the message is one line."""


def _refuse_newer(applied: Iterable[tuple[str, str]], loader: MigrationLoader) -> None:
    unknown = sorted(
        f"{app}.{name}" for app, name in applied if app in _OURS and (app, name) not in loader.disk_migrations
    )
    if unknown:
        raise NewerData(
            f"This data was written by a newer Lodeline than this one ({__version__}): it has {', '.join(unknown)}. "
            "Start that version, or restore a back-up that was made before the upgrade."
        )


def check_copy(path: Path) -> None:
    """Look through a copy before it is put in the place of the database.

    Raises
    ------
    NoCopy
        It is not sound.
    NewerData
        It was written by a newer version.
    """
    check(path)
    with contextlib.closing(opened(path)) as copy:
        applied = list(copy.execute("select app, name from django_migrations"))
    _refuse_newer(applied, MigrationLoader(None))


def bring_up(copy: Path) -> None:
    """Bring a copy that nobody uses to this version."""
    named = connection.settings_dict["NAME"]
    connection.close()
    connection.settings_dict["NAME"] = copy
    try:
        call_command("migrate", verbosity=0, interactive=False)
    finally:
        connection.close()
        connection.settings_dict["NAME"] = named


def upgrade(database: Path) -> Path | None:
    """Bring the database to this version. Returns the copy that was kept first, where there was something to keep.

    Raises
    ------
    NewerData
        It was written by a newer version.
    NoCopy
        No copy could be kept; nothing was changed.
    """
    was_there = database.exists() and database.stat().st_size > 0
    executor = MigrationExecutor(connection)
    _refuse_newer(executor.loader.applied_migrations, executor.loader)
    if not executor.migration_plan(executor.loader.graph.leaf_nodes()):
        return None
    kept = None
    if was_there:
        folder = database.parent / "backups"
        folder.mkdir(mode=0o700, exist_ok=True)
        kept = folder / f"before-{__version__}-{datetime.now():%Y%m%dT%H%M%S}.sqlite3"  # noqa: DTZ005
        connection.close()
        backup(database, kept)
    call_command("migrate", verbosity=0, interactive=False)
    return kept
