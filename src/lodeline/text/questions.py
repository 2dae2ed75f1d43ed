"""Answers of the Energy view: can I run it, how long to charge, what would help."""

from datetime import datetime
from typing import assert_never

from lodeline.core.figures import Forecasting
from lodeline.core.forecast import appliance as a
from lodeline.core.forecast.charge_time import ChargePlan, ChargeTime, Goal, SunFinishes
from lodeline.core.levers.bank import Helped
from lodeline.core.rig import Source
from lodeline.text.display import Display, listed, percent, percent_span
from lodeline.text.habits import figure
from lodeline.text.times import clock, clock_on, date_words, day_name, hours_words

_TENTHS = 10


def answer(answer: a.Answer) -> str:
    """The answer in a word or two."""
    match answer:
        case a.Answer.YES:
            return "Yes."
        case a.Answer.TIGHT:
            return "It may be tight."
        case a.Answer.NO:
            return "No."


def verdict(verdict: a.RunVerdict, now: datetime, display: Display) -> str:
    """What the run takes, and what it does to the next low."""
    local = display.local(now)
    without, with_it = (percent_span(low.p10, low.p90) for low in (verdict.low_without, verdict.low_with))
    sun = "The sun of today and tomorrow does not make it up."
    if verdict.latest_start is not None:
        latest = display.local(verdict.latest_start)
        sun = f"The sun still makes it up when it starts by {clock(latest)} {day_name(latest.date(), local.date())}."
    return (
        f"{figure(verdict.current_a)} A from the bank, {figure(verdict.ah, 1)} Ah of it, "
        f"{figure(verdict.share * 100, 1)} % of capacity. The next low would go from {without} to {with_it}. {sun}"
    )


def why(why: a.Why) -> str:
    """A reason as a sentence."""
    match why:
        case a.NoInverter():
            return "There is no inverter aboard, and it needs one."
        case a.OverInverter(watts, inverter):
            return f"It draws {figure(watts)} W; the inverter gives {figure(inverter)} W."
        case a.OverSurge(watts, inverter):
            return f"Starting takes about {figure(watts)} W; the inverter's surge is {figure(inverter)} W."
        case a.InverterCarries(watts, inverter):
            return f"The inverter carries it: {figure(watts)} of {figure(inverter)} W."
        case a.OverBank(current, most, minutes):
            return (
                f"{figure(current)} A is over {figure(most)} A, about the most that a bank of this kind and size "
                f"should give for {figure(minutes)} minutes."
            )
        case a.LowAfter():
            return _low(why)
        case _:
            assert_never(why)


def _low(after: a.LowAfter) -> str:
    line = percent(after.line)
    cases = after.p_above * 100
    if after.is_sure:
        most = min(Forecasting.most_of_hundred, cases)
        return f"The low stays above the line of {line} in {figure(most)} of 100 cases."
    if after.low_p50 > after.line:
        return f"The low stays above the line of {line} in only {figure(cases)} of 100 cases."
    return f"The low would be about {percent(after.low_p50)}, under the line of {line}."


def way(way: a.Way, now: datetime, display: Display) -> str:
    """What would make it possible, as a sentence."""
    match way:
        case a.LargerInverter(watts):
            return f"An inverter of {figure(watts)} W or more, its fuse and cable to match."
        case a.WeakerOrGas():
            return "A weaker model of the same thing, run for longer, or the same on gas."
        case a.PastInverter(kinds):
            return f"Straight from {listed([f'the {kind.name.lower()}' for kind in kinds], 'or')}, past the inverter."
        case a.ShorterRun(minutes):
            return f"Run it for {minutes} minutes at most."
        case a.WhileSun(by):
            at = clock_on(display.local(by), display.local(now))
            return f"Run it while the sun is up, by {at}, and the sun puts it back."
        case a.RunSource(kind, hours, ah):
            return f"{kind.run} {hours_words(hours)}, which puts the {figure(ah)} Ah back."
        case a.MoreAboard():
            return "A bigger bank or more panels; see what would help."
        case _:
            assert_never(way)


def charge(time: ChargeTime, display: Display) -> list[str]:
    """Every plan as a sentence."""
    return [plan(one, display) for one in time.plans]


def plan(plan: ChargePlan, display: Display) -> str:
    """One plan as a sentence."""
    what = _goal(plan)
    if plan.hours is None:
        if plan.too_cold:
            return f"{what}: the cells are too cold to be charged tonight, and nothing would go in."
        fails = "not by this source alone" if plan.goal.holds else "this source does not get there"
        return f"{what}: {fails}."
    if plan.needs_none:
        return f"{what}: {'no run is needed' if plan.goal.holds else 'it is there already'}."
    hours = plan.hours
    span = f" ({hours_words(hours.p10)} to {hours_words(hours.p90)})" if plan.is_wide else ""
    fuel = f", about {display.amount(plan.fuel_l, 'L')} of fuel" if plan.fuel_l else ""
    return f"{what}: {hours_words(hours.p50)}{span}{fuel}."


def _goal(plan: ChargePlan) -> str:
    level = percent(plan.level) if plan.level is not None else ""
    through = ""
    if plan.through is not None:
        through = f"to hold through {date_words(plan.through)} in {figure(Forecasting.held * _TENTHS)} of 10 cases"
    match plan.goal:
        case Goal.LEVEL:
            return f"To {level}"
        case Goal.BULK:
            return f"To {level}, still at full current"
        case Goal.TWO_RUNS:
            return "The same in two runs, evening and morning"
        case Goal.HOLD_ONCE:
            return f"Once tonight, {through}"
        case Goal.HOLD_DAILY:
            return f"Each day, {through}"
        case _:
            assert_never(plan.goal)


def sun_finishes(finishes: SunFinishes) -> str:
    """Whether tomorrow's sun finishes a charge, as a sentence."""
    if not finishes.has_array:
        return "There is no array aboard, so the sun does not finish a charge."
    if finishes.stop_at is None:
        return (
            f"Tomorrow's sun is expected to leave {figure(finishes.surplus_ah)} Ah over the loads of the day, "
            f"less than the night's {figure(finishes.night_ah)} Ah: it will not finish a charge."
        )
    return (
        f"Stop at {percent(finishes.stop_at)}: the night takes about {figure(finishes.night_ah)} Ah, and tomorrow's "
        f"sun is expected to put {figure(finishes.surplus_ah)} Ah in."
    )


def source(source: Source) -> str:
    """A way to charge, as it is chosen."""
    return f"{source.kind.name}, {figure(source.amps)} A"


def helped(helped: Helped) -> list[str]:
    """What a lever does, as cells: next low, days left, chance to hold, days without sun, effect."""
    before, after = helped.before, helped.after
    cells = [
        _from_to(percent(before.low.p50), percent(after.low.p50)),
        _from_to(_days(before.p50_days), _days(after.p50_days)),
        _from_to(percent(before.hold), percent(after.hold)),
        _from_to(figure(before.no_sun_days.p50, 1), figure(after.no_sun_days.p50, 1)),
    ]
    # a row that shows a change does not say that there is none
    shows_none = all(_ARROW not in cell for cell in cells[:_JUDGED])
    return [*cells, "no effect now" if shows_none and not helped.has_effect else ""]


def _days(days: float | None) -> str:
    return f"over {Forecasting.horizon_days}" if days is None else f"{figure(days, 1)}"


_ARROW, _JUDGED = "→", 3


def _from_to(before: str, after: str) -> str:
    return before if before == after else f"{before} {_ARROW} {after}"
