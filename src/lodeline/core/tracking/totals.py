"""What a day's measured totals teach: the coefficients directly, and how the day differed from a usual one."""

import numpy as np

from lodeline.core.catalogue import Role
from lodeline.core.conditions import Conditions
from lodeline.core.energy.banks import totals_of
from lodeline.core.energy.skies import SkyHabit
from lodeline.core.figures import Numeric, Readings, Tracking
from lodeline.core.rig import Rig
from lodeline.core.statistics import Floats
from lodeline.core.tracking import belief as b
from lodeline.core.tracking.bank_use import LOADS, SUN_AND_PLACE, day_cold_share, yield_columns
from lodeline.core.tracking.coupling import UnusualDays
from lodeline.core.tracking.hypothesis import Hypothesis, Possible, as_one, blended
from lodeline.core.tracking.influence import DayInfluence, hours_before
from lodeline.core.tracking.propagate import StoreContext


def learn_totals(
    rig: Rig,
    context: StoreContext,
    hypotheses: list[Hypothesis],
    day: Conditions,
    usual: SkyHabit,
    influence: DayInfluence,
    hour: float,
) -> None:
    """Let a day's totals of a whole rig, measured up to ``hour``, teach the coefficients of every hypothesis."""
    store = context.store
    if store.kind.role is Role.WATER and day.water_l is not None:
        _learn(context, hypotheses, context.model.drivers, day.water_l, day, usual, influence, hour)
    solar_wh, load_wh = totals_of(rig, store, day) if store.is_bank else (None, None)
    if load_wh is not None:
        drawn_ah = load_wh / store.volts / day_cold_share(store, day)
        _learn(context, hypotheses, LOADS, drawn_ah, day, usual, influence, hour)
    if solar_wh is not None:
        _learn(context, hypotheses, SUN_AND_PLACE, solar_wh, day, usual, influence, hour)


def unusual_day(
    context: StoreContext, hypotheses: list[Hypothesis], day: Conditions, influence: DayInfluence, hour: float
) -> UnusualDays | None:
    """What a measured total of water says outright of how a day differed; None where it is more likely an outlier."""
    if context.store.kind.role is not Role.WATER or day.water_l is None:
        return None
    belief = blended(hypotheses)
    x = hours_before(hour).dot(influence.expected)
    spread = float(np.sum((context.model.day_cv * x * belief.coefficients) ** 2)) * hypotheses[0].days.ratio ** 2
    moved = -day.water_l - float(x.dot(belief.coefficients))
    if moved**2 > Tracking.total_outlier_sds**2 * spread:
        return None
    zone = context.rig.zone
    return UnusualDays(
        since=zone.midnight(day.date),
        at=zone.at_hour(day.date, min(hour, Tracking.total_told_at_h)),
        moved=moved,
        variance=(Readings.meter_cv * day.water_l) ** 2,
        usual_variance=spread,
    )


def yield_x(context: StoreContext, day: Conditions, usual: SkyHabit, hour: float) -> Floats:
    """The drivers of a day's yield up to an hour, shape (k,). [Wh]"""
    columns = yield_columns(context.rig, day, usual)
    x = np.zeros(len(context.model.mean))
    x[-columns.shape[1] :] = hours_before(hour).dot(columns)
    return x


def _learn(
    context: StoreContext,
    hypotheses: list[Hypothesis],
    drivers: tuple[str, ...],
    amount: float,
    day: Conditions,
    usual: SkyHabit,
    influence: DayInfluence,
    hour: float,
) -> None:
    is_sun = drivers is SUN_AND_PLACE
    if is_sun:
        # a yield is what the array gave, whatever became of it
        x = yield_x(context, day, usual, hour)
    else:
        taught = np.array([name in drivers for name in context.model.drivers])
        x = np.abs(hours_before(hour).dot(influence.expected)) * taught
    if x.sum() < Numeric.small:
        return
    day_cv = influence.cv if influence.cv is not None else context.model.day_cv
    row = np.concatenate([[0.0], x, np.zeros(b.N_OTHERS)])
    for each in hypotheses:
        expected = float(x.dot(each.belief.coefficients))
        is_water = context.store.kind.role is Role.WATER
        scale = (each.skies if is_sun else each.totals if is_water else each.days).ratio
        floor = Tracking.total_least_share * float(x @ context.model.mean)
        sd = scale * float(np.sqrt(np.sum((day_cv * x * each.belief.coefficients) ** 2)))
        sd = max(sd, Tracking.total_least_cv * floor)
        if is_sun and each.curtailed > Tracking.full_from:
            # a day that was curtailed tells a lower bound, one that was not the whole
            bound = b.at_least_update(each.belief, row, amount, sd**2)
            whole = b.kalman_update(each.belief, row, amount, sd**2)
            after = as_one((Possible(each.curtailed, bound), Possible(1 - each.curtailed, whole)))
        else:
            spread = float(row.dot(each.belief.cov.dot(row))) + sd**2
            if is_sun and day.sky:
                each.skies = each.skies.after((amount - expected) ** 2 / spread, sd**2 / spread, scale)
            elif is_water:
                each.totals = each.totals.after((amount - expected) ** 2 / spread, sd**2 / spread, scale)
            span = Tracking.total_outlier_span * max(expected, Numeric.small)
            after, _ = b.robust_update(each.belief, row, amount, sd**2, span)
        each.belief = b.keep_positive(after, context.floor)
        each.days_seen += 0.0 if is_sun else 1.0
