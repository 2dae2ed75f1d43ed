"""Why a lane looks as it does: what the level rests on, what use was assumed, what widens the range most."""

from collections.abc import Mapping
from datetime import datetime
from enum import StrEnum

import numpy as np

from lodeline.core.catalogue import Driver, GaugeKind, SkyWord
from lodeline.core.energy.loads import listed_wh
from lodeline.core.figures import Numeric
from lodeline.core.forecast.forecast import StoreForecast
from lodeline.core.log import Reading
from lodeline.core.rig import Rig, Store
from lodeline.core.tracking.energy_past import learned_load_wh, strengths
from lodeline.core.tracking.evidence import gauge_error
from lodeline.core.tracking.tracked import Tracked
from lodeline.core.values import dataclass
from lodeline.core.zone import City, city_of


class Widest(StrEnum):
    """What the range of the days left comes from most."""

    LEVEL = "level"
    USE = "use"
    DAYS = "days"
    SKY = "sky"


class Advice(StrEnum):
    """What would narrow the range most."""

    WEIGH = "weigh"
    READ_ONCE = "read-once"
    READ_EVENINGS = "read-evenings"


@dataclass(frozen=True, slots=True, kw_only=True)
class BankUse:
    """What a bank's use is taken as: loads a day, their share of the list, the array under a clear sky or None."""

    load_wh: float
    of_list: float
    clear_strength: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Reasons:
    """Why a lane looks as it does.

    ``gauge_sd``: the gauge's error as a share of capacity, None where it is not worth saying. ``coefficients``: what
    each driver is taken to move, in the store's unit; empty for a bank. ``share``: how much of the range comes from
    the widest part. ``stands_in``: the city that stands in for a place that nobody logged, where the sun matters.
    ``air_c``: the mean temperature that is taken as usual, where the cold matters and nobody logged it. [degC]
    """

    store: Store
    last_reset: datetime | None
    last_reading: Reading | None
    gauge_sd: float | None
    assumed: bool
    days_seen: float
    coefficients: Mapping[str, float]
    bank: BankUse | None
    widest: Widest | None
    share: float | None = None
    advice: Advice | None = None
    stands_in: City | None = None
    air_c: float | None = None


def reasons(rig: Rig, tracked: Tracked, ahead: StoreForecast) -> Reasons | None:
    """The facts behind a lane; None before the store is known."""
    if tracked.known_since is None or ahead.rate_per_day is None:
        return None
    store = tracked.store
    is_exact = store.gauge.kind not in (GaugeKind.STEPS, GaugeKind.NONE)
    coefficients = dict(zip(tracked.model.drivers, map(float, tracked.belief.coefficients), strict=True))
    widest, share, advice = _widest(rig, tracked, ahead)
    return Reasons(
        store=store,
        last_reset=tracked.last_reset,
        last_reading=tracked.last_reading,
        gauge_sd=gauge_error(store).sd if is_exact else None,
        assumed=tracked.assumed,
        days_seen=tracked.days_seen,
        coefficients={} if store.is_bank else coefficients,
        bank=_bank_use(rig, tracked) if store.is_bank else None,
        widest=widest,
        share=share,
        advice=advice,
        air_c=_assumed_air(tracked),
        stands_in=city_of(rig.timezone) if store.is_bank and rig.solar and tracked.conditions.place is None else None,
    )


def _assumed_air(tracked: Tracked) -> float | None:
    day = tracked.conditions
    return day.mean_c if Driver.DEGREE_DAYS in tracked.model.drivers and day.apart_c is None else None


def _bank_use(rig: Rig, tracked: Tracked) -> BankUse:
    load_wh = learned_load_wh(rig, tracked)[1]
    clear = strengths(tracked)[SkyWord.CLEAR] if rig.solar else None
    return BankUse(load_wh=load_wh, of_list=load_wh / max(listed_wh(rig), Numeric.tiny), clear_strength=clear)


def _widest(rig: Rig, tracked: Tracked, ahead: StoreForecast) -> tuple[Widest | None, float | None, Advice | None]:
    """Shares of the variance of the days left: level, rate, days that differ; then what would narrow it."""
    store, rate = tracked.store, ahead.rate_per_day or 0.0
    if store.is_bank:
        return (Widest.SKY if rig.solar else None), None, None
    if ahead.p50_days is None or rate <= 0 or ahead.p50_days <= 0:
        return None, None, None
    days, belief = ahead.p50_days, tracked.belief
    rate_cv = float(np.sqrt(belief.cov[1, 1]) / max(belief.coefficients[0], Numeric.tiny))
    parts = {
        Widest.LEVEL: (belief.sd / rate) ** 2,
        Widest.USE: (days * rate_cv) ** 2,
        Widest.DAYS: (float(tracked.model.day_cv[0]) * tracked.spread) ** 2 * days,
    }
    widest = max(parts, key=lambda part: parts[part])
    advice = {Widest.LEVEL: Advice.WEIGH if store.tare_kg else Advice.READ_ONCE, Widest.USE: Advice.READ_EVENINGS}.get(
        widest
    )
    return widest, parts[widest] / sum(parts.values()), advice
