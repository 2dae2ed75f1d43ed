"""What would help the bank: changes to the rig or to habits, each run on the same paths."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import assert_never

import numpy as np

from lodeline.core.catalogue import Sparing, When
from lodeline.core.energy.loads import DAY_SHARE
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.change import NO_CHANGE, Change
from lodeline.core.forecast.energy_ahead import EnergyAhead, energy_ahead
from lodeline.core.forecast.paths import Ahead
from lodeline.core.rig import Load, Rig, SolarArray, Source, Store
from lodeline.core.tracking.belief import BIAS, Belief
from lodeline.core.tracking.hypothesis import Possible
from lodeline.core.tracking.track import Tracked
from lodeline.core.zone import HOURS


class LeverKind(StrEnum):
    """What is changed."""

    PANEL = "panel"
    BANK = "bank"
    SOURCE = "source"
    LOAD = "load"
    INVERTER_OFF = "inverter-off"


@dataclass(frozen=True, slots=True, kw_only=True)
class Lever:
    """One change and what comes of it.

    ``amount``: watts of panel or amp-hours of bank; ``source`` and ``load``: what it is done with, and ``sparing`` how.
    Lows are shares of capacity, at the middle of their range.
    """

    id: str
    kind: LeverKind
    amount: float | None = None
    source: Source | None = None
    load: Load | None = None
    sparing: Sparing | None = None
    low_before: float
    low_after: float
    hold_before: float
    hold_after: float
    days_before: float | None
    days_after: float | None
    no_sun_before: float
    no_sun_after: float

    @property
    def has_effect(self) -> bool:
        """Whether it brings anything worth saying."""
        return (
            _beyond(self.days_after) - _beyond(self.days_before) > Forecasting.effect_days
            or self.hold_after - self.hold_before > Forecasting.effect_hold
            or self.low_after - self.low_before > Forecasting.effect_low
        )


def _beyond(days: float | None) -> float:
    """Days left as a number; None lies beyond any horizon, 0 is now."""
    return Forecasting.beyond_days if days is None else days


@dataclass(frozen=True, slots=True, kw_only=True)
class BankCase:
    """A change to try: the rig and the bank as they would be, and what is added to the paths."""

    id: str
    kind: LeverKind
    rig: Rig
    store: Store
    amount: float | None = None
    source: Source | None = None
    load: Load | None = None
    sparing: Sparing | None = None
    change: Change = NO_CHANGE


def levers(ahead: Ahead, tracked: Tracked, spread_scale: float = 1.0) -> list[Lever]:
    """Every lever that this rig has, by the days that are left with it, then by the low."""
    now = energy_ahead(ahead, tracked, spread_scale=spread_scale)
    tried = []
    for case in bank_cases(ahead, tracked):
        changed = _resized(tracked, case.store)
        after = energy_ahead(replace(ahead, rig=case.rig), changed, case.change, spread_scale)
        tried.append(_lever(case, now, after))
    return sorted(tried, key=lambda each: (-_beyond(each.days_after), -each.low_after))


def _lever(case: BankCase, now: EnergyAhead, after: EnergyAhead) -> Lever:
    return Lever(
        id=case.id,
        kind=case.kind,
        amount=case.amount,
        source=case.source,
        load=case.load,
        sparing=case.sparing,
        low_before=now.low.p50,
        low_after=after.low.p50,
        hold_before=now.hold,
        hold_after=after.hold,
        days_before=now.p50_days,
        days_after=after.p50_days,
        no_sun_before=now.no_sun_days.p50,
        no_sun_after=after.no_sun_days.p50,
    )


def _resized(tracked: Tracked, store: Store) -> Tracked:
    """The same state of charge in a bank of another size."""
    scale = np.ones(len(tracked.belief.mean))
    scale[0] = scale[BIAS] = store.capacity / tracked.store.capacity

    def resized(belief: Belief) -> Belief:
        return Belief(belief.mean * scale, belief.cov * np.outer(scale, scale))

    parts = tuple(Possible(each.weight, resized(each.belief)) for each in tracked.parts)
    return replace(tracked, store=store, belief=resized(tracked.belief), parts=parts)


def _with_store(rig: Rig, store: Store) -> Rig:
    return replace(rig, stores=tuple(store if each.id == store.id else each for each in rig.stores))


def bank_cases(ahead: Ahead, tracked: Tracked) -> Iterable[BankCase]:
    """What may be changed about a bank: the rig as it then would be, or what runs for a while."""
    rig, store = ahead.rig, tracked.store
    like = rig.solar[0] if rig.solar else SolarArray("roof", 0.0)
    panel = replace(like, id="another", watts=Forecasting.panel_w, controller_amps=None)
    more = replace(rig, solar=(*rig.solar, panel))
    yield BankCase(id="panel", kind=LeverKind.PANEL, amount=Forecasting.panel_w, rig=more, store=store)
    at_v = Forecasting.more_ah_v
    more_ah = Forecasting.more_ah * at_v / max(store.volts, at_v)
    bigger = replace(store, capacity=store.capacity + more_ah, layout=None)
    yield BankCase(id="bank", kind=LeverKind.BANK, amount=more_ah, rig=_with_store(rig, bigger), store=bigger)
    for source in rig.sources:
        yield _sourced(ahead, rig, store, source)
    yield from _spared(rig, store)
    if rig.inverter and rig.inverter.always_on and rig.inverter.idle_watts:
        off = replace(rig, inverter=replace(rig.inverter, always_on=False))
        yield BankCase(id="inverter", kind=LeverKind.INVERTER_OFF, rig=off, store=store)


def _sourced(ahead: Ahead, rig: Rig, store: Store, source: Source) -> BankCase:
    """A source run for a while tomorrow, from its usual hour."""
    push = np.zeros((len(ahead.days), int(HOURS)))
    start = int(source.kind.from_h)
    push[min(1, len(push) - 1), start : start + source.kind.trial_h] = source.amps
    change = Change(push=push)
    return BankCase(id=f"source-{source.id}", kind=LeverKind.SOURCE, source=source, rig=rig, store=store, change=change)


def _spared(rig: Rig, store: Store) -> Iterable[BankCase]:
    """What each load's kind allows; of those that can only run for less time, the largest."""
    shorter = []
    for load in rig.loads:
        sparing = load.kind.sparing
        match sparing:
            case Sparing.ICE_AT_NIGHT | Sparing.OFF_AT_NIGHT:
                if load.when is not When.DAY:
                    yield _load_case(rig, store, load, _off_at_night(load), sparing)
            case Sparing.HALF_AS_LONG:
                shorter.append(load)
            case _:
                assert_never(sparing)
    if shorter:
        largest = max(shorter, key=lambda each: each.watts * each.hours_per_day)
        half = replace(largest, hours_per_day=largest.hours_per_day / 2)
        yield _load_case(rig, store, largest, half, Sparing.HALF_AS_LONG)


def _load_case(rig: Rig, store: Store, load: Load, changed: Load, sparing: Sparing) -> BankCase:
    loads = tuple(changed if each.id == load.id else each for each in rig.loads)
    return BankCase(
        id=f"{sparing}-{load.id}",
        kind=LeverKind.LOAD,
        load=load,
        sparing=sparing,
        rig=replace(rig, loads=loads),
        store=store,
    )


def _off_at_night(load: Load) -> Load:
    """The load without its hours at night."""
    share = {When.ANY: DAY_SHARE, When.NIGHT: 0.0, When.DAY: 1.0}[load.when]
    return replace(load, hours_per_day=load.hours_per_day * share, when=When.DAY)
