"""An older copy restored while four clients write: what was acknowledged is in the database or in what it replaced."""

import sqlite3
import subprocess
import sys
import tempfile
import time
from contextlib import closing
from pathlib import Path
from uuid import UUID

from bench.safety.kills import WRITERS, Killable, Writer
from bench.safety.table import Row
from bench.server_speed import Browser

RESTORES = 6
_BETWEEN_S = 1.5


def _command(server: Killable, *words: str) -> None:
    subprocess.run(
        [sys.executable, "-m", "lodeline.cli", *words], env=server.environment, check=True, capture_output=True
    )


def _names(path: Path) -> set[str]:
    with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True)) as base:
        return {str(UUID(each)) for (each,) in base.execute("select uuid from logbook_reading")}


def rows(restores: int = RESTORES) -> list[Row]:
    """What is left after so many."""
    with tempfile.TemporaryDirectory(prefix="lodeline-") as folder:
        server = Killable(Path(folder))
        server.start(first=True)
        rig = Browser(server.address).call("GET", "/api/account/me")["rigs"][0]["id"]
        writers = [Writer(server, n, rig) for n in range(WRITERS)]
        for each in writers:
            each.start()
        took = []
        for n in range(restores):
            copy = Path(folder) / f"copy-{n}.sqlite3"
            _command(server, "backup", str(copy))
            time.sleep(_BETWEEN_S)
            began = time.monotonic()
            _command(server, "restore", str(copy))
            took.append(time.monotonic() - began)
        time.sleep(_BETWEEN_S)
        for each in writers:
            each.ended = True
        for each in writers:
            each.join(60)
        server.kill()
        found = [*Path(folder).glob("before-restore-*.sqlite3"), Path(folder) / "lodeline.sqlite3"]
        kept = set().union(*(_names(path) for path in found))
    acknowledged = [id for each in writers for id in each.ids]
    lost = sum(id not in kept for id in acknowledged)
    said = f"{len(acknowledged)} acknowledged writes: {lost} in no file; a restore took at most {max(took):.1f} s"
    return [Row(f"{restores} restores while {WRITERS} write", said, not lost and len(acknowledged) > restores)]


if __name__ == "__main__":
    for row in rows():
        print("holds" if row.holds else "FAILS", "|", row.test, "|", row.outcome)
