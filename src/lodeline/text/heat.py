"""Heat in words: how many nights, what ends it, what the cold does to the rig, what a lever buys."""

from datetime import datetime, timedelta

from lodeline.core.figures import Heat
from lodeline.core.forecast.forecast import Forecast, StoreForecast
from lodeline.core.fuel.nights import ColdNight, HeatAhead, Need, Nights
from lodeline.core.levers.nights import Bought
from lodeline.core.rig import Rig
from lodeline.core.statistics import Range
from lodeline.core.warmth import HeatGear, Quiet
from lodeline.text.display import Display, capital, counted, listed, percent
from lodeline.text.habits import exact, figure
from lodeline.text.levers import lever_words
from lodeline.text.standing import middle
from lodeline.text.times import day_part, days_words, far_date, hour_clock, short_date

NO_HEATER = "No heater is listed on a store that is known."
ELECTRICITY = "A heater without electricity is cold: its fan or pump lives off the bank."


def nights(nights: Nights) -> str:
    """A range of nights: ``6 to 8 nights``."""
    if nights.beyond:
        return f"over {counted(nights.p10 if nights.p10 else nights.p50, 'night')}"
    if nights.p10 == nights.p90:
        return counted(nights.p50, "night") if nights.p50 else "not one whole night"
    return f"{exact(nights.p10)} to {counted(nights.p90, 'night')}"


def headline(
    heat: HeatAhead | None,
    cooking: StoreForecast | None,
    ahead: Forecast,
    range_km: Range | None,
    display: Display,
    frozen: bool = False,
) -> str:
    """The whole of it: heat, gas for cooking, range. ``frozen``: the bottle that cooks gives no gas tonight."""
    parts = []
    if heat is not None:
        low = display.amount(heat.low_c, "degC")
        parts.append(f"Heat for {nights(heat.nights)} at the expected cold ({low} tonight)")
    if cooking is not None:
        parts.append(
            "the gas for cooking gives none in tonight's cold"
            if frozen
            else f"gas for cooking {_until(cooking, ahead, display)}"
        )
    if range_km is not None:
        parts.append(f"{display.span(range_km.p10, range_km.p90, 'km')} of range above what must stay")
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
        return f"Nothing that the heat needs gives out in {counted(Heat.horizon_days, 'day')}."
    local, at = display.local(now), display.local(heat.ends_at)
    low, _, high = heat.ends
    span = ""
    if low is not None and high is not None and high - low > 0.2:
        span = f", some time in {_span(low, high)}"
    sure = percent(min(first.p_first, _MOST_SURE))
    text = f"{capital(first.store.name)} ends the heat first ({sure} likely), about {day_part(at, local)}{span}."
    return f"{text} {ELECTRICITY}" if first.store.is_bank else text


def _span(low: float, high: float) -> str:
    """A range of days with one unit where both ends have the same: ``4 to 8 days``."""
    first, last = days_words(low), days_words(high)
    if first == last:
        return last
    number, _, unit = first.partition(" ")
    return f"{number} to {last}" if unit and last.endswith(unit.removesuffix("s") + "s") else f"{first} to {last}"


def first(need: Need) -> str:
    """How likely it is that this ends the heat: ``first: 72 %``."""
    return f"first: {percent(min(need.p_first, _MOST_SURE))}" if need.p_first > 0 else "not first"


# A chance that was worked out is never told as a certainty.
_MOST_SURE = 0.99


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
        lasts = f"{days_words(low or 0.0)} to {ends_words}" if high is None else _span(low or 0.0, high)
    return f"{store.name}: {have}, {until}; {lasts}"


def colder(ahead: HeatAhead, display: Display) -> str:
    """Nights left were it so much colder: ``At 5 °C colder than expected: 4 to 6 nights``."""
    if ahead.colder_c == 0:
        return f"At the expected cold, {display.amount(ahead.low_c, 'degC')} tonight: {nights(ahead.nights)}"
    by = display.amount(ahead.colder_c, "degC difference")
    return f"At {by} colder, {display.amount(ahead.low_c, 'degC')} tonight: {nights(ahead.nights)}"


def bought(rig: Rig, bought: Bought, display: Display) -> str:
    """What a lever buys: ``Heating 2 °C down: half a night more; 4 to 6 nights``."""
    what = lever_words(rig, bought.lever, display)
    if bought.more_days < _NOTHING_DAYS:
        return f"{what}: buys next to nothing; {nights(bought.nights)}"
    more = f"{days_words(bought.more_days)} more"
    then = f"; then {bought.first.store.name} ends it" if bought.first is not None else ""
    return f"{what}: {more}, {nights(bought.nights)}{then}"


_NOTHING_DAYS = 0.04


def would_buy(tried: HeatAhead, display: Display) -> str:
    """Over what the levers buy, and in what cold they are tried."""
    if tried.first is None:
        return "Nothing that the heat needs gives out in sight, so no lever buys a night."
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
        cold += f" (give or take {display.amount(night.sd_c, 'degC difference')})"
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
            "Say below how the rig is built and how warm it is kept: until then heat goes by the degree-days under "
            "a common base, and no cold is told that a heater cannot hold."
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
