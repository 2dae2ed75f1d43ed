"""What is asked, said and accepted of gas, heat and fuel."""

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router
from pydantic import Field

from lodeline.api.out import Changed, Out, Revision
from lodeline.api.who import Needs, display_of, rig_of, user_of
from lodeline.core.fuel.run import BurnAsk
from lodeline.core.rig import Rig as CoreRig
from lodeline.formats import document as d
from lodeline.formats import words as w
from lodeline.formats.refusals import validated
from lodeline.logbook.services import fuel
from lodeline.logbook.services.derived import derived
from lodeline.logbook.services.rows import rig_rows
from lodeline.text import fuel as text
from lodeline.text.display import Display

router = Router(tags=["fuel"])


class BurnIn(d.Part):
    """A run of an appliance: hours at its full rate, or a night at a temperature, or litres of hot water; as shown."""

    appliance: d.Slug
    hours: Annotated[float, Field(gt=0, le=168)] | None = None
    night: Annotated[float, Field(ge=-130, le=150)] | None = None
    litres: d.Positive | None = None


class BurnAnswerOut(Out):
    answer: str
    words: list[str]


class HeatIn(d.Part):
    """How the rig is built and kept warm, in the units shown. ``night`` None: the heating is off at night."""

    body: w.BodyWord
    insulation: w.InsulationWord
    living: d.Positive | None = None
    glazing_m2: Annotated[float, Field(ge=0, le=60)] | None = None
    double_glazed: bool = False
    day_temp: Annotated[float, Field(ge=-50, le=120)]
    night_temp: Annotated[float, Field(ge=-50, le=120)] | None = None
    night_from_h: d.Hour
    night_until_h: d.Hour
    plugged: bool = False


class SpareIn(d.Part):
    """A bottle or can; ``holds`` and ``tare`` in the units shown."""

    id: d.Slug
    name: d.Name
    store: d.Slug
    holds: d.Positive
    tare: d.AtLeastZero | None = None
    contents: w.ContentsWord | None = None
    where: Annotated[str, Field(max_length=60)] | None = None


class BufferIn(d.Part):
    """What a store is to sit out, and whether the way to the next pump is its line."""

    store: d.Slug
    buffer_days: Annotated[float, Field(ge=0, le=60)] | None = None
    by_pump: bool | None = None


class QuietIn(d.Part):
    """Quiet hours; both None: none are kept."""

    from_h: d.Hour | None = None
    until_h: d.Hour | None = None


class FuelAboardIn(d.Part):
    """What of gas, heat and fuel is said of the rig; what is left out stays as it is."""

    heat: HeatIn | None = None
    spares: Annotated[list[SpareIn], Field(max_length=40)] | None = None
    buffers: Annotated[list[BufferIn], Field(max_length=40)] | None = None
    quiet: QuietIn | None = None


class AcceptIn(d.Part):
    """The store whose list is to be as the log shows."""

    store: d.Slug


@router.post("/{rig_id}/fuel/run", response=BurnAnswerOut, operation_id="can_burn")
def can_burn(request: HttpRequest, rig_id: str, payload: BurnIn) -> BurnAnswerOut:
    """Can I run it, of what burns. Nothing is kept."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    ask = BurnAsk(
        appliance=fuel.appliance_of(known.rig, payload.appliance),
        hours=payload.hours,
        night_c=_base(display, payload.night, "degC"),
        litres=_base(display, payload.litres, "L"),
    )
    found = fuel.can_burn(known, rig.pk, ask)
    return BurnAnswerOut(answer=found.answer, words=text.verdict(found, display))


@router.put("/{rig_id}/fuel/aboard", response=Changed, operation_id="set_fuel_aboard")
def set_aboard(request: HttpRequest, rig_id: str, payload: FuelAboardIn, saw: Revision) -> Changed:
    """Say how the rig is kept warm, which bottles and cans are carried, what is to be sat out, which hours are quiet.
    ``saw``: the revision that was seen."""
    rig, display = rig_of(request, rig_id, needs=Needs.OWNER), display_of(request)
    core = rig_rows(rig).core
    buffers = {each.store: _buffer(each) for each in payload.buffers or ()}
    fuel.set_aboard(rig, _given(payload, core, display), buffers, saw=saw, by=user_of(request))
    return Changed(revision=rig.revision)


@router.post("/{rig_id}/fuel/accept", response=Changed, operation_id="accept_burns")
def accept(request: HttpRequest, rig_id: str, payload: AcceptIn, saw: Revision) -> Changed:
    """Make the list of what burns from a store what the log shows. ``saw``: the revision that was seen."""
    rig = rig_of(request, rig_id, needs=Needs.OWNER)
    fuel.accept(rig, derived(rig), payload.store, saw=saw, by=user_of(request))
    return Changed(revision=rig.revision)


def _base(display: Display, value: float | None, unit: str) -> float | None:
    return None if value is None else display.unit(unit).to_base(value)


def _buffer(each: BufferIn) -> dict[str, Any]:
    said: dict[str, Any] = {}
    if each.buffer_days is not None:
        said["buffer_days"] = each.buffer_days or None
    if each.by_pump is not None:
        said["by_pump"] = each.by_pump or None
    return said


def _given(payload: FuelAboardIn, rig: CoreRig, display: Display) -> dict[str, Any]:
    """What was said, as the document has it, in base units."""
    given: dict[str, Any] = {}
    if (heat := payload.heat) is not None:
        before = rig.heat
        is_same = before is not None and before.body == heat.body and before.insulation == heat.insulation
        given["heat"] = {
            "body": heat.body,
            "insulation": heat.insulation,
            "living_m": _base(display, heat.living, "m"),
            "glazing_m2": heat.glazing_m2,
            "double_glazed": heat.double_glazed or None,
            "day_c": _base(display, heat.day_temp, "degC"),
            "night_c": _base(display, heat.night_temp, "degC"),
            "night_off": heat.night_temp is None or None,
            "night_from_h": heat.night_from_h,
            "night_until_h": heat.night_until_h,
            "plugged": heat.plugged or None,
            "ua_w_per_k": before.ua_w_per_k if is_same and before is not None else None,
        }
    if payload.spares is not None:
        full = {each.id: each.full for each in rig.spares}
        units = {store.id: store.unit for store in rig.stores}
        given["spares"] = [
            {
                "id": each.id,
                "name": each.name,
                "store": each.store,
                "holds": _base(display, each.holds, units.get(each.store, "L")),
                "tare_kg": _base(display, each.tare, "kg"),
                "contents": each.contents,
                "where": each.where or None,
                "full": full.get(each.id, 1.0),
            }
            for each in payload.spares
        ]
    if (quiet := payload.quiet) is not None:
        none = quiet.from_h is None or quiet.until_h is None
        given["quiet"] = None if none else {"from_h": quiet.from_h, "until_h": quiet.until_h}
    said = validated(_Said, given)
    return {name: getattr(said, name) for name in said.model_fields_set}


class _Said(d.Part):
    """What was said, in base units, as the document has it."""

    heat: d.HeatDoc | None = None
    spares: list[d.SpareDoc] | None = None
    quiet: d.QuietDoc | None = None
