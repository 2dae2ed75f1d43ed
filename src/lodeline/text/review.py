"""Looking back in words: how often the ranges held, how a case turned out, how the spread follows."""

from typing import assert_never

from lodeline.core.figures import Forecasting
from lodeline.core.forecast.score import Issued, Judgement, Notice, Outcome, OutcomeKind, RecordSummary, held
from lodeline.core.forecast.seen import SeenSummary
from lodeline.text.display import counted
from lodeline.text.habits import figure
from lodeline.text.horizon import Sentence

_TENTHS = 10
_SAME = 0.02
NOTHING = "–"


def headline(readings: list[SeenSummary], record: RecordSummary) -> Sentence:
    """How readings lay in the ranges that were shown before them; then how often a line came when it was said to."""
    first = next((each for each in readings if each.n), None)
    if first is None or first.n < _ENOUGH:
        n = first.n if first else 0
        return Sentence(
            "Too little has come true to judge.",
            f"{counted(n, 'reading')} a day ahead so far. {_lines(record)}".strip(),
        )
    others = " ".join(seen(each) for each in readings if each.n and each is not first)
    return Sentence(seen(first), f"{others} {_lines(record)}".strip())


_ENOUGH = 5


def seen(summary: SeenSummary) -> str:
    """How many readings lay in the range: ``Of 40 readings a day ahead, 33 lay in the range; 32 expected.``"""
    if not summary.n:
        return f"No reading {notice_of(summary.notice_days)} ahead yet."
    lay = "lay" if summary.n != 1 else "was"
    return (
        f"Of {counted(summary.n, 'reading')} {notice_of(summary.notice_days)} ahead, {summary.held} {lay} in the "
        f"range; {summary.should} expected."
    )


def notice_of(days: int) -> str:
    """How long before: ``a day``, ``3 days``."""
    return "a day" if days == 1 else counted(days, "day")


def seen_words(readings: list[SeenSummary]) -> str:
    """What a store's readings show, for who does not see the picture."""
    said = [seen(each) for each in readings if each.n]
    return " ".join(said) or "No reading was held against a forecast yet."


def _lines(record: RecordSummary) -> str:
    if record.judgement is Judgement.TOO_FEW:
        return f"Lines reached or passed by: {record.decided} decided so far, {record.still_open} open."
    return (
        f"Of {counted(record.decided, 'line')} whose time is known, {record.held} came within the range: these ranges "
        f"are {_judgement(record.judgement)}. {record.still_open} still open."
    )


def _judgement(judgement: Judgement) -> str:
    match judgement:
        case Judgement.FITTING:
            return "as they should be"
        case Judgement.NARROW:
            return "too narrow"
        case Judgement.WIDE:
            return "wider than they need be"
        case Judgement.TOO_FEW:
            return "too few to judge"
        case _:
            assert_never(judgement)


def held_of(record: RecordSummary) -> str:
    """How many of a store's decided ranges held."""
    return f"{record.held} of {record.decided}" if record.decided else NOTHING


def spread(scale: float) -> str:
    """How a store's spread follows its record."""
    if abs(scale - 1) < _SAME:
        return "as it is"
    return f"{figure(abs(scale - 1) * 100)} % {'wider' if scale > 1 else 'narrower'}"


def notice(notice: Notice) -> str:
    """How long before the line."""
    return f"about {counted(notice.notice_days, 'day')}"


def off(days: float | None) -> str:
    """How far off the days were."""
    return NOTHING if days is None else f"{figure(days, 1)} days"


def case(issued: Issued, outcome: Outcome) -> str:
    """One forecast and what came true."""
    ends = [_days(each) for each in (issued.p10_days, issued.p90_days, issued.p50_days)]
    did = held(issued, outcome)
    end = "undecided" if did is None else "held" if did else "did not hold"
    return f"{ends[0]} to {ends[1]} days, middle {ends[2]}; {_came(outcome)} {figure(outcome.days, 1)} days; {end}"


def _days(days: float | None) -> str:
    return f"beyond {Forecasting.horizon_days}" if days is None else f"{figure(days, 1)}"


def _came(outcome: Outcome) -> str:
    match outcome.kind:
        case OutcomeKind.REACHED:
            return "the line was reached after"
        case OutcomeKind.STOPPED:
            return "a stop came first, after"
        case OutcomeKind.BEYOND:
            return "not reached within"
        case _:
            assert_never(outcome.kind)
