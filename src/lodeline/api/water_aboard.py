"""A ration of water: worked out, and kept."""

from typing import Annotated

from django.http import HttpRequest
from ninja import Router
from pydantic import Field

from lodeline.api.out import LevelOut, Out
from lodeline.api.who import Needs, display_of, rig_of, user_of
from lodeline.core.catalogue import Role
from lodeline.core.errors import Refused
from lodeline.core.problems import NeverRead
from lodeline.core.water.ration import Ration
from lodeline.formats import document as d
from lodeline.logbook import models as m
from lodeline.logbook.services import stay, water
from lodeline.logbook.services.derived import Derived, derived
from lodeline.text import ration as text
from lodeline.text.display import Display

router = Router(tags=["water"])


class RationOut(Out):
    """A ration. ``kept``: it is agreed on; ``path``: expected contents of the fresh tank if it is kept."""

    until: str
    sure: float
    kept: bool
    headline: str
    binds: str
    left: str
    floor: str | None
    allows: list[str]
    enough: bool
    path: list[LevelOut]


class RationIn(d.Part):
    """``until``: the day on whose morning one leaves; ``sure``: the wanted chance, else what the crew accepts."""

    until: d.Date
    sure: Annotated[float, Field(ge=0.5, le=0.99)] | None = None


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


def _ration(rig: m.Rig, known: Derived, asked: RationIn) -> Ration:
    """A ration.

    Raises
    ------
    Refused
        No tank is known yet, or the day is not one of those that are looked at.
    """
    found = water.ration_of(known, rig.pk, stay.until_date(known, asked.until), asked.sure)
    if found is None:
        tank = known.rig.first(Role.WATER) or known.rig.stores[0]
        raise Refused("until", NeverRead(tank.name))
    return found


def ration_out(known: Derived, ration: Ration, kept: bool, display: Display) -> RationOut:
    """A ration as it is sent."""
    zone = known.rig.zone
    points = [LevelOut(at=display.iso(known.now), level=_l(_now_level(known), display))]
    points += [LevelOut(at=display.iso(zone.bounds(on)[1]), level=_l(level, display)) for on, level in ration.path]
    return RationOut(
        until=ration.until.isoformat(),
        sure=ration.sure,
        kept=kept,
        headline=text.headline(ration, display),
        binds=text.binds(ration),
        left=text.left(ration, display),
        floor=text.floor(ration, display),
        allows=text.allows(ration, display),
        enough=ration.enough,
        path=points if ration.path else [],
    )


def _now_level(known: Derived) -> float:
    fresh = water.fresh_of(known)
    return fresh.level if fresh is not None else 0.0


def _l(litres: float, display: Display) -> float:
    return display.value(litres, "L", 2)
