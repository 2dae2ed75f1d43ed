"""What the next stop would have to do: levels on the day that the first line is met."""

from dataclasses import dataclass

from lodeline.core.forecast.forecast import Forecast
from lodeline.core.rig import Kind, Sense, Store


@dataclass(frozen=True, slots=True)
class StopNeed:
    """What to do with one store at the stop. ``amount`` is to be filled, dumped or charged, in its unit."""

    store: Store
    act: str
    amount_low: float
    amount_high: float
    due: bool


def next_stop(found: Forecast) -> list[StopNeed]:
    """What each store would need on the day of the first line; those still near their good end are left out."""
    when = found.autonomy.p50_days
    if when is None:
        return []
    needs = []
    for each in found.stores:
        if not each.daily or each.level is None:
            continue
        index = min(len(each.daily) - 1, int(when))
        day, store = each.daily[index], each.store
        low, high = (day.p10, day.p90) if index or when > 0.5 else (each.level_p10 or 0.0, each.level_p90 or 0.0)
        fills = store.sense is Sense.FILLS
        amounts = (low, high) if fills else (store.capacity - high, store.capacity - low)
        act = "charge" if store.kind is Kind.BATTERY else "empty" if fills else "fill"
        if amounts[1] > 0.15 * store.capacity:
            needs.append(StopNeed(store, act, amounts[0], amounts[1], each.store.id == found.autonomy.store))
    order = {"empty": 0, "fill": 1, "charge": 2}
    return sorted(needs, key=lambda need: (order[need.act], -need.due))
