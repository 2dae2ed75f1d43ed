"""What is said and decided about water: a ration, habits, jugs and gear, a fouled gauge."""

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router
from pydantic import Field

from lodeline.api.out import Changed, Out, Revision
from lodeline.api.who import Needs, display_of, rig_of, user_of
from lodeline.core.catalogue import Role
from lodeline.core.errors import Refused
from lodeline.core.problems import NeverRead
from lodeline.core.rig import Rig as CoreRig
from lodeline.core.water.ration import Ration
from lodeline.formats import document as d
from lodeline.formats import words as w
from lodeline.formats.refusals import validated
from lodeline.logbook import models as m
from lodeline.logbook.services import water
from lodeline.logbook.services.derived import Derived, derived
from lodeline.logbook.services.rows import rig_rows
from lodeline.text import ration as text
from lodeline.text.display import Display

router = Router(tags=["water"])


class PathPoint(Out):
    at: str
    level: float


class RationOut(Out):
    """A ration. ``kept``: it is agreed on; ``path``: expected contents of the fresh tank if it is kept."""

    until: str
    sure: float
    kept: bool
    a_day: float
    headline: str
    binds: str
    left: str
    floor: str | None
    allows: list[str]
    enough: bool
    path: list[PathPoint]


class RationIn(d.Part):
    """``until``: the day on whose morning one leaves; ``sure``: the wanted chance, else what the crew accepts."""

    until: d.Date
    sure: Annotated[float, Field(ge=0.5, le=0.99)] | None = None


class HabitIn(d.Part):
    """How often a day, for the whole crew. ``each``: what one takes, in the unit shown; None for common practice."""

    activity: w.ActivityWord
    per_day: Annotated[float, Field(ge=0, le=100)]
    each: d.Positive | None = None
    not_on: Annotated[list[Annotated[int, Field(ge=0, le=6), d.Whole]], Field(max_length=7)] = []


class JugIn(d.Part):
    """A jug; ``holds`` in the unit shown."""

    id: d.Slug
    name: d.Name
    holds: d.Positive
    where: Annotated[str, Field(max_length=60)] | None = None
    drinkable: bool = True
    in_use: bool = False


class GearIn(d.Part):
    """The water's gear, in the units shown; None where it is not known."""

    heater: d.Positive | None = None
    heater_temp: Annotated[float, Field(ge=0, le=250)] | None = None
    heater_w: d.Positive | None = None
    head_per_min: d.Positive | None = None
    shower_min: Annotated[float, Field(gt=0, le=120)] | None = None
    filter: d.Positive | None = None
    filter_days: d.Days | None = None
    disinfect_days: d.Days | None = None
    hose_per_min: d.Positive | None = None
    cart: bool = False
    heat_w: d.Positive | None = None


class AboardIn(d.Part):
    """What of the water is said of the rig; what is left out stays as it is."""

    habits: Annotated[list[HabitIn], Field(max_length=20)] | None = None
    jugs: Annotated[list[JugIn], Field(max_length=20)] | None = None
    gear: GearIn | None = None


class FloorIn(d.Part):
    """What a fouled gauge shows of an empty tank."""

    store: d.Slug
    shown: Annotated[float, Field(gt=0, le=0.9)]


@router.post("/{rig_id}/water/ration", response=RationOut, operation_id="ration")
def ration(request: HttpRequest, rig_id: str, payload: RationIn) -> RationOut:
    """The ration until the morning of a day, and what it allows. Nothing is kept."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    return ration_out(known, _ration(rig, known, payload), False, display)


@router.post("/{rig_id}/water/ration/keep", response=RationOut, operation_id="keep_ration")
def keep_ration(request: HttpRequest, rig_id: str, payload: RationIn) -> RationOut:
    """Keep a ration: the Round shows what is left of today's, the strip its path. It is ended like any agreement."""
    rig, display = rig_of(request, rig_id, needs=Needs.CREW), display_of(request)
    known = derived(rig)
    found = _ration(rig, known, payload)
    water.keep_ration(rig, known, found.until, text.agreed(found, display), by=user_of(request))
    return ration_out(known, found, True, display)


@router.put("/{rig_id}/water/aboard", response=Changed, operation_id="set_water_aboard")
def set_aboard(request: HttpRequest, rig_id: str, payload: AboardIn, saw: Revision) -> Changed:
    """Say what water is used for, which jugs are carried, what gear is aboard. ``saw``: the revision that was seen."""
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    water.set_aboard(rig, _given(payload, rig_rows(rig).core, display_of(request)), saw=saw, by=user_of(request))
    return Changed(revision=rig.revision)


@router.put("/{rig_id}/water/floor", response=Changed, operation_id="read_with_floor")
def read_with_floor(request: HttpRequest, rig_id: str, payload: FloorIn, saw: Revision) -> Changed:
    """From now on read a fouled gauge with what it shows of an empty tank."""
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    water.read_with_floor(rig, payload.store, payload.shown, saw=saw, by=user_of(request))
    return Changed(revision=rig.revision)


def _ration(rig: m.Rig, known: Derived, asked: RationIn) -> Ration:
    """A ration.

    Raises
    ------
    Refused
        No tank is known yet, or the day is not one of those that are looked at.
    """
    until = water.check_until(known, asked.until)
    found = water.ration_of(known, rig.pk, until, asked.sure)
    if found is None:
        tank = known.rig.first(Role.WATER) or known.rig.stores[0]
        raise Refused("until", NeverRead(tank.name))
    return found


def ration_out(known: Derived, each: Ration, kept: bool, display: Display) -> RationOut:
    """A ration as it is sent."""
    zone = known.rig.zone
    points = [PathPoint(at=display.iso(known.now), level=_l(_now_level(known), display))]
    points += [PathPoint(at=display.iso(zone.bounds(on)[1]), level=_l(level, display)) for on, level in each.path]
    return RationOut(
        until=each.until.isoformat(),
        sure=each.sure,
        kept=kept,
        a_day=_l(each.a_day_l, display),
        headline=text.headline(each, display),
        binds=text.binds(each),
        left=text.left(each, display),
        floor=text.floor(each, display),
        allows=text.allows(each, display),
        enough=each.enough,
        path=points if each.path else [],
    )


def _now_level(known: Derived) -> float:
    fresh = water.fresh_of(known)
    return fresh.level if fresh is not None else 0.0


def _l(litres: float, display: Display) -> float:
    return display.value(litres, "L", 2)


def _given(payload: AboardIn, rig: CoreRig, display: Display) -> dict[str, Any]:
    """What was said, as the document has it, in base units."""

    def base(value: float | None, unit: str) -> float | None:
        return None if value is None else display.unit(unit).to_base(value)

    given: dict[str, Any] = {}
    if payload.habits is not None:
        given["habits"] = [
            {"activity": h.activity, "per_day": h.per_day, "each_l": base(h.each, "L"), "not_on": h.not_on or None}
            for h in payload.habits
        ]
    if payload.jugs is not None:
        full = {jug.id: jug.full for jug in rig.jugs}
        given["jugs"] = [
            {
                "id": jug.id,
                "name": jug.name,
                "litres": base(jug.holds, "L"),
                "where": jug.where or None,
                "drinkable": jug.drinkable,
                "full": full.get(jug.id, 1.0),
                "in_use": jug.in_use or None,
            }
            for jug in payload.jugs
        ]
    if (gear := payload.gear) is not None:
        given["water"] = {
            "heater_l": base(gear.heater, "L"),
            "heater_c": base(gear.heater_temp, "degC"),
            "heater_w": gear.heater_w,
            "head_l_per_min": base(gear.head_per_min, "L"),
            "shower_min": gear.shower_min,
            "filter_l": base(gear.filter, "L"),
            "filter_days": gear.filter_days,
            "cart": gear.cart or None,
            "disinfect_days": gear.disinfect_days,
            "hose_l_per_min": base(gear.hose_per_min, "L"),
            "heat_w": gear.heat_w,
        }
    said = validated(_Said, given)
    return {name: getattr(said, name) for name in said.model_fields_set}


class _Said(d.Part):
    """What was said, in base units, as the document has it."""

    habits: list[d.HabitDoc] | None = None
    jugs: list[d.JugDoc] | None = None
    water: d.WaterGearDoc | None = None
