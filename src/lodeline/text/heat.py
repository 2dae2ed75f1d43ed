"""Heat in words: how many nights, what ends it, what the cold does to the rig, what a lever buys."""

from collections.abc import Sequence
from datetime import datetime, timedelta

from lodeline.core.figures import Heat
from lodeline.core.forecast.forecast import Forecast, StoreForecast
from lodeline.core.fuel.nights import ColdNight, HeatAhead, Need, Nights
from lodeline.core.levers.nights import Bought
from lodeline.core.rig import Rig
from lodeline.core.statistics import Range
from lodeline.core.warmth import HeatGear, Quiet
from lodeline.text.chances import in_ten
from lodeline.text.display import Display, capital, counted, listed
from lodeline.text.habits import exact, figure
from lodeline.text.levers import lever_words
from lodeline.text.names import verb
from lodeline.text.standing import middle
from lodeline.text.times import day_part, days_span, days_words, far_date, hour_clock, short_date

NO_HEATER = "No heater is listed on a store that is known."
ELECTRICITY = "A heater without electricity is cold: its fan or pump lives off the bank."


def nights(nights: Nights) -> str:
    """A range of nights: ``6 to 8 nights``."""
    if nights.beyond:
        return f"over {counted(nights.p10 if nights.p10 else nights.p50, 'night')}"
    if nights.p10 == nights.p90:
        return counted(nights.p50, "night") if nights.p50 else "less than a night"
    return f"{exact(nights.p10)} to {counted(nights.p90, 'night')}"


def headline(
    heat: HeatAhead | None, cooking: StoreForecast | None, ahead: Forecast, display: Display, frozen: bool = False
) -> str:
    """Heat, and gas for cooking. ``frozen``: the bottle that cooks gives no gas tonight."""
    parts = []
    if heat is not None:
        low = display.amount(heat.low_c, "degC")
        parts.append(
            f"Heat for {nights(heat.nights)}, {low} tonight"
            if heat.first is not None
            else "Heat for all nights in sight"
        )
    if cooking is not None:
        parts.append(
            "no gas for cooking in tonight's cold" if frozen else f"gas for cooking {_until(cooking, ahead, display)}"
        )
    if not parts:
        return "Nothing is known yet of gas, heat or fuel."
    return capital("; ".join(parts)) + "."


def _until(lane: StoreForecast, ahead: Forecast, display: Display) -> str:
    """Until when: by the forecast, else by what is left over what is used a day."""
    by = middle(lane, ahead, display)
    if by is not None:
        return "is at its line" if lane.is_past_line else f"until {by}"
    rate = lane.rate_per_day or 0.0
    if lane.level is None or rate <= 0:
        return f"for over {counted(ahead.horizon_days, 'day')}"
    days = max(float(ahead.horizon_days), (lane.level - lane.store.line_level) / rate)
    if days > _YEAR_DAYS:
        return "for over a year"
    today = display.local(ahead.at).date()
    return f"until {far_date(today + timedelta(days=round(days)), today)}"


_YEAR_DAYS = 365.0


def what_ends_it(heat: HeatAhead, now: datetime, display: Display) -> str:
    """What gives out first, and when: ``The bank ends the heat, about 03:00 on Saturday; then it is cold ...``."""
    first = heat.first
    if first is None or heat.ends_at is None:
        days, low = counted(Heat.horizon_days, "day"), heat.ends[0]
        if low is None:
            return f"The heat does not run short within {days}."
        return f"Most likely the heat does not run short within {days}; in 1 of 10 cases after {days_words(low)}."
    local, at = display.local(now), display.local(heat.ends_at)
    low, _, high = heat.ends
    span = ""
    if low is not None and high is not None and high - low > 0.2:
        span = f", some time in {days_span(low, high)}"
    sure = in_ten(first.p_first)
    ends = verb(first.store, "ends", "end")
    text = f"{capital(first.store.name)} {ends} the heat first ({sure}), about {day_part(at, local)}{span}."
    return f"{text} {ELECTRICITY}" if first.store.is_bank else text


def first(need: Need) -> str:
    """How likely it is that this ends the heat: ``first: 72 %``."""
    return f"first: {in_ten(need.p_first)}" if need.p_first > 0 else "not first"


def need(need: Need, now: datetime, display: Display) -> str:
    """One thing that the heat needs: ``Diesel: 28 L, the heater draws none under 17 L; 3 to 5 days``."""
    store = need.store
    have = display.contents(store, need.level)
    ends = display.contents(store, need.ends_at)
    if store.is_bank:
        until = f"its line is {ends}"
    elif store.is_fuel and need.ends_at > 0:
        until = f"the heater draws none under {ends}"
    elif need.ends_at > 0:
        until = f"{ends} of it cannot be used in the cold"
    else:
        until = "usable to the end"
    low, middle, high = need.days
    if middle is None:
        lasts = f"over {counted(Heat.horizon_days, 'day')}"
        if low is not None:
            lasts = f"{days_words(low)} at the least, perhaps {lasts}"
    elif middle == 0:
        lasts = "there now"
    else:
        ends_words = f"over {counted(Heat.horizon_days, 'day')}" if high is None else days_words(high)
        lasts = f"{days_words(low or 0.0)} to {ends_words}" if high is None else days_span(low or 0.0, high)
    return f"{store.name}: {have}, {until}; {lasts}"


def colder(ahead: HeatAhead, display: Display) -> str:
    """Nights left were it so much colder: ``At 5 °C colder than expected: 4 to 6 nights``."""
    lasts = nights(ahead.nights) if ahead.ends[0] is not None else "all nights in sight"
    if ahead.colder_c == 0:
        return f"At the expected cold, {display.amount(ahead.low_c, 'degC')} tonight: {lasts}"
    by = display.amount(ahead.colder_c, "degC difference")
    return f"At {by} colder, {display.amount(ahead.low_c, 'degC')} tonight: {lasts}"


def bought(rig: Rig, bought: Bought, display: Display) -> str:
    """What a lever buys: ``Heating 2 °C down: half a night more; 4 to 6 nights``."""
    what = lever_words(rig, bought.lever, display)
    more = f"{days_words(bought.more_days)} more"
    then = (
        f"; then {bought.first.store.name} {verb(bought.first.store, 'ends', 'end')} it"
        if bought.first is not None
        else ""
    )
    return f"{what}: {more}, {nights(bought.nights)}{then}"


_NOTHING_DAYS = 0.04


def helps(bought: Bought) -> bool:
    """Whether what a lever buys is worth a line of its own."""
    return bought.more_days >= _NOTHING_DAYS


def would_buy(tried: HeatAhead, levers: Sequence[Bought], display: Display) -> str:
    """Over what the levers buy, and in what cold they are tried."""
    if tried.first is None:
        return "The heat does not run short, so nothing has to change."
    if levers and not any(map(helps, levers)):
        ends = tried.first.store
        return f"No change buys more than an hour: {ends.name} {verb(ends, 'ends', 'end')} it first."
    if tried.colder_c == 0:
        return "What would buy nights"
    by = display.amount(tried.colder_c, "degC difference")
    return f"What would buy nights, were it {by} colder than expected"


def both_sides(bought: Bought, rig: Rig, display: Display) -> str:
    """What it spares a day, of the whole rig."""
    spares = []
    for touch in bought.lever.touches:
        store = rig.store(touch.store)
        if store is not None and touch.per_day > 0 and display.number(touch.per_day, store.unit) != "0":
            spares.append(f"{display.contents(store, touch.per_day)} of {store.name}")
    return f"spares {listed(spares)} a day" if spares else ""


def night(rig: Rig, night: ColdNight, display: Display) -> str:
    """One night of the strip, in words."""
    cold = f"{short_date(night.date)}: low {display.amount(night.low_c, 'degC')}"
    if night.sd_c:
        cold += f" (±{display.amount(night.sd_c, 'degC difference')})"
    burns = []
    for id, amount in night.burns.items():
        store = rig.store(id)
        if store is not None:
            burns.append(f"{display.span(amount.p10, amount.p90, store.unit)} of {store.name}")
    text = f"{cold}; heating burns {listed(burns)}" if burns else cold
    return f"{text}; the heater cannot hold the temperature" if night.falls_short else text


def held(coldest_c: float | None, inside_c: float, display: Display) -> str | None:
    """Down to what outside an inside temperature is held."""
    if coldest_c is None:
        return None
    inside = display.amount(inside_c, "degC")
    if coldest_c < _NO_SUCH_COLD_C:
        return f"The heaters hold {inside} in any cold that comes."
    return f"The heaters cannot hold {inside} below {display.amount(coldest_c, 'degC')} outside."


_NO_SUCH_COLD_C = -50.0


def morning(celsius: float, display: Display) -> str:
    """Inside in the morning if the heat goes off in the evening."""
    hour = hour_clock(Heat.off_at_h)
    return f"If the heat goes off at {hour}, it is about {display.amount(celsius, 'degC')} inside at dawn."


def loss(gear: HeatGear | None, listed_w_per_k: float, learned: Range | None) -> str:
    """What the rig loses, as reckoned and as the log shows it."""
    if gear is None:
        return (
            "Say below how the rig is built and how warm you keep it. Until then heat is a rough guess from how cold "
            "it is outside."
        )
    base = f"{figure(listed_w_per_k)} W a degree"
    source = "as taken over from the log" if gear.ua_w_per_k is not None else "by size, glass and insulation"
    text = f"The rig loses {base} {source}."
    if learned is not None:
        text += f" The log shows {figure(learned.p10)} to {figure(learned.p90)} W a degree."
    return text


def quiet(hours: Quiet | None) -> str | None:
    """The crew's quiet hours."""
    if hours is None:
        return None
    first, last = hour_clock(hours.from_h), hour_clock(hours.until_h)
    return f"Quiet hours from {first} to {last}: no generator and no engine is planned in them."
