"""The Horizon's words: the sentence above it, what each lane says and why, entries to check, the next stop."""

from datetime import datetime
from typing import assert_never

from lodeline.core.catalogue import DAY_KINDS, SOURCE_KINDS, DayStatus, Driver, Role, Sense
from lodeline.core.figures import Use
from lodeline.core.forecast.forecast import Chore, ChoreKind, Forecast, StoreForecast
from lodeline.core.forecast.stop import StopNeed
from lodeline.core.log import DayFacts, OutlookDay
from lodeline.core.reasons import Advice, BankUse, Reasons, Widest
from lodeline.core.rig import Store
from lodeline.core.values import dataclass
from lodeline.text import names
from lodeline.text.chances import in_ten
from lodeline.text.display import Display, capital, counted, listed, percent
from lodeline.text.names import be, verb
from lodeline.text.readings import describe
from lodeline.text.standing import lasts, line_met, middle
from lodeline.text.times import between, clock, date_words, day_part, days_span, days_words, short_date

_TENTHS = 10
_ALMOST_ALL = 9
_PER_HUNDRED = 100.0


@dataclass(frozen=True, slots=True)
class Sentence:
    """A headline, and what goes with it."""

    headline: str
    detail: str


@dataclass(frozen=True, slots=True)
class LastRead:
    """When anything was last read or done, and how old that is. [day]"""

    at: datetime
    days_ago: float


def first(store: Store) -> str:
    """That a store is the first to meet its line."""
    if store.sense is Sense.DRAINS:
        return f"{verb(store, 'runs', 'run')} out first"
    return f"{be([store])} full first"


def _meets(store: Store) -> str:
    if store.is_bank:
        return "is low"
    return "runs out" if store.sense is Sense.DRAINS else "is full"


def headline(ahead: Forecast, display: Display, read: LastRead | None = None) -> Sentence:
    """The sentence above the Horizon: what sends anybody away, when, and how sure. ``read``: of how long ago it is."""
    sentence = _headline(ahead, display)
    old = _old(read, display)
    return Sentence(sentence.headline, f"{old}{sentence.detail}".strip())


def _headline(ahead: Forecast, display: Display) -> Sentence:
    now, days, auto = display.local(ahead.at), ahead.horizon_days, ahead.autonomy
    if ahead.supposed is not None:
        return _supposed(ahead.supposed, display)
    if auto.store is None:
        counts = any(each.known and not each.store.sends_nobody for each in ahead.stores)
        if not counts:
            return Sentence("Nothing is known yet of what would send you away.", _unknown(ahead))
        return Sentence(f"You can stay: nothing sends you away within {counted(days, 'day')}.", _unknown(ahead))
    store = ahead.of(auto.store)
    if auto.p50_days is not None and store.store in ahead.pool:
        return _pool(ahead, auto.p50_days, display)
    if store.is_past_line:
        return Sentence(
            f"{store.store.name} {be([store.store])} past {verb(store.store, 'its', 'their')} line now.",
            _second(ahead, now, display),
        )
    at = middle(store, ahead, display)
    if at is not None:
        headline = f"{capital(lasts(store, ahead))}: {store.store.name} {first(store.store)}, {at}."
        return Sentence(headline, _detail(ahead, store, now, display))
    return _open(ahead, store, display) if auto.p50_days is not None else _beyond(ahead, store, display)


def _pool(ahead: Forecast, days: float, display: Display) -> Sentence:
    """Of fresh tanks that count as one."""
    now = display.local(ahead.at)
    names = listed([each.name for each in ahead.pool])
    others = f"What one has not got is drawn from the other{'s' if len(ahead.pool) > _TWO else ''}: they count as one."
    detail = f"{others} {_second(ahead, now, display)}".strip()
    if days <= 0:
        return Sentence(f"{names} together are past their line now.", detail)
    at = ahead.when(days)
    by = f", {day_part(display.local(at), now)}" if at is not None else ""
    return Sentence(f"{capital(days_words(days))}: {names} together run out first{by}.", detail)


_TWO = 2


def _open(ahead: Forecast, store: StoreForecast, display: Display) -> Sentence:
    """Where something is met as likely as not, and no store of its own: which it is remains open."""
    now, auto = display.local(ahead.at), ahead.autonomy
    at = ahead.when(auto.p50_days)
    by = f", by {day_part(display.local(at), now)}" if at is not None else ""
    return Sentence(
        f"About {days_words(auto.p50_days or 0.0)} in half of all cases{by}: it is open what comes first.",
        f"Likeliest is {store.store.name}, {_sure(store.p_first)}. {_second(ahead, now, display)}".strip(),
    )


def _beyond(ahead: Forecast, store: StoreForecast, display: Display) -> Sentence:
    """Where the middle path meets no line within the horizon."""
    now, days = display.local(ahead.at), counted(ahead.horizon_days, "day")
    tenths = max(1, round(ahead.p_line * _TENTHS))
    low = ahead.when(ahead.autonomy.p10_days)
    soonest = f", from {day_part(display.local(low), now)} on" if low is not None else ""
    if low is None:
        return Sentence(f"You can stay {days} in 9 of 10 cases.", _second_or_unknown(ahead, store, now, display))
    return Sentence(
        f"Likely over {days}: in {tenths} of 10 cases {store.store.name} {first(store.store)} before that.",
        f"The chance that something sends you away within {days} is {in_ten(ahead.p_line)}{soonest}. "
        f"{_second(ahead, now, display)}".strip(),
    )


def _second_or_unknown(ahead: Forecast, store: StoreForecast, now: datetime, display: Display) -> str:
    return f"If anything, {store.store.name} {first(store.store)}. {_second(ahead, now, display)}".strip()


def _detail(ahead: Forecast, store: StoreForecast, now: datetime, display: Display) -> str:
    low, high = ahead.when(store.p10_days), ahead.when(store.p90_days)
    assumed = " Its use is still assumed, not logged." if store.assumed else ""
    low = low if low is not None else ahead.at
    if high is None:
        days = counted(ahead.horizon_days, "day")
        span = f"from {day_part(display.local(low), now)} on, in 1 of 10 cases not within {days}"
    else:
        span = f"{between(display.local(low), display.local(high), now)} (8 in 10)"
    said = f"It {_meets(store.store)} {span}, {_sure(store.p_first)}.{assumed}"
    return f"{said} {_together(ahead, store, now, display)}{_second(ahead, now, display)}".strip()


def _together(ahead: Forecast, store: StoreForecast, now: datetime, display: Display) -> str:
    """That another store may come before it, where that makes the stay shorter."""
    whole, own = ahead.when(ahead.autonomy.p50_days), middle(store, ahead, display)
    if whole is None or store.p_first * _TENTHS >= _ALMOST_ALL:
        return ""
    by = day_part(display.local(whole), now)
    return "" if by == own else f"In half of all cases something is at its line by {by}. "


def _supposed(supposed: Forecast, display: Display) -> Sentence:
    """Nothing is logged: what common practice says of such a rig with everything full or empty."""
    days, auto = counted(supposed.horizon_days, "day"), supposed.autonomy
    asks = "Take one reading of each store in the Round, and the days are counted from it."
    if auto.store is None or auto.p50_days is None:
        return Sentence(f"Nothing logged yet. From full: over {days}.", f"Assumed. {asks}")
    store = supposed.of(auto.store)
    low, high = auto.p10_days or 0.0, auto.p90_days
    return Sentence(
        f"Nothing logged yet. From full: about {days_words(auto.p50_days)}, {store.store.name} {first(store.store)}.",
        f"Assumed from common practice, {days_span(low, high)} in 8 of 10 such rigs. {asks}",
    )


_OLD_DAYS = 3.0


def _old(read: LastRead | None, display: Display) -> str:
    """That nothing was read for days."""
    if read is None or read.days_ago < _OLD_DAYS:
        return ""
    return f"The last reading is {days_words(read.days_ago)} old, of {date_words(display.local(read.at).date())}. "


def chores(ahead: Forecast, display: Display) -> list[str]:
    """What is to be done without driving off, each as a sentence with its time."""
    return [text for each in ahead.chores if (text := chore(each, ahead, display))]


def chore(chore: Chore, ahead: Forecast, display: Display) -> str:
    """One of them; empty where its time lies beyond the horizon."""
    middle = ahead.when(chore.p50_days)
    if middle is None:
        return ""
    name, now, soon = chore.store.name, display.local(ahead.at), ahead.when(chore.p10_days)
    about = day_part(display.local(middle), now)
    part = day_part(display.local(soon or middle), now)
    due = "now" if chore.p50_days == 0 else part if part.startswith(("this", "today")) else f"by {part}"
    match chore.kind:
        case ChoreKind.SERVE:
            what = "Empty" if chore.store.sense is Sense.FILLS else "Top up"
            return f"{what} {name} {due}."
        case ChoreKind.POUR:
            return f"Pour the reserve into {name} about {about}. It is the last."
        case ChoreKind.SWAP if chore.store.sense is Sense.FILLS:
            return f"Change {name} for its spare about {about}. It is the last."
        case ChoreKind.SWAP:
            return f"Change {name} for the full one about {about}. It is the last."
        case ChoreKind.EMPTY:
            return f"Empty the full {names.apart(chore.store.kind)} of {name} {due}."
        case ChoreKind.CARRY:
            return f"Empty {name} into its tote about {about}, and the tote where it is allowed."
        case _:
            assert_never(chore.kind)


def deadline(store: Store, ahead: StoreForecast, at: Forecast, display: Display) -> str:
    """That the last reserve was used, and by when there must be more."""
    by = at.when(ahead.p10_days)
    if store.sense is Sense.FILLS:
        return f"The {names.apart(store.kind)} of {store.name} is full: carry it to where it may be emptied."
    if by is None:
        return f"No reserve for {store.name}: bring more from the next stop."
    what = "more" if store.kind.role is not Role.WATER else "water"
    return f"No reserve for {store.name}: find {what} by {day_part(display.local(by), display.local(at.at))}."


def _sure(p_first: float) -> str:
    tenths = round(p_first * _TENTHS)
    return "almost surely the first" if p_first * _TENTHS >= _ALMOST_ALL else f"first in {tenths} of 10 cases"


def _second(ahead: Forecast, now: datetime, display: Display) -> str:
    second = ahead.of(ahead.second) if ahead.second else None
    at = middle(second, ahead, display) if second is not None else None
    if second is None or at is None:
        return _unknown(ahead)
    return f"Next: {second.store.name}, {at}. {_unknown(ahead)}".strip()


def _unknown(ahead: Forecast) -> str:
    names = [store.name for store in ahead.unknown]
    return f"Not counted, as no reading was taken yet: {listed(names)}." if names else ""


def lane(lane: StoreForecast, ahead: Forecast, display: Display, lost_since: datetime | None = None) -> str:
    """One store's level and outlook in words."""
    if lost_since is not None:
        return f"Not known since {date_words(display.local(lost_since).date())}: take a reading."
    outlook = line_met(lane, ahead, display)
    known = level(lane, display)
    if not known:
        return outlook
    vague = "not known within a third of the whole, " if lane.is_vague else ""
    return f"{known[0]}, {vague}8 in 10: {known[1]}. {outlook}"


def level(lane: StoreForecast, display: Display) -> tuple[str, str] | None:
    """The level and its range as a lane's head says them; None before it is known."""
    if lane.level is None or lane.level_p10 is None or lane.level_p90 is None:
        return None
    unit = lane.store.unit
    return display.amount(lane.level, unit), display.span(lane.level_p10, lane.level_p90, unit)


def facts(lane: StoreForecast, ahead: Forecast, display: Display) -> list[tuple[str, str]]:
    """The figures behind a lane, each with its name."""
    store, lines = lane.store, []
    if known := level(lane, display):
        lines.append(("Level", f"{known[0]}, 8 in 10 from {known[1]}"))
    line = display.contents(store, store.line_level)
    lines.append(("Lode line", f"{line} of {display.contents(store, store.capacity)}"))
    if lane.rate_per_day is not None:
        basis = "assumed from crew and kind until more days are logged" if lane.assumed else "from the log"
        rate = display.contents(store, lane.rate_per_day)
        lines.append((_flow(store), f"{rate} a day net, {basis}"))
    if lane.p10_days is not None:
        lines.append(("Line reached", _reached(lane, ahead, display)))
    if not store.is_served_here:
        lines.append((capital(first(store)), in_ten(lane.p_first)))
    if store.reserve:
        lines.append(
            (f"Reserve, {'counted' if store.reserve_counts else 'not counted'}", display.contents(store, store.reserve))
        )
    return lines


def _flow(store: Store) -> str:
    return "Expected use" if store.sense is Sense.DRAINS else "Expected inflow"


def _reached(lane: StoreForecast, ahead: Forecast, display: Display) -> str:
    """By when it is met in 1, 5 and 9 of 10 cases."""
    moments = {1: ahead.when(lane.p10_days), 5: ahead.when(lane.p50_days), 9: ahead.when(lane.p90_days)}
    parts = [f"in {tenths} of 10 cases by {_moment(at, display)}" for tenths, at in moments.items() if at is not None]
    if lane.p90_days is None:
        parts.append(f"else not within {counted(ahead.horizon_days, 'day')}")
    return "; ".join(parts)


def _moment(at: datetime, display: Display) -> str:
    local = display.local(at)
    return f"{short_date(local.date())}, {clock(local)}"


def why(reasons: Reasons, display: Display) -> list[str]:
    """Why a lane looks as it does, most important first."""
    said = (
        _rests_on(reasons, display),
        _use(reasons, display),
        _widest(reasons),
        _stands_in(reasons),
        _air(reasons, display),
    )
    return [text for text in said if text]


def _air(reasons: Reasons, display: Display) -> str:
    if reasons.air_c is None:
        return ""
    usual = display.amount(reasons.air_c, "degC")
    return f"No temperature is logged: {usual} is taken, as is usual there at this time of year."


def _stands_in(reasons: Reasons) -> str:
    if reasons.stands_in is None:
        return ""
    return f"No place is logged: {reasons.stands_in.name} stands in for it, and the range is wider for that."


def _rests_on(reasons: Reasons, display: Display) -> str:
    parts = []
    if reasons.last_reset:
        what = "filled" if reasons.store.sense is Sense.DRAINS else "emptied"
        parts.append(f"last {what} on {short_date(display.local(reasons.last_reset).date())}")
    if reasons.last_reading:
        says = describe(reasons.store, reasons.last_reading, display)
        parts.append(f"last read on {short_date(display.local(reasons.last_reading.at).date())} ({says})")
    gauge = f" This gauge is good to about {percent(reasons.gauge_sd)} of capacity." if reasons.gauge_sd else ""
    return f"The level rests on: {listed(parts)}.{gauge}" if parts else ""


def _basis(reasons: Reasons) -> str:
    days = counted(round(reasons.days_seen), "day")
    if reasons.assumed:
        return f"assumed from crew and kind; the log has only {days} of use so far"
    return f"learned from {days} of log, recent days counting more"


def _use(reasons: Reasons, display: Display) -> str:
    if reasons.bank is not None:
        return _bank_use(reasons.bank, _basis(reasons), display)
    parts = [
        text for name, value in reasons.coefficients.items() if (text := _driver(reasons.store, name, value, display))
    ]
    return f"Use is taken as {listed(parts)}, {_basis(reasons)}." if parts else ""


def _bank_use(use: BankUse, basis: str, display: Display) -> str:
    sun = ""
    if use.clear_strength is not None:
        sun = f", and the array at {percent(use.clear_strength)} of its expected strength under a clear sky"
    load = display.amount(use.load_wh, "Wh")
    return f"Loads are taken as about {load} a day, {percent(use.of_list)} of the list{sun}; {basis}."


def _driver(store: Store, name: str, value: float, display: Display) -> str:
    """What one driver moves, in words; empty where it is not worth saying."""
    if name in DAY_KINDS:
        return f"{display.contents(store, value)} {DAY_KINDS[name].name}"
    driver = Driver(name)
    match driver:
        case Driver.PEOPLE:
            return f"{display.contents(store, value)} a day with the usual crew"
        case Driver.DEGREE_DAYS:
            base = display.amount(Use.degree_day_base_c, "degC")
            return f"{display.per(value, store.unit, 'degC difference')} a degree-day under {base}"
        case Driver.CHANGES_OVER:
            return f"{display.per(value, store.unit, 'day')} by what changes over when plugged in or driving"
        case Driver.KM:
            far = display.unit("km").unit
            return f"{display.per(value, store.unit, 'km', _PER_HUNDRED, 1)} per 100 {far}"
        case (
            Driver.LOAD_BY_DAY
            | Driver.LOAD_AT_NIGHT
            | Driver.CHILL
            | Driver.HEAT
            | Driver.SUN_CLEAR
            | Driver.SUN_MIXED
            | Driver.SUN_OVERCAST
            | Driver.SUN_WET
            | Driver.SUN_PLACE
        ):
            return ""
        case _:
            assert_never(driver)


_PARTS = {
    1: "A tenth",
    2: "A fifth",
    3: "About a third",
    4: "About two fifths",
    5: "About half",
    6: "About three fifths",
    7: "About two thirds",
    8: "About four fifths",
    9: "Nearly all",
    10: "Nearly all",
}


def _widest(reasons: Reasons) -> str:
    if reasons.widest is None:
        return ""
    match reasons.widest:
        case Widest.SKY:
            return "Most of the range comes from the sky."
        case Widest.LEVEL:
            what = "how full it is now"
        case Widest.USE:
            what = "how much you use on the whole"
        case Widest.DAYS:
            what = "how much one day differs from another"
        case _:
            assert_never(reasons.widest)
    share = _PARTS[min(max(round((reasons.share or 0.0) * _TENTHS), 1), _TENTHS)]
    return f"{share} of the range comes from {what}.{_advice(reasons.advice)}"


def _advice(advice: Advice | None) -> str:
    match advice:
        case None:
            return ""
        case Advice.WEIGH:
            return " Weigh the bottle tonight."
        case Advice.READ_ONCE:
            return " One reading tonight would narrow it most."
        case Advice.READ_EVENINGS:
            return " A reading each evening for a few days would narrow it most."
        case _:
            assert_never(advice)


def day(facts: DayFacts, display: Display) -> str:
    """A date on the strip, said: ``Thursday 26 November, wet, 3 to 9 °C, Old field``."""
    parts = [
        date_words(facts.date),
        names.SKIES[facts.sky] if facts.sky else "sky not known",
        temperatures(facts, display),
        facts.place.name if facts.place else None,
    ]
    return ", ".join(part for part in parts if part)


def planned(day: OutlookDay) -> str | None:
    """What a coming day brings, in a word for a narrow column."""
    for row in SOURCE_KINDS.values():
        if day.hours.get(row.id) or (row.all_day and row.all_day is day.status):
            return row.short
    return "move" if day.status is DayStatus.MOVING else None


def temperatures(facts: DayFacts, display: Display) -> str | None:
    """A day's range of temperature: ``9 to 19 °C``."""
    if facts.temp_min_c is None or facts.temp_max_c is None:
        return None
    return display.span(facts.temp_min_c, facts.temp_max_c, "degC")


def need(need: StopNeed, display: Display) -> str:
    """What the next stop has to do with one store."""
    due = ", due" if need.due else ""
    return f"{need.act.value} {display.span(need.amount_low, need.amount_high, need.store.unit)}{due}"
