"""Disk full and back, read-only, file damaged, newer data: what the API and the commands say, and that nothing is lost."""

import contextlib
import json
import os
import subprocess
import sys
import tempfile
import time
import urllib.error
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from uuid import uuid4

from bench.safety.table import Row
from bench.server import ROOT, free_port, serving
from bench.server_speed import NOW, Browser

_DISK, _SETTLES_S = "24m", 20


@contextlib.contextmanager
def _small_disk() -> Iterator[Path | None]:
    """A disk of its own in memory; None where this account may not make one."""
    with tempfile.TemporaryDirectory(prefix="lodeline-") as folder:
        made = subprocess.call(
            ["mount", "-t", "tmpfs", "-o", f"size={_DISK}", "tmpfs", folder], stderr=subprocess.DEVNULL
        )
        try:
            yield None if made else Path(folder)
        finally:
            if not made:
                subprocess.call(["umount", "-l", folder])


def command(data: Path, *words: str, typed: str = "") -> "subprocess.CompletedProcess[str]":
    """Run a command on the data of a folder."""
    environment = os.environ | {
        "LODELINE_DATA": str(data),
        "PYTHONPATH": str(ROOT / "src"),
        "LODELINE_NOW": NOW,
        "DJANGO_SETTINGS_MODULE": "lodeline.site.settings",
    }
    environment.pop("LODELINE_DEMO", None)
    line = [sys.executable, "-m", "lodeline.cli", *words]
    return subprocess.run(line, env=environment, input=typed, capture_output=True, text=True, timeout=120, check=False)


def _said(browser: Browser, method: str, path: str, body: Any = None) -> tuple[int, str]:
    """The status of an answer, and its sentence where it has the API's form for errors."""
    try:
        browser.ask(method, path, body)
    except urllib.error.HTTPError as error:
        text = error.read()
        with contextlib.suppress(ValueError):
            return error.code, str(json.loads(text)["problem"])
        return error.code, "not in the API's form: " + text.decode()[:40]
    return 200, ""


def _write(text: str) -> dict[str, Any]:
    return {"writes": [{"id": str(uuid4()), "add": {"reading": {"store": "grey", "text": text}}}]}


def _count(browser: Browser, rig: int) -> int:
    book = browser.call("GET", f"/api/rigs/{rig}/export")
    return sum(len(day.get("readings", [])) for day in book["days"])


VIEWS = ("horizon", "round", "energy", "log", "review", "gauges", "revision", "")


def _reads(browser: Browser, rig: int) -> list[int]:
    return [_said(browser, "GET", f"/api/rigs/{rig}/{view}".rstrip("/"))[0] for view in VIEWS]


def _full(data: Path, copies: Path) -> list[Row]:
    rows = []
    with serving("demo", data, NOW) as address:
        browser = Browser(address)
        rig = browser.call("GET", "/api/account/me")["rigs"][0]["id"]
        browser.patient("GET", f"/api/rigs/{rig}/horizon")
        before, filler = _count(browser, rig), data / "filler"
        kept = 0
        with filler.open("wb", buffering=0) as out, contextlib.suppress(OSError):
            while True:
                out.write(b"x" * 65536)
        statuses = []
        for n in range(40):  # the log's file may still have room for some
            status, sentence = _said(browser, "POST", f"/api/rigs/{rig}/writes", _write(f"{20 + n / 10} L"))
            kept += status == 200
            statuses.append(status)
            if status != 200:
                break
        reads = _reads(browser, rig)
        rows.append(
            Row("disk full: a write", f"{statuses[-1]}: {sentence}", statuses[-1] == 507 and "full" in sentence)
        )
        rows.append(Row("disk full: reads", str(sorted(set(reads))), set(reads) == {200}))
        copied = command(data, "backup", str(copies / "while full.sqlite3"))
        rows.append(
            Row(
                "disk full: a back-up to another disk",
                (copied.stdout + copied.stderr).strip()[:60],
                not copied.returncode,
            )
        )
        filler.unlink()
        status, _ = _said(browser, "POST", f"/api/rigs/{rig}/writes", _write("60 L"))
        after = _count(browser, rig)
        rows.append(
            Row(
                "and back: a write",
                f"{status}; {after - before - kept - 1} lost",
                status == 200 and after == before + kept + 1,
            )
        )
    return rows


def _read_only(disk: Path, data: Path) -> list[Row]:
    with serving("demo", data, NOW) as address:
        browser = Browser(address)
        rig = browser.call("GET", "/api/account/me")["rigs"][0]["id"]
        browser.patient("GET", f"/api/rigs/{rig}/horizon")
        end = time.monotonic() + _SETTLES_S
        while subprocess.call(["mount", "-o", "remount,ro", str(disk)], stderr=subprocess.DEVNULL):
            if time.monotonic() < end:  # the helper is still at work on it
                time.sleep(0.2)
                continue
            return [Row("read-only", "this disk could not be made read-only here", False)]
        status, sentence = _said(browser, "POST", f"/api/rigs/{rig}/writes", _write("61 L"))
        reads = _reads(browser, rig)
        line = command(data, "import", str(ROOT / "docs" / "example.logbook.json"), "demo")
        subprocess.call(["mount", "-o", "remount,rw", str(disk)])
        again, _ = _said(browser, "POST", f"/api/rigs/{rig}/writes", _write("62 L"))
    return [
        Row("read-only: a write", f"{status}: {sentence}", status == 503 and "may not write" in sentence),
        Row("read-only: reads", str(sorted(set(reads))), set(reads) == {200}),
        Row("read-only: the command line", line.stderr.strip(), line.returncode == 1 and line.stderr.count("\n") == 1),
        Row("writable again: a write", str(again), again == 200),
    ]


def _damaged(data: Path, copies: Path) -> list[Row]:
    base, copy = data / "lodeline.sqlite3", copies / "copy #1 ?50%.sqlite3"
    kept = command(data, "backup", str(copy))
    with base.open("r+b") as file:
        file.write(b"\xff" * 4096)
    line = command(data, "export", "1", str(copies / "out.json"))
    served = command(data, "serve", "--port", str(free_port()))
    restored = command(data, "restore", str(copy))
    with serving("demo", data, NOW) as address:
        browser = Browser(address)
        count = _count(browser, browser.call("GET", "/api/account/me")["rigs"][0]["id"])
    one_line = line.returncode == 1 and line.stderr.count("\n") == 1
    return [
        Row(
            "file damaged: a command",
            line.stderr.strip(),
            one_line and served.returncode == 1 and served.stderr.count("\n") == 1,
        ),
        Row(
            "restore over it, from 'copy #1 ?50%'",
            restored.stderr.strip() or f"restored, {count} readings",
            not kept.returncode and not restored.returncode and count > 0,
        ),
    ]


def _newer(data: Path) -> list[Row]:
    import sqlite3

    with contextlib.closing(sqlite3.connect(data / "lodeline.sqlite3")) as base:
        base.execute(
            "insert into django_migrations (app, name, applied) values ('logbook', '9999_later', '2027-01-01')"
        )
        base.commit()
    line = command(data, "export", "1", str(data / "out.json"))
    return [
        Row(
            "older code on newer data",
            line.stderr.strip(),
            line.returncode == 1 and line.stderr.count("\n") == 1 and "newer" in line.stderr,
        )
    ]


def rows() -> list[Row]:
    """What each fault brings."""
    found = []
    with _small_disk() as disk, tempfile.TemporaryDirectory(prefix="lodeline-") as other:
        if disk is None:
            return [Row("disk full, read-only, damaged, newer", "needs an account that may mount a disk", False)]
        data = disk / "data"
        data.mkdir()
        found += _full(data, Path(other))
        found += _read_only(disk, data)
        found += _damaged(data, Path(other))
        found += _newer(data)
    return found


if __name__ == "__main__":
    for row in rows():
        print("holds" if row.holds else "FAILS", "|", row.test, "|", row.outcome)
