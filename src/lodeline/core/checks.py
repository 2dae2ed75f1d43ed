"""What a rig's parts make together, and where they do not fit: series and parallel, controllers, weight."""

from dataclasses import dataclass

from lodeline.core.energy.bank import cells
from lodeline.core.energy.figures import figure
from lodeline.core.energy.loads import audit_wh
from lodeline.core.rig import Chemistry, Kind, Rig, Store

# kg in a litre; kg a kg for gas. Water 1.0; diesel 0.84, petrol 0.74 (from memory).
_KG_PER_UNIT = {"diesel": 0.84, "petrol": 0.74}


@dataclass(frozen=True, slots=True)
class Check:
    """One finding about a rig. ``place`` names the part; ``warns`` where something does not fit."""

    place: str
    words: str
    warns: bool = False


def rig_checks(rig: Rig) -> list[Check]:
    """Everything worth saying about how the rig fits together."""
    found: list[Check] = []
    for store in rig.stores:
        if store.kind is Kind.BATTERY:
            found += _bank(store)
    found += energy_checks(rig)
    if rig.first(Kind.BATTERY):
        found.append(Check("loads", f"The listed loads draw about {audit_wh(rig).sum():,.0f} Wh a day."))
    found.append(_weight(rig))
    return found


def _bank(store: Store) -> list[Check]:
    place = f"stores.{store.id}"
    usable = (1 - store.line) * store.capacity
    found = [
        Check(
            place,
            f"{store.capacity:,.0f} Ah at {store.volts:g} V hold {store.capacity_wh / 1000:.1f} kWh; "
            f"{usable:,.0f} Ah of it ({usable * store.volts / 1000:.1f} kWh) above the line.",
        )
    ]
    if store.layout is not None:
        lay = store.layout
        found.append(
            Check(
                place,
                f"{lay.series} in series make {lay.bank_v:g} V; {lay.parallel} in parallel make {lay.bank_ah:g} Ah. "
                f"Units in series add volts, not amp-hours.",
            )
        )
    if store.chemistry is Chemistry.LFP:
        found.append(Check(place, "Never charge LFP cells below 0 °C.", True))
    elif store.line < 0.5:
        found.append(Check(place, f"The line is at {store.line * 100:.0f} %; lead kept above half lasts longer.", True))
    return found


def energy_checks(rig: Rig) -> list[Check]:
    """Where arrays, controllers, chargers, inverter and bank do not fit each other."""
    battery = rig.first(Kind.BATTERY)
    if battery is None:
        return []
    return [*_controllers(rig, battery), *_chargers(rig, battery), *_inverter(rig, battery)]


def _controllers(rig: Rig, battery: Store) -> list[Check]:
    found = []
    takes = cells(battery).accepts_c * battery.capacity
    for array in rig.solar:
        place = f"solar.{array.id}"
        pushed = array.watts / (battery.volts * figure("charging_v"))
        if array.controller_amps is not None and pushed > array.controller_amps * 1.05:
            words = f"{array.watts:.0f} W can push {pushed:.0f} A; the controller takes {array.controller_amps:.0f} A."
            found.append(Check(place, words, True))
        if pushed > takes * 1.05:
            words = (
                f"{array.watts:.0f} W can push {pushed:.0f} A; a bank of this kind and size takes about {takes:.0f} A."
            )
            found.append(Check(place, words, True))
    return found


def _chargers(rig: Rig, battery: Store) -> list[Check]:
    takes = cells(battery).accepts_c * battery.capacity
    found = []
    for source in rig.sources:
        if source.amps > takes * 1.05:
            words = (
                f"It charges with {source.amps:.0f} A; a bank of this kind and size takes about {takes:.0f} A. "
                "Check the maker's limit and the cable."
            )
            found.append(Check(f"sources.{source.id}", words, True))
        elif battery.chemistry is not Chemistry.LFP and source.amps < 0.05 * battery.capacity:
            words = (
                f"{source.amps:.0f} A is little for {battery.capacity:.0f} Ah of lead: a full charge takes over a day."
            )
            found.append(Check(f"sources.{source.id}", words, True))
    return found


def _inverter(rig: Rig, battery: Store) -> list[Check]:
    inverter = rig.inverter
    if inverter is None:
        return []
    amps = inverter.watts / inverter.efficiency / battery.volts
    most = cells(battery).most_draw_c * battery.capacity
    words = (
        f"At full load the inverter draws {amps:.0f} A from the bank: cable and fuse sized for it, by someone licensed."
    )
    found = [Check("inverter", words)]
    if amps > most * 1.05:
        words = f"{amps:.0f} A is more than a bank of this kind and size should give for long, about {most:.0f} A."
        found.append(Check("inverter", words, True))
    return found


def store_kg(store: Store) -> float:
    """Weight of a store's contents when it is full, the reserve with it. [kg]"""
    if store.kind in (Kind.BATTERY, Kind.SOLIDS, Kind.SUPPLY):
        return 0.0
    each = _KG_PER_UNIT.get(store.fuel or "", 1.0)
    return (store.capacity + (store.reserve or 0.0)) * each


def _weight(rig: Rig) -> Check:
    total = sum(store_kg(store) for store in rig.stores)
    return Check("weight", f"With every tank full the stores weigh about {total:,.0f} kg. Check axles and tyres.")
