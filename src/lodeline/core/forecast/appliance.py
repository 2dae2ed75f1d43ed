"""Can I run it? What an appliance asks of inverter, cable and bank, and what it does to tonight's low."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np

from lodeline.core.energy import bank
from lodeline.core.energy.charging import hours_words
from lodeline.core.energy.figures import figure
from lodeline.core.energy.sun import Floats
from lodeline.core.errors import Refused
from lodeline.core.forecast.bank_paths import Extra, simulate_bank
from lodeline.core.forecast.energy_ahead import Range, ranged
from lodeline.core.forecast.paths import Ahead, Paths
from lodeline.core.rig import Rig
from lodeline.core.tracking.bank_use import bank_day
from lodeline.core.tracking.track import Tracked

# The low is looked for this long after the start.
_LOOK_H = 24.0
# A short run may draw more than a long one.
_SHORT_MIN, _SHORT_FACTOR = 10.0, 2.0
_LONGEST_WAY_H = 6.0
# From here on cable and fuse are worth a word.
_BIG_W = 1000.0
# The low must stay above the line in this share of cases for a plain yes.
_SURE = 0.9


@dataclass(frozen=True, slots=True)
class Run:
    """An appliance: ``watts`` while it runs, ``surge`` its starting draw over that, from ``start_h`` hours from now."""

    watts: float
    minutes: float
    start_h: float
    via: str = "inverter"
    surge: float = 1.0
    heats: bool = False


@dataclass(frozen=True, slots=True)
class Verdict:
    """``answer``: yes, tight or no. ``why`` and ``ways`` are sentences; lows are shares of capacity."""

    answer: str
    current_a: float
    ah: float
    share: float
    low_without: Range
    low_with: Range
    low_at: datetime
    latest_start: datetime | None
    why: tuple[str, ...]
    ways: tuple[str, ...]
    cautions: tuple[str, ...]


def can_run(ahead: Ahead, tracked: Tracked, run: Run, widen: float = 1.0) -> Verdict:
    """Answer for one run of an appliance.

    Raises
    ------
    Refused
        The start lies outside the coming two days.
    """
    if not 0 <= run.start_h <= 48:
        raise Refused("start", "lies outside the coming two days")
    rig, store = ahead.rig, tracked.store
    efficiency = rig.inverter.efficiency if run.via == "inverter" and rig.inverter else 1.0
    current = run.watts / efficiency / store.volts
    ah = bank.peukert_ah(store, current, run.minutes / 60)
    until_h = run.start_h + _LOOK_H
    without, _ = _lows(simulate_bank(ahead, tracked, widen), until_h)
    extra = Extra(_draw(ahead, run, ah), np.zeros((len(ahead.days), 24)))
    lows, low_h = _lows(simulate_bank(ahead, tracked, widen, extra), until_h)
    before, after = ranged(without / store.capacity), ranged(lows / store.capacity)
    why, blocked = _limits(rig, run, current, store.capacity, bank.cells(store).most_draw_c)
    above = float((lows > store.line_level).mean())
    answer = "no" if blocked or after.p50 <= store.line else "yes" if above >= _SURE else "tight"
    if not blocked:
        why.append(_low_words(above, after, store.line))
    ways = _ways(ahead, tracked, run, ah, answer, blocked, before)
    return Verdict(
        answer, current, ah, ah / store.capacity, before, after, ahead.now + timedelta(hours=low_h),
        _latest(ahead, tracked, ah), tuple(why), tuple(ways), _cautions(run, ways),
    )  # fmt: skip


def _draw(ahead: Ahead, run: Run, ah: float) -> Floats:
    """The run's amp-hours over the clock hours that it covers, shape (n_dates, 24)."""
    begin = ahead.hour + run.start_h
    end = begin + run.minutes / 60
    hours = np.arange(24 * len(ahead.days))
    covered = np.clip(np.minimum(hours + 1, end) - np.maximum(hours, begin), 0.0, None)
    total = covered.sum()
    spread: Floats = (ah * covered / total if total else covered).reshape(len(ahead.days), 24)
    return spread


def _lows(paths: Paths, until_h: float) -> tuple[Floats, float]:
    """The lowest contents of each path until some hours from now, shape (n_paths,), and when the middle is there."""
    assert paths.bank is not None
    rows = paths.bank.hours_ahead <= until_h
    within = paths.bank.hourly[rows]
    at = float(paths.bank.hours_ahead[rows][int(np.argmin(np.median(within, axis=1)))])
    return np.minimum(within.min(axis=0), paths.start), at


def _limits(rig: Rig, run: Run, current: float, capacity: float, most_c: float) -> tuple[list[str], bool]:
    said, blocked = [], False
    inverter = rig.inverter
    if run.via == "inverter":
        if inverter is None:
            return ["There is no inverter aboard, and it needs one."], True
        if run.watts > inverter.watts:
            said.append(f"It draws {run.watts:,.0f} W; the inverter gives {inverter.watts:,.0f} W.")
            blocked = True
        surge = inverter.surge_watts or inverter.watts
        if run.watts * run.surge > surge:
            said.append(f"Starting takes about {run.watts * run.surge:,.0f} W; the inverter's surge is {surge:,.0f} W.")
            blocked = True
        if not blocked:
            said.append(f"The inverter carries it: {run.watts:,.0f} of {inverter.watts:,.0f} W.")
    most = most_c * capacity * (_SHORT_FACTOR if run.minutes <= _SHORT_MIN else 1.0)
    if current > most:
        said.append(
            f"{current:.0f} A is over {most:.0f} A, about the most that a bank of this kind and size should give "
            f"for {run.minutes:.0f} minutes."
        )
        blocked = True
    return said, blocked


def _low_words(above: float, low: Range, line: float) -> str:
    if above >= _SURE:
        return f"The low stays above the line of {line * 100:.0f} % in {min(99, above * 100):.0f} of 100 cases."
    if low.p50 > line:
        return f"The low stays above the line of {line * 100:.0f} % in only {above * 100:.0f} of 100 cases."
    return f"The low would be about {low.p50 * 100:.0f} %, under the line of {line * 100:.0f} %."


def net_sun_ah(ahead: Ahead, tracked: Tracked) -> Floats:
    """Expected sun less loads in each hour of each date where sun leads, shape (n_dates, 24). [Ah]"""
    coefficients = tracked.belief.coefficients
    rows = []
    for index, day in enumerate(ahead.days):
        influence = bank_day(ahead.rig, tracked.store, tracked.model, day, tracked.usual_sky, 0.0, index)
        rows.append(influence.hourly @ coefficients)
    return np.maximum(np.stack(rows), 0.0)


def _latest(ahead: Ahead, tracked: Tracked, ah: float) -> datetime | None:
    """The latest start, today or tomorrow, after which that day's expected sun still puts the draw back."""
    net = net_sun_ah(ahead, tracked)
    for index in (0, 1):
        if index >= len(net):
            break
        left = np.cumsum(net[index][::-1])[::-1]
        hours = [h for h in range(24) if left[h] >= ah and (index > 0 or h >= ahead.hour)]
        if hours:
            midnight = ahead.now - timedelta(hours=ahead.hour) + timedelta(days=index)
            return max(ahead.now, midnight + timedelta(hours=max(hours)))
    return None


def _ways(ahead: Ahead, tracked: Tracked, run: Run, ah: float, answer: str, blocked: bool, low: Range) -> list[str]:
    """What would make it possible."""
    if answer == "yes":
        return []
    store, rig, ways = tracked.store, ahead.rig, []
    if blocked:
        if run.via == "inverter" and (rig.inverter is None or run.watts > rig.inverter.watts):
            ways.append(
                f"An inverter of {np.ceil(run.watts * 1.2 / 100) * 100:,.0f} W or more, its fuse and cable to match."
            )
        ways.append("A weaker model of the same thing, run for longer, or the same on gas.")
        if any(source.kind in ("shore", "generator") for source in rig.sources):
            ways.append("Straight from a post or a generator, past the inverter.")
        return ways
    spare = max(0.0, (low.p10 - store.line) * store.capacity)
    minutes = int(run.minutes * min(1.0, spare / ah) // 5 * 5) if ah > 0 else 0
    if minutes >= 5:
        ways.append(f"Run it for {minutes} minutes at most.")
    latest = _latest(ahead, tracked, ah)
    if latest is not None:
        ways.append(f"Run it while the sun is up, by {_local(ahead, latest)}, and the sun puts it back.")
    for source in rig.sources:
        hours = ah / (source.amps * bank.charge_efficiency(store))
        verb = {"alternator": "Drive", "shore": "Plug in for", "generator": "Run the generator for"}[source.kind]
        if hours <= _LONGEST_WAY_H:
            ways.append(f"{verb} {hours_words(hours)}, which puts the {ah:.0f} Ah back.")
    if not ways:
        ways.append("A bigger bank or more panels; see what would help.")
    return ways


def _local(ahead: Ahead, at: datetime) -> str:
    local, now = (each.astimezone(ZoneInfo(ahead.rig.timezone)) for each in (at, ahead.now))
    return f"{local:%H:%M}" + ("" if local.date() == now.date() else f" on {local:%A}")


def _cautions(run: Run, ways: list[str]) -> tuple[str, ...]:
    """What is said with the answer: of mains and heat, and of gas and generator where a way leads there."""
    said = []
    if any("gas" in way for way in ways):
        said.append("While gas burns, air the room; never cook to heat it, least of all while asleep.")
    if any("generator" in way for way in ways):
        said.append("A generator runs outdoors, exhaust away, never beside a window.")
    if run.via == "inverter":
        said.append("Mains from an inverter can kill: sockets, fuses and cable by someone licensed, to local code.")
    if run.heats:
        said.append("Anything that heats stays in sight and clear of cloth, and is never left on while asleep.")
    if run.watts > _BIG_W:
        said.append(
            f"Cable and fuse must be sized for the current; a loss of {figure('cable_v_drop') * 100:.0f} % is usual."
        )
    return tuple(said)
