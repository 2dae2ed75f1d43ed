"""``lodeline plan FILE...`` and ``lodeline stay FILE...``: one JSON line a file; refused files end with status 2."""

import argparse

from lodeline.core.errors import Refused
from lodeline.core.figures import Stops
from lodeline.core.forecast.stop import next_stop
from lodeline.core.levers.agreed import agreed_forecast, all_together
from lodeline.core.levers.stay import stay
from lodeline.core.problems import StartTooFar, UntilOutOfRange
from lodeline.core.stops.plan import Wanted
from lodeline.core.stops.planner import plan
from lodeline.core.zone import HOURS
from lodeline.formats.command import each_file, known_of, time_option
from lodeline.formats.logbook import Logbook
from lodeline.formats.plan_line import plan_line, stay_line


def _share(text: str) -> float:
    value = float(text)
    if not 0 < value < 1:
        raise argparse.ArgumentTypeError("must lie between 0 and 1")
    return value


def _parser(name: str) -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog=f"lodeline {name}", description=__doc__)
    parser.add_argument("files", nargs="+", metavar="FILE")
    parser.add_argument("--risk", type=_share, help="chance of passing a line that is accepted (default: the file's)")
    parser.add_argument("--at", help="time of the forecast, ISO 8601 (default: the latest reading or event)")
    parser.add_argument("--seed", type=int, default=1)
    return parser


def plan_main(argv: list[str]) -> int:
    """Run ``plan``; returns the exit status."""
    parser = _parser("plan")
    parser.add_argument("--days", type=int, default=Wanted().days, help=f"days to plan for, 1 to {Stops.most_days}")
    options = parser.parse_args(argv)
    if not 1 <= options.days <= Stops.most_days:
        parser.error(f"--days must lie between 1 and {Stops.most_days}")
    at = time_option(parser, "--at", options.at)

    def one(path: str, book: Logbook) -> str:
        known = known_of(book, at)
        together = all_together(known, options.seed, options.days)
        wanted = Wanted(days=options.days, risk=options.risk or book.rig.risk, wished=book.planned)
        found = plan(together.joint, book.book, wanted)
        needs = next_stop(agreed_forecast(known, options.days, options.seed))
        return plan_line(path, book.rig, found, needs, has_book=bool(book.book))

    return each_file(options.files, one)


def stay_main(argv: list[str]) -> int:
    """Run ``stay``; returns the exit status."""
    parser = _parser("stay")
    parser.add_argument("--until", required=True, help="end of the stay, ISO 8601")
    options = parser.parse_args(argv)
    at, until = (time_option(parser, name, value) for name, value in (("--at", options.at), ("--until", options.until)))
    assert until is not None

    def one(path: str, book: Logbook) -> str:
        known = known_of(book, at)
        end = until if until.tzinfo else book.rig.zone.instant(until.date(), until.time())
        days = (book.rig.zone.date(end) - book.rig.zone.date(known.now)).days + 1
        if end <= known.now:
            raise Refused("--until", StartTooFar(Stops.most_days * HOURS))
        if days > Stops.most_days:
            raise Refused("--until", UntilOutOfRange(Stops.most_days))
        together = all_together(known, options.seed, days)
        ahead = together.joint.ahead
        until_h = HOURS * (days - 1) + book.rig.zone.hour(book.rig.zone.date(end), end) - ahead.hour
        answer = stay(together.joint, together.levers, until_h, 1 - (options.risk or book.rig.risk))
        return stay_line(path, book.rig, end, answer)

    return each_file(options.files, one)
