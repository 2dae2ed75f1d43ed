"""The one JSON line that ``lodeline forecast`` prints for a file (docs/formats.md)."""

import json
from datetime import datetime
from typing import Any

from lodeline.core.forecast.forecast import Chore, ChoreKind, Forecast, StoreForecast
from lodeline.core.rig import Rig

_DIGITS, _CHANCE_DIGITS = 3, 4


def _round(value: float | None, digits: int = _DIGITS) -> float | None:
    return None if value is None else round(value, digits)


def _store(each: StoreForecast) -> dict[str, Any]:
    return {
        "id": each.store.id,
        "unit": each.store.unit,
        "capacity": each.store.capacity,
        "limit": each.store.line,
        "level": _round(each.level),
        "level_p10": _round(each.level_p10),
        "level_p90": _round(each.level_p90),
        "rate_per_day": _round(each.rate_per_day),
        "p10_days": _round(each.p10_days),
        "p50_days": _round(each.p50_days),
        "p90_days": _round(each.p90_days),
        "p_within_horizon": _round(each.p_within, _CHANCE_DIGITS),
        "p_first": _round(each.p_first, _CHANCE_DIGITS),
        "daily": [
            {"date": day.date.isoformat(), "p10": _round(day.p10), "p50": _round(day.p50), "p90": _round(day.p90)}
            for day in each.daily
        ],
    }


def _chore(each: Chore) -> dict[str, Any]:
    days = {"p10_days": each.p10_days, "p50_days": each.p50_days, "p90_days": each.p90_days}
    return {"store": each.store.id, **{name: _round(value) for name, value in days.items()}}


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
