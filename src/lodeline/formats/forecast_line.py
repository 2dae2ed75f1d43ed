"""The one JSON line that ``lodeline forecast`` prints for a file (docs/formats.md)."""

import json
from datetime import datetime
from typing import Any

from lodeline.core.forecast.forecast import Chore, ChoreKind, Forecast, StoreForecast
from lodeline.core.rig import Rig

_DIGITS, _CHANCE_DIGITS = 3, 4


def _round(value: float | None, digits: int = _DIGITS) -> float | None:
    return None if value is None else round(value, digits)


def _store(lane: StoreForecast) -> dict[str, Any]:
    return {
        "id": lane.store.id,
        "unit": lane.store.unit,
        "capacity": lane.store.capacity,
        "limit": lane.store.line,
        "level": _round(lane.level),
        "level_p10": _round(lane.level_p10),
        "level_p90": _round(lane.level_p90),
        "rate_per_day": _round(lane.rate_per_day),
        "p10_days": _round(lane.p10_days),
        "p50_days": _round(lane.p50_days),
        "p90_days": _round(lane.p90_days),
        "p_within_horizon": _round(lane.p_within, _CHANCE_DIGITS),
        "p_first": _round(lane.p_first, _CHANCE_DIGITS),
        "daily": [
            {"date": day.date.isoformat(), "p10": _round(day.p10), "p50": _round(day.p50), "p90": _round(day.p90)}
            for day in lane.daily
        ],
    }


def _chore(chore: Chore) -> dict[str, Any]:
    days = {"p10_days": chore.p10_days, "p50_days": chore.p50_days, "p90_days": chore.p90_days}
    return {"store": chore.store.id, **{name: _round(value) for name, value in days.items()}}


def _local(at: datetime | None, rig: Rig) -> str | None:
    return rig.zone.local(at).replace(microsecond=0).isoformat() if at else None


def forecast_line(file: str, rig: Rig, ahead: Forecast) -> str:
    """One line of JSON, without a line break."""
    first = ahead.autonomy
    return json.dumps(
        {
            "file": file,
            "at": _local(ahead.at, rig),
            "horizon_days": ahead.horizon_days,
            "autonomy": {
                "store": first.store,
                "p10_days": _round(first.p10_days),
                "p50_days": _round(first.p50_days),
                "p90_days": _round(first.p90_days),
                "at": _local(first.at, rig),
            },
            "stores": [_store(each) for each in ahead.stores],
            "chores": [_chore(each) for each in ahead.chores if each.kind is ChoreKind.SERVE],
        },
        ensure_ascii=False,
        allow_nan=False,
    )
