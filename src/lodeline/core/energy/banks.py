"""Several batteries: what draws from each and what charges it.

A load, an array or a source belongs to the battery that it names. What names none belongs to the house bank; house
banks of the same volts stand side by side and share it by their capacity. A starter battery has what names it, what
never sleeps, and the engine.
"""

from collections.abc import Iterable
from dataclasses import replace
from typing import TypeVar

from lodeline.core.catalogue import SOURCE_KINDS
from lodeline.core.conditions import Conditions
from lodeline.core.energy.loads import audit_wh, part_of, standing_wh, unlisted_wh
from lodeline.core.figures import Energy
from lodeline.core.rig import Load, Rig, SolarArray, Source, Store
from lodeline.core.zone import HOURS

Part = TypeVar("Part", Load, SolarArray, Source)
_WHOLE = 1.0


def of_bank(rig: Rig, store: Store) -> Rig:
    """The rig as one of its batteries sees it; the rig itself where that is the only one, and lived off."""
    if len(rig.batteries) <= 1 and not store.starter:
        return rig
    return rig.once((of_bank, store.id), lambda: _of_bank(rig, rig.store(store.id) or store))


def _of_bank(rig: Rig, store: Store) -> Rig:
    share = _share(rig, store)
    loads = tuple(_mine(rig.loads, store, share, "watts"))
    if store.starter or (not loads and share < _WHOLE):
        # nothing listed is nothing drawn, save for what the house draws unlisted, and what never sleeps
        unlisted = 0.0 if rig.loads else share * unlisted_wh(rig)
        loads = (*loads, Load(_UNLISTED, "", (unlisted + store.starter * standing_wh(store)) / HOURS, HOURS))
    sources = tuple(_mine(rig.sources, store, share, "amps"))
    if store.starter and not any(each.kind.drives for each in sources):
        sources = (*sources, Source(_ENGINE, SOURCE_KINDS["alternator"], Energy.starter_amps))
    inverter = rig.inverter and replace(rig.inverter, idle_watts=share * rig.inverter.idle_watts)
    appliances = tuple(each if not each.watts else replace(each, watts=share * each.watts) for each in rig.appliances)
    return replace(
        rig,
        stores=(store, *(each for each in rig.stores if not each.is_bank)),
        loads=loads,
        solar=tuple(_mine(rig.solar, store, share, "watts", "controller_amps")),
        sources=sources,
        inverter=inverter,
        appliances=appliances,
    )


_UNLISTED, _ENGINE = "unlisted", "engine"


def _share(rig: Rig, store: Store) -> float:
    """The part of what names no battery that is this one's."""
    side_by_side = [each for each in rig.banks if each.volts == rig.banks[0].volts and not each.starter]
    if store.id not in {each.id for each in side_by_side}:
        return 0.0
    return store.capacity / sum(each.capacity for each in side_by_side)


def _mine(parts: Iterable[Part], store: Store, share: float, *amounts: str) -> Iterable[Part]:
    for each in parts:
        if each.bank == store.id:
            yield each
        elif each.bank is None and share > 0:
            amount_of = {name: getattr(each, name) for name in amounts}
            yield replace(each, **{name: share * value for name, value in amount_of.items() if value is not None})


def totals_of(rig: Rig, store: Store, day: Conditions) -> tuple[float | None, float | None]:
    """What of a day's yield and draw, written down of the whole rig, is one battery's. [Wh]"""
    if len(rig.batteries) <= 1 and not store.starter:
        return day.solar_wh, day.load_wh
    mine = of_bank(rig, store)
    watts, draw = (sum(each.watts for each in one.solar) for one in (mine, rig)), audit_wh(mine).sum()
    sun = part_of(*watts)
    drawn = part_of(float(draw), sum(float(audit_wh(of_bank(rig, each)).sum()) for each in rig.batteries))
    return (None if day.solar_wh is None else sun * day.solar_wh, None if day.load_wh is None else drawn * day.load_wh)
