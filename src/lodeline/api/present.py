"""Core values as the screens show them: in the rig's own units, with words."""

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Any
from zoneinfo import ZoneInfo

from pydantic import Field

from lodeline.core.log import Event
from lodeline.core.rig import Rig, Store
from lodeline.core.units import Shown, System, shown
from lodeline.formats.document import Part

TypedTemp = Annotated[float, Field(ge=-130, le=150)]
_TYPED = {"temp_min": ("degC", "temp_min_c"), "temp_max": ("degC", "temp_max_c"), "water": ("L", "water_l")}


def in_base_units(facts: Part, system: System) -> dict[str, Any]:
    """What was given of a day's facts, in base units and under the file's names."""
    given: dict[str, Any] = {}
    for name in facts.model_fields_set:
        value = getattr(facts, name)
        unit, base = _TYPED.get(name, ("", name))
        given[base] = shown(unit, system).to_base(value) if unit and value is not None else value
    return given


@dataclass(frozen=True)
class Eyes:
    """How one rig's people see quantities and times."""

    rig: Rig

    @property
    def system(self) -> System:
        """The display system."""
        return self.rig.units

    @property
    def zone(self) -> ZoneInfo:
        """The rig's timezone."""
        return ZoneInfo(self.rig.timezone)

    def unit(self, store: Store) -> Shown:
        """How a store's contents are shown."""
        return shown(store.unit, self.system)

    def level(self, store: Store, base: float) -> float:
        """Contents in the shown unit."""
        return round(self.unit(store).to_shown(base), 3)

    def local(self, at: datetime) -> str:
        """A time with the rig's offset."""
        return at.astimezone(self.zone).isoformat()

    def event_words(self, event: Event) -> str:
        """An event in a few words."""
        store = self.rig.store(event.store) if event.store else None
        name = store.name if store else ""
        match event.type:
            case "fill":
                amount = "to the brim" if event.to_full else self._amount(store, event.amount)
                return f"{name} filled {amount}"
            case "dump":
                return f"{name} emptied" + (f", {event.left * 100:.0f} % left" if event.left else "")
            case "swap":
                return f"{name} swapped for a full one"
            case "move":
                ends = [self._end(event.source), self._end(event.target)]
                measured = next((s for s in map(self._store, (event.source, event.target)) if s), None)
                return f"{self._amount(measured, event.amount)} from {ends[0]} to {ends[1]}"
            case "drive":
                far = f", {shown('km', self.system).text(event.km)}" if event.km else ""
                return f"Drove {event.hours:g} h{far}"
            case "shore":
                return f"On the post {event.hours:g} h"
            case "generator":
                return f"Generator {event.hours:g} h"
            case _:
                what = "Shower" if event.type == "shower" else "Laundry"
                return f"{what}, {event.count}"

    def _store(self, store_id: str | None) -> Store | None:
        return self.rig.store(store_id) if store_id else None

    def _end(self, store_id: str | None) -> str:
        store = self._store(store_id)
        return store.name if store else {"reserve": "the reserve"}.get(store_id or "", "outside")

    def _amount(self, store: Store | None, amount: float | None) -> str:
        return self.unit(store).text(amount or 0.0) if store else f"{amount or 0:g}"


def event_stores(rig: Rig, event: Event) -> set[str]:
    """The stores on whose lanes an event is drawn."""
    if event.type == "move":
        return {id for id in (event.source, event.target) if id and rig.store(id)}
    if event.store:
        return {event.store}
    if event.type == "drive":
        fuel = next((s.id for s in rig.stores if s.kind == "fuel"), None)
        return {s.id for s in rig.stores if s.kind == "battery"} | ({fuel} if fuel else set())
    if event.type in ("shore", "generator"):
        return {s.id for s in rig.stores if s.kind == "battery"}
    return {s.id for s in rig.stores if s.kind in ("fresh", "grey")}
