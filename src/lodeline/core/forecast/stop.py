"""What the next stop would have to do: levels on the day that the first line is met."""

from lodeline.core.catalogue import Role, Sense, StopAct
from lodeline.core.figures import Forecasting
from lodeline.core.forecast.forecast import Forecast
from lodeline.core.rig import Store
from lodeline.core.values import dataclass

_ORDER = tuple(StopAct)


@dataclass(frozen=True, slots=True, kw_only=True)
class StopNeed:
    """What to do with one store at the stop. Amounts are to be filled, emptied or charged, in its unit."""

    store: Store
    act: StopAct
    amount_low: float
    amount_high: float
    due: bool


def next_stop(ahead: Forecast) -> list[StopNeed]:
    """What each store would need on the day of the first line; those still near their good end are left out."""
    when = ahead.autonomy.p50_days
    if when is None:
        return []
    needs = []
    for each in ahead.stores:
        if not each.daily or each.level is None or each.store.sends_nobody:
            continue
        index = min(len(each.daily) - 1, int(when))
        day, store = each.daily[index], each.store
        low, high = (day.p10, day.p90) if index or when > 0.5 else (each.level_p10 or 0.0, each.level_p90 or 0.0)
        fills = store.sense is Sense.FILLS
        least, most = (low, high) if fills else (store.capacity - high, store.capacity - low)
        act = StopAct.CHARGE if store.is_bank else StopAct.EMPTY if fills else StopAct.FILL
        if most > Forecasting.worth_filling * store.capacity:
            due = store.id == ahead.autonomy.store
            needs.append(StopNeed(store=store, act=act, amount_low=least, amount_high=most, due=due))
    return sorted(needs, key=lambda need: (_ORDER.index(need.act), need.store.kind.role is Role.DRAIN))
