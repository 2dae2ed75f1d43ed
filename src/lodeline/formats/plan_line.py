"""The JSON lines that ``lodeline plan`` and ``lodeline stay`` print for a file (docs/formats.md)."""

import json
from datetime import datetime
from typing import Any

from lodeline.core.catalogue import StopAct
from lodeline.core.forecast.stop import StopNeed
from lodeline.core.levers.stay import Stay
from lodeline.core.rig import Rig
from lodeline.core.stops.plan import NotServed, Plan, Stop, StopWork
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
    lasts = {"minutes": round(stop.minutes)} if stop.until is None else {"until": _local(stop.until, rig)}
    return {
        "place": stop.spot.id,
        "outing": stop.outing,
        "leave": _local(stop.leave, rig),
        "arrive": _local(stop.arrive, rig),
        **lasts,
        "serves": list(stop.serves),
        "with": list(stop.beside),
        "acts": [_act(each) for each in stop.acts],
    }


def _outings(plan: Plan, rig: Rig) -> list[dict[str, Any]]:
    found, first = [], 0
    for each in plan.outings:
        numbers = list(range(first, first + len(each.stops)))
        first += len(numbers)
        found.append({"leave": _local(each.leave, rig), "back": _local(each.back, rig), "stops": numbers})
    return found


def _other(plan: Plan, rig: Rig) -> dict[str, Any]:
    return {
        "stops": [{"place": each.spot.id, "arrive": _local(each.arrive, rig)} for each in plan.stops],
        "p_crossed": round(plan.p_crossed, _CHANCE_DIGITS),
        "cost": round(plan.cost, _MONEY_DIGITS),
        "km": round(plan.km, _DIGITS),
    }


def _needs(plan: Plan, needs: list[StopNeed], *, has_book: bool) -> list[dict[str, Any]]:
    """What no place serves, and why; without places what the next stop would have to do."""
    if has_book:
        return [{"store": each.store.id, "why": _why(each.why)} for each in plan.needs]
    return [
        {
            "store": each.store.id,
            "act": _ACTS[each.act],
            "p10": round(each.amount_low, _DIGITS),
            "p90": round(each.amount_high, _DIGITS),
            "why": NotServed.NO_PLACE.value,
        }
        for each in needs
    ]


def _why(why: NotServed) -> str:
    # water that is not for drinking is no place: which taps those are stands beside
    return (NotServed.NO_PLACE if why is NotServed.NOT_TO_DRINK else why).value


def plan_line(file: str, rig: Rig, plan: Plan, needs: list[StopNeed], *, has_book: bool) -> str:
    """One line of JSON, without a line break. Without places: what the next stop would have to do."""
    line: dict[str, Any] = {
        "file": file,
        "at": _local(plan.at, rig),
        "days": plan.days,
        "risk": plan.risk,
        "due": list(plan.due),
        "p_before": round(plan.p_before, _CHANCE_DIGITS),
        "p_crossed": round(plan.p_crossed, _CHANCE_DIGITS),
        "feasible": plan.feasible,
        "exact": plan.exact,
        "cost": round(plan.cost, _MONEY_DIGITS),
        # where nobody said where the rig stands, no way is known
        "km": round(plan.km, _DIGITS) if plan.has_position else None,
        "outings": _outings(plan, rig),
        "stops": [_stop(each, rig) for each in plan.stops],
        "needs": _needs(plan, needs, has_book=has_book),
        "leave_by": _local(plan.leave_by, rig),
        "others": [_other(each, rig) for each in plan.others],
    }
    if plan.not_to_drink:
        # taps that are left out, as nothing aboard filters
        line["not_to_drink"] = [spot.id for spot in plan.not_to_drink]
    if plan.price_assumed and plan.km:
        line["way_price_assumed"] = True
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
