"""``lodeline forecast FILE...``: one JSON line a file; refused files on standard error and exit status 2."""

import argparse
import sys
from datetime import datetime, time, timedelta
from pathlib import Path
from zoneinfo import ZoneInfo

from lodeline.core.errors import Refused
from lodeline.core.forecast.forecast import forecast
from lodeline.core.log import Log
from lodeline.core.rig import Rig
from lodeline.formats.forecast_line import forecast_line
from lodeline.formats.logbook import read_logbook


def _parse(argv: list[str]) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="lodeline forecast", description=__doc__)
    parser.add_argument("files", nargs="+", metavar="FILE")
    parser.add_argument("--at", help="time of the forecast, ISO 8601 (default: the latest reading or event)")
    parser.add_argument("--days", type=int, default=14, help="length of the horizon in days, 1 to 60")
    parser.add_argument("--seed", type=int, default=1)
    options = parser.parse_args(argv)
    if not 1 <= options.days <= 60:
        parser.error("--days must lie between 1 and 60")
    if options.seed < 0:
        parser.error("--seed must not be negative")
    if options.at:
        try:
            options.at = datetime.fromisoformat(options.at)
        except ValueError:
            parser.error(f"--at: {options.at} is not a time such as 2026-09-04T20:15:00+01:00")
    return options


def _now(rig: Rig, log: Log, at: datetime | None) -> datetime:
    if at is not None:
        return at if at.tzinfo else at.replace(tzinfo=ZoneInfo(rig.timezone))
    latest = log.latest()
    if latest is not None:
        return latest
    if log.days:
        return datetime.combine(log.days[-1].date, time(20), tzinfo=ZoneInfo(rig.timezone)) + timedelta(0)
    raise Refused("days", "nothing is logged, so the time of the forecast must be given with --at")


def _one(path: str, options: argparse.Namespace) -> str:
    try:
        data = Path(path).read_bytes()
    except OSError as error:
        raise Refused("file", f"cannot be read ({error.strerror})") from None
    rig, log, outlook = read_logbook(data)
    found = forecast(rig, log, outlook, _now(rig, log, options.at), options.seed, options.days)
    return forecast_line(path, rig, found)


def main(argv: list[str]) -> int:
    """Run the command; returns the exit status."""
    options = _parse(argv)
    status = 0
    for path in options.files:
        try:
            print(_one(path, options), flush=True)
        except Refused as problem:
            print(f"{path}: {problem.place or 'file'}: {problem.problem}", file=sys.stderr)
            status = 2
    return status
