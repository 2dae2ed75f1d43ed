"""The JSON lines that ``lodeline plan`` and ``lodeline stay`` print for a file (docs/formats.md)."""

import json
from datetime import datetime
from typing import Any

from lodeline.core.catalogue import StopAct
from lodeline.core.forecast.stop import StopNeed
from lodeline.core.levers.stay import Stay
from lodeline.core.rig import Rig
from lodeline.core.stops.plan import Plan, Stop, StopWork
from lodeline.text.display import Display
from lodeline.text.levers import lever_words

_DIGITS, _CHANCE_DIGITS, _MONEY_DIGITS = 1, 4, 2
# What the file's page calls an act.
_ACTS = {StopAct.EMPTY: "dump", StopAct.FILL: "fill", StopAct.SWAP: "swap", StopAct.CHARGE: "charge"}


def _local(at: datetime | None, rig: Rig) -> str | None:
    return rig.zone.local(at).replace(microsecond=0).isoformat() if at else None


def _act(act: StopWork) -> dict[str, Any]:
    return {
        "store": act.store.id,
        "act": _ACTS[act.act],
        "p10": round(act.p10, _DIGITS),
        "p90": round(act.p90, _DIGITS),
        "minutes": round(act.minutes),
        "cost": round(act.cost, _MONEY_DIGITS),
    }


def _stop(stop: Stop, rig: Rig) -> dict[str, Any]:
    return {
        "place": stop.spot.id,
        "leave": _local(stop.leave, rig),
        "arrive": _local(stop.arrive, rig),
        "minutes": round(stop.minutes),
        "acts": [_act(each) for each in stop.acts],
    }


def _other(plan: Plan, rig: Rig) -> dict[str, Any]:
    return {
        "stops": [{"place": each.spot.id, "arrive": _local(each.arrive, rig)} for each in plan.stops],
        "p_crossed": round(plan.p_crossed, _CHANCE_DIGITS),
        "cost": round(plan.cost, _MONEY_DIGITS),
        "km": round(plan.km, _DIGITS),
    }


def plan_line(file: str, rig: Rig, plan: Plan, needs: list[StopNeed], *, has_book: bool) -> str:
    """One line of JSON, without a line break. Without places: what the next stop would have to do."""
    line: dict[str, Any] = {
        "file": file,
        "at": _local(plan.at, rig),
        "days": plan.days,
        "risk": plan.risk,
        "p_crossed": round(plan.p_crossed, _CHANCE_DIGITS),
        "cost": round(plan.cost, _MONEY_DIGITS),
        "km": round(plan.km, _DIGITS),
        "feasible": plan.feasible,
        "exact": plan.exact,
        "stops": [_stop(each, rig) for each in plan.stops],
        "leave_by": _local(plan.leave_by, rig),
        "others": [_other(each, rig) for each in plan.others],
    }
    if not has_book:
        line["needs"] = [
            {
                "store": each.store.id,
                "act": _ACTS[each.act],
                "p10": round(each.amount_low, _DIGITS),
                "p90": round(each.amount_high, _DIGITS),
            }
            for each in needs
        ]
    return json.dumps(line, ensure_ascii=False, allow_nan=False)


def stay_line(file: str, rig: Rig, until: datetime, stay: Stay) -> str:
    """One line of JSON, without a line break."""
    display = Display.of(rig)
    line = {
        "file": file,
        "until": _local(until, rig),
        "p_stay": round(stay.p_stay, _CHANCE_DIGITS),
        "needs": [
            {
                "lever": each.lever.id,
                "words": lever_words(rig, each.lever, display),
                "p_stay": round(each.p_stay, _CHANCE_DIGITS),
            }
            for each in stay.needs
        ],
        "p_stay_with": round(stay.p_stay_with, _CHANCE_DIGITS),
        "feasible": stay.feasible,
    }
    return json.dumps(line, ensure_ascii=False, allow_nan=False)
