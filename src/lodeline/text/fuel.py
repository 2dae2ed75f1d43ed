"""Gas and fuel in words: bottles and tanks, what burns, the list against the log, what must stay, engines."""

from lodeline.core.carried import InSpare, Standing
from lodeline.core.catalogue import Feed
from lodeline.core.energy.vapour import litres
from lodeline.core.forecast.appliance import Answer
from lodeline.core.fuel.burns import Burn, Held
from lodeline.core.fuel.cold import ColdBottle
from lodeline.core.fuel.engines import Cost, Ways, Worth
from lodeline.core.fuel.lines import MustStay
from lodeline.core.fuel.run import BurnVerdict
from lodeline.core.rig import Store
from lodeline.core.statistics import Range
from lodeline.core.tracking.tracked import Tracked
from lodeline.text.display import Display, capital, counted, listed, percent, percent_span, two_digits
from lodeline.text.habits import exact, figure
from lodeline.text.times import days_words, hours_words, short_date

_HUNDRED = 100.0


def in_store(tracked: Tracked, standing: Standing | None, display: Display) -> str:
    """What is in a tank or in the bottle in use: ``Gas bottle: 4.2 to 5.0 kg, 42 % (propane)``."""
    store = tracked.store
    low, high = tracked.level_range
    if tracked.known_since is None:
        return f"{store.name}: not known yet; weigh, read or fill it."
    name = store.name
    whole = store.capacity
    if standing is not None and standing.in_use is not None:
        name, whole = f"{store.name} ({standing.in_use.name} in use)", standing.in_use.holds
    share = percent_span(min(1.0, low / whole), min(1.0, high / whole))
    volume = f", {display.span(litres(store, low), litres(store, high), 'L')} of liquid" if store.tank_l else ""
    opened = ""
    if standing is not None and standing.opened is not None and store.is_gas:
        opened = f"; opened {short_date(display.local(standing.opened).date())}"
    return f"{name}: {display.span(low, high, store.unit)}, {share}{volume}{opened}"


def spare(spare: InSpare, display: Display) -> str:
    """A bottle or can apart: ``Second bottle: full, 6 kg, weighs 13.2 kg, in the locker``."""
    held = spare.spare
    if spare.in_use:
        return f"{held.name}: in use"
    unit = "kg" if held.tare_kg is not None else ""
    state = "empty" if spare.contents < _EMPTY * held.holds else "full" if spare.is_full else "begun"
    parts = [state]
    return f"{held.name}: {_details(parts, spare, unit, display)}"


def _details(parts: list[str], spare: InSpare, unit: str, display: Display) -> str:
    if spare.spare.contents is not None:
        parts.append(spare.spare.contents.replace("-", " "))
    if unit:
        parts.append(f"weighs {display.amount(spare.kg, 'kg')}")
    if spare.spare.where:
        parts.append(spare.spare.where)
    return ", ".join(parts)


_EMPTY = 0.03


def apart(stored: InSpare, store: Store, display: Display) -> str:
    """The same with what is in it."""
    if stored.in_use:
        return spare(stored, display)
    whole = display.contents(store, stored.spare.holds)
    return f"{spare(stored, display)}; {display.contents(store, stored.contents)} of {whole}"


def own_bottle(standing: Standing, display: Display) -> str | None:
    """A store's own bottle, where another stands in its place."""
    if standing.own is None:
        return None
    state = "empty" if standing.own <= 0 else display.contents(standing.store, standing.own)
    return f"The first bottle: {state}"


def full_ones(standing: Standing) -> str | None:
    """How many full ones stand apart."""
    if not standing.spares or not standing.store.is_gas:
        return None
    n = standing.n_full
    changes = "the next takes over by itself" if standing.store.changes_itself else "changed by hand"
    return f"{counted(n, 'full one') if n else 'No full one'} apart; {changes}."


def cold(bottle: ColdBottle, display: Display) -> str | None:
    """What the night does to a bottle; None where it does nothing."""
    name, low = bottle.store.name, display.amount(bottle.low_c, "degC")
    if bottle.contents_kg <= 0:
        return None
    if not bottle.burns:
        least = display.amount(bottle.least_c, "degC")
        return f"{name} will not burn tonight: what is in it gives no gas below {least}, and {low} is expected."
    if bottle.locked_kg > _LOCKED_KG:
        locked = display.amount(bottle.locked_kg, "kg")
        return f"{locked} of {name} cannot be used at {low}: its propane boils off first, the butane stays."
    if bottle.is_weak:
        gives, wants = (display.amount(rate, "kg") for rate in (bottle.gives_kg_per_h, bottle.wants_kg_per_h))
        return (
            f"{name} is small and cold for its heater: it gives about {gives} an hour for long at {low}, the heater "
            f"takes {wants} at its full rate (common practice)."
        )
    return None


_LOCKED_KG = 0.1


def burn(burn: Burn, display: Display) -> str:
    """One appliance: ``0.14 kg an hour, 0.24 kg a day, 80 % of what burns; a full bottle lasts it 25 days``."""
    store = burn.store
    parts = [
        f"{_small(burn.per_hour, store, display)} an hour at full",
        f"{_small(burn.per_day, store, display)} a day",
    ]
    if burn.days_of_full is not None:
        parts.append(f"full, {store.name} lasts it {days_words(burn.days_of_full)}")
    if burn.wh_per_day >= 1:
        parts.append(f"draws {display.amount(burn.wh_per_day, 'Wh')} a day from the bank")
    if feeds := _feeds(burn):
        parts.append(feeds)
    return "; ".join(parts)


def share(burn: Burn) -> str:
    """``80 % of what burns from Gas bottle``."""
    return f"{percent(burn.share)} of what burns from {burn.store.name}"


def _small(amount: float, store: Store, display: Display) -> str:
    how = display.unit(store.unit)
    return f"{two_digits(how.to_shown(amount))} {how.unit}"


_FEEDS = {Feed.DC: "on the bank", Feed.MAINS: "on mains", Feed.OFF: "off"}


def _feeds(burn: Burn) -> str:
    said = []
    if burn.appliance.driving_on is not Feed.FUEL:
        said.append(f"{_FEEDS[burn.appliance.driving_on]} while driving")
    if burn.appliance.plugged_on is not Feed.FUEL:
        said.append(f"{_FEEDS[burn.appliance.plugged_on]} while plugged in")
    return listed(said)


def held(held: Held, display: Display) -> str:
    """The list against the log: ``the list burns 0.31 kg a day, the log shows 0.42: something runs more ...``."""
    store = held.store
    listed_words = _small(held.listed, store, display)
    how = display.unit(store.unit)
    of_log = (held.logged.p50, held.logged.p10, held.logged.p90)
    logged, low, high = (two_digits(how.to_shown(each)) for each in of_log)
    span = f"{low} to {high}"
    text = f"{store.name}: over the last {counted(held.days, 'day')} the list burns {listed_words} a day"
    if not held.told:
        return f"{text}; there is too little log yet to hold against it."
    text += f", the log shows {logged} ({span})"
    if not held.is_apart:
        return f"{text}: they agree."
    more = "more than the list" if held.times > 1 else "less than the list"
    parts = []
    if held.heat is not None:
        parts.append(f"heating {figure(held.heat, 1)} of it")
    if held.rest is not None:
        parts.append(f"all else {figure(held.rest, 1)} of it")
    told = f": {listed(parts)}" if parts else ""
    return f"{text}, {more}{told}."


def stays(line: MustStay, display: Display) -> str:
    """What must stay in a store, and why."""
    store = line.store
    level = display.contents(store, line.level)
    parts = [f"{store.name}: {level} must stay"]
    if line.pump is not None and line.pump_km is not None and line.pump_spot is not None:
        way = display.amount(line.pump_km, "km")
        pump = f"{display.contents(store, line.pump)} for the {way} to {line.pump_spot.name}, with a margin"
        parts.append(pump)
    if not store.by_pump or line.pump is None:
        parts.append(f"the line is set at {percent(store.line)} of the tank")
    if line.buffer > 0:
        parts.append(f"{display.contents(store, line.buffer)} on top for {_days(store.buffer_days)} without supply")
    return "; ".join(parts) + "."


def _days(days: float) -> str:
    return counted(round(days, 1), "day")


def range_words(bounds: Range, display: Display) -> str:
    """The range above what must stay."""
    return f"{display.rough_span(bounds.p10, bounds.p90, 'km')} above what must stay"


def ring(bounds: Range, display: Display) -> str:
    """The range as a ring of the sketch."""
    return f"range, about {display.rough(bounds.p50, 'km')}"


def goes(bounds: Range, store: Store, ways: Ways, taught: bool, display: Display) -> list[str]:
    """How far a litre goes, as drives and levels teach, by hand from full to full, on fast roads and slow.

    ``taught``: whether the log tells of any way at all.
    """
    by = "as the log teaches" if taught else "assumed until drives are logged with their way"
    said = [f"{store.name}: {_per_hundred(bounds, display)}, {_km_per_l(1 / bounds.p50, display)}, {by}."]
    if ways.spans:
        last = ways.spans[-1]
        said.append(
            f"By hand, full to full: {_km_per_l(last.km_per_l, display)} over {display.amount(last.km, 'km')} "
            f"and {display.amount(last.litres, 'L')}, until {short_date(display.local(last.until).date())}."
        )
    roads = [
        f"{_km_per_l(value, display)} on {name} roads"
        for name, value in (("fast", ways.fast_km_per_l), ("slow", ways.slow_km_per_l))
        if value is not None
    ]
    return [*said, *([capital(listed(roads)) + "."] if roads else [])]


def _per_hundred(bounds: Range, display: Display) -> str:
    far = display.unit("km").unit
    return f"{display.per(bounds.p50, 'L', 'km', _HUNDRED, 1)} per 100 {far}"


def _km_per_l(km: float, display: Display) -> str:
    far, volume = display.unit("km"), display.unit("L")
    return f"{figure(km * far.factor / volume.factor, 1)} {far.unit} per {volume.unit}"


def cost(cost: Cost, display: Display) -> str:
    """What a kilowatt-hour takes one way."""
    parts = [f"{hours_words(cost.runs_h)} for 1 kWh"]
    if cost.litres:
        parts.append(f"{display.amount(cost.litres, 'L')} of fuel")
    elif cost.litres is None:
        parts.append("what it burns an hour is not said")
    if cost.money is not None:
        parts.append(f"{display.money(round(cost.money, 2))} at known prices")
    return f"{cost.source.kind.name}: {', '.join(parts)}"


def worth(worth: Worth, display: Display) -> str:
    """Whether a generator was worth carrying."""
    season = f"In {counted(worth.days, 'day')} it ran {counted(round(worth.hours, 1), 'hour')}"
    if worth.runs == 0:
        return f"In {counted(worth.days, 'day')} the generator was not run once."
    burnt = f", burnt {display.amount(worth.litres, 'L')}" if worth.litres is not None else ""
    gave = f" and gave {figure(worth.kwh, 1)} kWh"
    text = f"{season}{burnt}{gave}."
    if worth.nights is None:
        return text
    if worth.nights == 0:
        return f"{text} The bank would have stayed above its line every night without it."
    text += f" It saved {counted(worth.nights, 'night')} on which the bank would have gone under its line."
    return (
        f"{text} Another 100 W of panels would have saved {worth.with_panel} of them, another 100 Ah {worth.with_bank}."
    )


def oil(worth: Worth) -> str:
    """The generator's oil, by hours."""
    left = worth.oil_due_h - worth.oil_h
    run = f"{counted(round(worth.oil_h, 1), 'hour')} since its oil was changed"
    if left <= 0:
        return f"Generator: {run}; it is due."
    return f"Generator: {run}, due in {counted(round(left, 1), 'hour')}."


ANSWERS = {Answer.YES: "Yes.", Answer.TIGHT: "It is tight.", Answer.NO: "No."}


def read_first(store: Store) -> str:
    """What has to be logged before anything can be asked of a store."""
    return f"{store.name} was never read: take one reading of it in the Round, and it can be asked."


def verdict(verdict: BurnVerdict, display: Display) -> list[str]:
    """The answer to *can I run it?*, line by line."""
    store, ask = verdict.store, verdict.ask
    takes = _small(verdict.takes, store, display)
    said = [f"{ANSWERS[verdict.answer]} It takes {takes} of {store.name}, {_what(verdict, display)}."]
    left = f"{display.contents(store, verdict.left)} would be left"
    if verdict.left_days is not None and verdict.heats:
        left += f", for {counted(round(verdict.left_days, 1), 'night')} as they are expected"
    elif verdict.left_days is not None:
        left += f", for {days_words(verdict.left_days)} as it is used"
    said.append(f"{left}.")
    if ask.appliance.kind.by_cold and verdict.costs_days is not None:
        said.append(f"That is {days_words(verdict.costs_days)} of usual use.")
    if verdict.locked > _LOCKED_KG:
        said.append(f"{display.amount(verdict.locked, 'kg')} of what is left cannot be used in that cold.")
    if verdict.too_fast:
        said.append("The bottle is small and cold for that: it may freeze up and give less (common practice).")
    if verdict.short and verdict.held_c is not None:
        said.append(f"It cannot hold the temperature below {display.amount(verdict.held_c, 'degC')} outside.")
    if verdict.bank is not None:
        low = percent_span(verdict.bank.low_with.p10, verdict.bank.low_with.p90)
        said.append(f"The bank gives {display.amount(verdict.wh, 'Wh')} to it; its low is then {low}.")
    elif verdict.wh:
        said.append(f"It draws {display.amount(verdict.wh, 'Wh')} from the bank, of which nothing is known.")
    if verdict.asleep:
        said.append("Never while asleep: it has no flue, and takes the air that you breathe.")
    if verdict.water_l > _WET_L:
        said.append(f"It puts {display.amount(verdict.water_l, 'L')} of water into the air: keep a vent open.")
    return said


_WET_L = 0.1


def _what(verdict: BurnVerdict, display: Display) -> str:
    ask = verdict.ask
    if ask.night_c is not None:
        return f"ten hours of a night at {display.amount(ask.night_c, 'degC')}"
    if ask.litres is not None:
        return f"{display.amount(ask.litres, 'L')} of hot water"
    return f"{hours_words(verdict.hours)} at {exact(ask.appliance.full_kw)} kW"


def wet(litres_a_day: float, display: Display) -> str | None:
    """The water that burning without a flue puts into the air."""
    if litres_a_day < _WET_L:
        return None
    return (
        f"What burns without a flue puts about {display.amount(litres_a_day, 'L')} of water into the air a day "
        "and takes its oxygen: air the room while it burns."
    )
