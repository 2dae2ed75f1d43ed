"""``lodeline forecast FILE...``: one JSON line a file; refused files on standard error and exit status 2."""

import argparse
import sys
from collections.abc import Callable
from datetime import datetime, time
from functools import partial
from pathlib import Path

from lodeline.core.errors import Refused
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.known import Known
from lodeline.core.fuel.lines import live
from lodeline.core.levers.agreed import agreed_forecast
from lodeline.core.problems import FileUnreadable, Plain
from lodeline.core.tracking.track import track
from lodeline.formats.document import YEARS
from lodeline.formats.forecast_line import forecast_line
from lodeline.formats.in_parallel import in_parallel
from lodeline.formats.logbook import Logbook, read_logbook
from lodeline.text.problems import problem

# When nothing was logged on the last day, it is looked at in the evening.
_EVENING = time(20)


def _parse(argv: list[str]) -> argparse.Namespace:
    most = Forecasting.most_horizon_days
    parser = argparse.ArgumentParser(prog="lodeline forecast", description=__doc__)
    parser.add_argument("files", nargs="+", metavar="FILE")
    parser.add_argument("--at", help="time of the forecast, ISO 8601 (default: the latest reading or event)")
    parser.add_argument(
        "--days", type=int, default=Forecasting.horizon_days, help=f"length of the horizon in days, 1 to {most}"
    )
    parser.add_argument("--seed", type=int, default=1)
    options = parser.parse_args(argv)
    if not 1 <= options.days <= most:
        parser.error(f"--days must lie between 1 and {most}")
    if options.seed < 0:
        parser.error("--seed must not be negative")
    options.at = time_option(parser, "--at", options.at)
    return options


def time_option(parser: argparse.ArgumentParser, name: str, text: str | None) -> datetime | None:
    """A time that was given with an option."""
    if not text:
        return None
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        parser.error(f"{name}: {text} is not a time such as 2026-09-04T20:15:00+01:00")
    if at.year not in YEARS:
        parser.error(f"{name}: the year must lie between {YEARS[0]} and {YEARS[-1]}")
    return at


def moment(book: Logbook, at: datetime | None) -> datetime:
    """When a file is looked at: the time that was asked for, else its latest reading or event, or the end
    of a later day of which totals were written down."""
    zone = book.rig.zone
    if at is not None:
        return at if at.tzinfo else zone.instant(at.date(), at.time())
    latest, total = book.log.latest(), book.log.latest_total()
    if total is not None and (latest is None or zone.date(latest) < total):
        return zone.bounds(total)[1]
    if latest is not None:
        return latest
    if book.log.days:
        return zone.instant(book.log.days[-1].date, _EVENING)
    raise Refused("days", Plain.NOTHING_LOGGED)


def known_of(book: Logbook, at: datetime | None) -> Known:
    """What a file tells at a time, with the lines that hold then."""
    now = moment(book, at)
    return live(
        Known(
            rig=book.rig,
            log=book.log,
            now=now,
            tracked=track(book.rig, book.log, now),
            outlook=book.outlook,
            book=book.book,
            agreed=book.agreed,
        )
    )


def _read(path: str) -> Logbook:
    try:
        data = Path(path).read_bytes()
    except OSError as error:
        raise Refused("file", FileUnreadable(error.strerror or "no reason given")) from None
    return read_logbook(data)


def _told(line: Callable[[str, Logbook], str], path: str) -> tuple[str, bool]:
    """A file's line, or why it is refused, and whether it is not."""
    try:
        return line(path, _read(path)), True
    except Refused as error:
        return f"{path}: {error.place or 'file'}: {problem(error.problem)}", False


def each_file(paths: list[str], line: Callable[[str, Logbook], str]) -> int:
    """Print a line for each file, or why it is refused; returns the exit status. Many files are shared out among the
    machine's cores, and told in their order all the same."""
    status = 0
    for text, is_told in in_parallel(partial(_told, line), paths):
        print(text, file=sys.stdout if is_told else sys.stderr, flush=True)
        status = status if is_told else 2
    return status


def main(argv: list[str]) -> int:
    """Run the command; returns the exit status. A file's numbers are in base units, and so is what is said of them."""
    options = _parse(argv)

    def line(path: str, book: Logbook) -> str:
        known = known_of(book, options.at)
        return forecast_line(path, book.rig, agreed_forecast(known, options.days, options.seed))

    return each_file(options.files, line)
