"""Looking back in words: how often the ranges held, how a case turned out, how the spread follows."""

from typing import assert_never

from lodeline.core.figures import Forecasting
from lodeline.core.forecast.score import Issued, Judgement, Notice, Outcome, OutcomeKind, RecordSummary, held
from lodeline.text.display import counted
from lodeline.text.habits import figure
from lodeline.text.horizon import Sentence

_TENTHS = 10
_SAME = 0.02
NOTHING = "–"


def headline(record: RecordSummary) -> Sentence:
    """How often the ranges held."""
    waits = f"{counted(record.still_open, 'more forecast')} {'is' if record.still_open == 1 else 'are'} still open."
    if record.judgement is Judgement.TOO_FEW:
        decided = f"{counted(record.decided, 'range')} {'is' if record.decided == 1 else 'are'} decided so far."
        return Sentence("Too little has come true to judge.", f"{decided} {waits}")
    return Sentence(
        f"Of {counted(record.decided, 'range')} whose end is known, {record.held} held: about "
        f"{figure(record.share * _TENTHS)} in 10.",
        f"8 in 10 should; these ranges are {_judgement(record.judgement)}. {waits}",
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


def notice(each: Notice) -> str:
    """How long before the line."""
    return f"about {counted(each.notice_days, 'day')}"


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
