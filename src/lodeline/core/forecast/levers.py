"""What would help the bank: changes to the rig or to habits, each run on the same paths."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

import numpy as np

from lodeline.core.forecast.bank_paths import Extra
from lodeline.core.forecast.energy_ahead import EnergyAhead, energy_ahead
from lodeline.core.forecast.paths import Ahead
from lodeline.core.rig import Load, Rig, SolarArray, Source, Store
from lodeline.core.tracking.belief import Belief
from lodeline.core.tracking.track import Tracked

PANEL_W, MORE_AH = 100.0, 100.0
# Words in a load's name that tell what it is.
_FRIDGES = ("fridge", "freezer", "cool")
_NETS = ("internet", "router", "satellite", "modem", "wifi", "wi-fi")


_BEYOND_DAYS = 99.0


def _beyond(days: float | None) -> float:
    """Days left as a number; None lies beyond any horizon, 0 is now."""
    return _BEYOND_DAYS if days is None else days


@dataclass(frozen=True, slots=True)
class Lever:
    """One change and what comes of it. Lows are shares of capacity, at the middle of their range."""

    id: str
    name: str
    low_before: float
    low_after: float
    hold_before: float
    hold_after: float
    days_before: float | None
    days_after: float | None
    no_sun_before: float
    no_sun_after: float

    @property
    def buys(self) -> bool:
        """Whether it buys anything worth saying."""
        more_days = _beyond(self.days_after) - _beyond(self.days_before)
        return more_days > 0.2 or self.hold_after - self.hold_before > 0.02 or self.low_after - self.low_before > 0.01


@dataclass(frozen=True, slots=True)
class _Case:
    id: str
    name: str
    rig: Rig
    store: Store
    extra: Extra | None = None


def levers(ahead: Ahead, tracked: Tracked, widen: float = 1.0) -> list[Lever]:
    """Every lever that this rig has, by the days that are left with it, then by the low."""
    now = energy_ahead(ahead, tracked, widen=widen)
    found = []
    for case in _cases(ahead, tracked):
        changed = replace(tracked, store=case.store, belief=_same_share(tracked, case.store))
        after = energy_ahead(replace(ahead, rig=case.rig), changed, case.extra, widen)
        found.append(_lever(case, now, after))
    return sorted(found, key=lambda each: (-_beyond(each.days_after), -each.low_after))


def _lever(case: _Case, now: EnergyAhead, after: EnergyAhead) -> Lever:
    return Lever(
        case.id, case.name, now.low.p50, after.low.p50, now.hold, after.hold, now.p50_days, after.p50_days,
        now.no_sun_days.p50, after.no_sun_days.p50,
    )  # fmt: skip


def _same_share(tracked: Tracked, store: Store) -> Belief:
    """The belief with the same state of charge in a bank of another size."""
    if store.capacity == tracked.store.capacity:
        return tracked.belief
    scale = np.ones(len(tracked.belief.mean))
    scale[[0, -1]] = store.capacity / tracked.store.capacity
    return replace(tracked.belief, mean=tracked.belief.mean * scale, cov=tracked.belief.cov * np.outer(scale, scale))


def _with_store(rig: Rig, store: Store) -> Rig:
    return replace(rig, stores=tuple(store if each.id == store.id else each for each in rig.stores))


def _cases(ahead: Ahead, tracked: Tracked) -> Iterable[_Case]:
    rig, store = ahead.rig, tracked.store
    like = rig.solar[0] if rig.solar else SolarArray("roof", 0.0)
    panel = replace(like, id="another", watts=PANEL_W, controller_amps=None)
    yield _Case("panel", f"Another {PANEL_W:.0f} W of panel", replace(rig, solar=(*rig.solar, panel)), store)
    bigger = replace(store, capacity=store.capacity + MORE_AH * 12.0 / max(store.volts, 12.0), layout=None)
    yield _Case("bank", f"{bigger.capacity - store.capacity:.0f} Ah more of bank", _with_store(rig, bigger), bigger)
    for source in rig.sources:
        yield _sourced(ahead, rig, store, source)
    for load in rig.loads:
        name = load.name.lower()
        if any(word in name for word in _FRIDGES) and load.when != "day":
            yield _Case("fridge", f"{load.name} off at night, with ice packs", _off_at_night(rig, load), store)
        if any(word in name for word in _NETS) and load.when != "day":
            yield _Case("net", f"{load.name} off at night", _off_at_night(rig, load), store)
    if rig.inverter and rig.inverter.always_on and rig.inverter.idle_watts:
        off = replace(rig, inverter=replace(rig.inverter, always_on=False))
        yield _Case("inverter", "Inverter off when nothing runs through it", off, store)
    rest = [load for load in rig.loads if not any(word in load.name.lower() for word in (*_FRIDGES, *_NETS))]
    if rest:
        largest = max(rest, key=lambda each: each.watts * each.hours_per_day)
        half = replace(largest, hours_per_day=largest.hours_per_day / 2)
        yield _Case("half", f"{largest.name} half as long", _with_load(rig, half), store)


def _sourced(ahead: Ahead, rig: Rig, store: Store, source: Source) -> _Case:
    names = {
        "alternator": "Drive an hour tomorrow", "generator": "Generator an hour tomorrow evening",
        "shore": "A post for tomorrow night",
    }  # fmt: skip
    start, hours = {"alternator": (11, 1), "generator": (17, 1), "shore": (17, 7)}[source.kind]
    push = np.zeros((len(ahead.days), 24))
    push[min(1, len(push) - 1), start : start + hours] = source.amps
    return _Case(f"source-{source.id}", names[source.kind], rig, store, Extra(np.zeros_like(push), push))


def _with_load(rig: Rig, load: Load) -> Rig:
    return replace(rig, loads=tuple(load if each.id == load.id else each for each in rig.loads))


def _off_at_night(rig: Rig, load: Load) -> Rig:
    """The load without its hours from six in the evening to seven in the morning."""
    share = {"any": 11 / 24, "night": 0.0}[load.when]
    return _with_load(rig, replace(load, hours_per_day=load.hours_per_day * share, when="day"))
