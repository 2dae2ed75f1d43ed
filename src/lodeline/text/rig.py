"""The Rig view's words: what parts make together, and what gauges have been found to be worth."""

from collections.abc import Collection
from typing import assert_never

from lodeline.core import checks as c
from lodeline.core.catalogue import APPLIANCE_KINDS, CELLS, GAUGES, USUAL_LOADS, Sense, UsualLoad
from lodeline.core.energy.ageing import Holds
from lodeline.core.energy.bank import RatingUnit
from lodeline.core.rig import Appliance, Inverter, Load, Rig, SolarArray, Source, Store
from lodeline.core.tracking.gauges import LearnedGauge
from lodeline.core.values import dataclass
from lodeline.text import names
from lodeline.text.cautions import caution
from lodeline.text.display import Display, capital, counted, listed, percent
from lodeline.text.habits import exact, figure
from lodeline.text.labels import label
from lodeline.text.readings import mark_words

_KWH = 1000.0


def check(check: c.Check, display: Display) -> str:
    """A finding about the rig as a sentence."""
    match check:
        case c.BankHolds():
            whole, usable = (ah * check.volts_v / _KWH for ah in (check.capacity_ah, check.usable_ah))
            return (
                f"{figure(check.capacity_ah)} Ah at {exact(check.volts_v)} V hold {figure(whole, 1)} kWh; "
                f"{figure(check.usable_ah)} Ah of "
                f"it ({figure(usable, 1)} kWh) above the line."
            )
        case c.LayoutMakes():
            layout = check.layout
            return (
                f"{layout.series} in series {_make(layout.series)} {exact(layout.bank_v)} V; {layout.parallel} in "
                f"parallel {_make(layout.parallel)} {exact(layout.bank_ah)} Ah. "
                "Units in series add volts, not amp-hours."
            )
        case c.NeedsCaution():
            return caution(check.caution, display)
        case c.LowLine():
            return f"The line is at {percent(check.line)}; lead kept above half lasts longer."
        case c.FullWeight():
            total = display.amount(check.total_kg, "kg")
            return f"With every tank full the stores weigh about {total}. Check axles and tyres."
        case c.LoadsDraw():
            return f"The listed loads draw about {display.amount(check.listed_wh, 'Wh')} a day."
        case c.TankFills():
            filled = display.amount(check.filled_kg, "kg")
            return f"A tank of {display.amount(check.tank_l, 'L')} is filled to 80 %: {filled}."
        case c.FanByCold():
            names_ = listed(list(check.names))
            return f"Not counted: {names_}. The heater says what it draws, and that is reckoned by the cold."
        case _:
            return _charging(check)


def _make(n: int) -> str:
    return "makes" if n == 1 else "make"


def _charging(
    check: c.ControllerSmall
    | c.ArrayOverBank
    | c.ChargerOverBank
    | c.ChargerSmall
    | c.InverterDraws
    | c.InverterOverBank,
) -> str:
    match check:
        case c.ControllerSmall():
            return (
                f"{figure(check.watts)} W can push {figure(check.pushes_a)} A; the controller takes "
                f"{figure(check.takes_a)} A."
            )
        case c.ArrayOverBank():
            return (
                f"{figure(check.watts)} W can push {figure(check.pushes_a)} A; a bank of this kind and size takes "
                f"about {figure(check.takes_a)} A."
            )
        case c.ChargerOverBank():
            return (
                f"It charges with {figure(check.amps)} A; a bank of this kind and size takes about "
                f"{figure(check.takes_a)} A. "
                "Check the maker's limit and the cable."
            )
        case c.ChargerSmall():
            return (
                f"{figure(check.amps)} A is little for {figure(check.capacity_ah)} Ah of lead: a full charge takes "
                "over a day."
            )
        case c.InverterDraws():
            return (
                f"At full load the inverter draws {figure(check.amps)} A from the bank: cable and fuse sized for it, "
                "by someone licensed."
            )
        case c.InverterOverBank():
            return (
                f"{figure(check.amps)} A is more than a bank of this kind and size should give for long, about "
                f"{figure(check.most_a)} A."
            )
        case _:
            assert_never(check)


def holds(holds: Holds) -> str:
    """What a bank holds of its rating: ``It holds about 84 % of its rating (±5), by 22 days of the log.``"""
    return (
        f"It holds about {percent(holds.share)} of its rating (±{figure(holds.sd * 100)}), by "
        f"{counted(holds.days, 'day')} of the log. Ageing, or a rating that was too kind."
    )


def gauge(gauge: LearnedGauge) -> list[str]:
    """What a gauge has been found to be worth, in sentences."""
    lines = []
    if gauge.error is not None:
        lines.append(
            f"Error {figure(gauge.error * 100, 1)} % of capacity from {counted(gauge.readings, 'reading')}; "
            f"{figure(gauge.assumed_error * 100, 1)} % was assumed."
        )
    if gauge.is_biased:
        way = "high" if gauge.bias > 0 else "low"
        lines.append(
            f"It reads about {percent(abs(gauge.bias))} of capacity too {way} (±{figure(gauge.bias_sd * 100)})."
        )
    lines += [
        f"The mark {percent(mark.painted)} seems to begin at {percent(mark.begins)} (±{figure(mark.sd * 100)})."
        for mark in gauge.marks
        if mark.is_elsewhere
    ]
    if lines:
        return lines
    return ["As assumed so far." if gauge.enough else f"Too few readings to judge: {gauge.readings}."]


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """One part on the sheet of a rig: its place in the document, what it is called, and what it is, in a line."""

    place: str
    name: str
    words: str


def sheet(rig: Rig, display: Display) -> list[Line]:
    """Everything aboard, one line a part."""
    lines = [Line(place="crew", name=rig.name, words=_crew(rig))]
    lines += [Line(place=f"stores.{each.id}", name=each.name, words=_store(each, display)) for each in rig.stores]
    lines += [Line(place=f"solar.{each.id}", name=f"Array {each.id}", words=_array(each)) for each in rig.solar]
    lines += [
        Line(place=f"sources.{each.id}", name=each.kind.name, words=_source(rig, each, display)) for each in rig.sources
    ]
    if rig.inverter is not None:
        lines.append(Line(place="inverter", name="Inverter", words=_inverter(rig.inverter)))
    lines += [Line(place=f"loads.{each.id}", name=each.name, words=_load(each)) for each in rig.loads]
    burners = (Line(place=f"appliances.{e.id}", name=e.name, words=_burner(e, rig)) for e in rig.appliances)
    return [*lines, *burners]


def _crew(rig: Rig) -> str:
    crew = rig.crew
    aboard = [
        counted(crew.adults, "adult"),
        *([counted(crew.children, "child", "children")] if crew.children else []),
        *([counted(crew.pets, "animal")] if crew.pets else []),
    ]
    return f"{listed(aboard)}; {rig.timezone}; {names.SYSTEMS[rig.units]}"


def _store(store: Store, display: Display) -> str:
    line = f"line at {percent(store.line)}, {display.contents(store, store.line_level)}"
    gauge = GAUGES[store.gauge.kind].name
    if store.gauge.marks:
        gauge += f" ({', '.join(mark_words(mark) for mark in store.gauge.marks)})"
    cells = f"{CELLS[store.chemistry].name}, {exact(store.volts)} V" if store.is_bank and store.chemistry else None
    counts = ", counted" if store.reserve_counts else ""
    reserve = f"{display.contents(store, store.reserve)} carried apart{counts}" if store.reserve else None
    parts = [display.contents(store, store.capacity), cells, line, gauge, reserve, *_of_service(store)]
    return "; ".join(part for part in parts if part)


def _of_service(store: Store) -> list[str]:
    """Where it is served, and what burns from it, where somebody said."""
    said = [f"{'emptied' if store.sense is Sense.FILLS else 'filled'} {names.SERVED[store.served]}"]
    burns = {"heats": "a heater burns from it", "drives": "driven on", "generates": "a generator runs on it"}
    return [*(said if store.is_served_here else []), *(text for key, text in burns.items() if getattr(store, key))]


def _burner(appliance: Appliance, rig: Rig) -> str:
    """What an appliance burns: ``cooker, 1.8 kW, 1.3 h a day, from Gas bottle``."""
    store = rig.store(appliance.store)
    kw = appliance.kind.usual_kw if appliance.kw is None else appliance.kw
    hours = appliance.kind.usual_hours if appliance.hours_per_day is None else appliance.hours_per_day
    runs = (
        f"{exact(hours)} h a degree-day"
        if appliance.kind.by_cold and appliance.hours_per_day is None
        else f"{exact(hours)} h a day"
    )
    draws = f", draws {exact(appliance.watts)} W from the bank" if appliance.watts else ""
    return f"{appliance.kind.name}, {exact(kw)} kW, {runs}, from {store.name if store else appliance.store}{draws}"


def _array(array: SolarArray) -> str:
    way = f"tilted {figure(array.tilt_deg)}° to {figure(array.azimuth_deg)}°" if array.tilt_deg else "flat"
    controller = f"controller {figure(array.controller_amps)} A" if array.controller_amps else None
    hidden = f"sun hidden under {figure(array.horizon_deg)}°" if array.horizon_deg else None
    return "; ".join(part for part in (f"{figure(array.watts)} W", way, controller, hidden) if part)


def _source(rig: Rig, source: Source, display: Display) -> str:
    tank = rig.store(source.fuel_store)
    burns = None
    if tank is not None and source.fuel_l_per_h:
        burns = f"{display.amount(source.fuel_l_per_h, 'L')} an hour from {tank.name}"
    return "; ".join(part for part in (f"{figure(source.amps)} A into the bank", burns) if part)


def _inverter(inverter: Inverter) -> str:
    surge = f"{figure(inverter.surge_watts)} W for a moment" if inverter.surge_watts else None
    idle = f"{figure(inverter.idle_watts)} W by itself, {'all day' if inverter.always_on else 'while it is used'}"
    parts = [f"{figure(inverter.watts)} W", surge, idle, f"{percent(inverter.efficiency)} efficient"]
    return "; ".join(part for part in parts if part)


def _load(load: Load) -> str:
    runs = f"{figure(load.watts)} W, {exact(load.hours_per_day)} h a day, {names.WHEN[load.when]}"
    return f"{runs}, through {names.VIA[load.via]}"


def rating(amount: float, unit: RatingUnit, cell_v: float | None, capacity_ah: float, nominal_v: float) -> str:
    """What a printed rating is at the bank's nominal volts."""
    at = f" at {exact(cell_v)} V" if cell_v else ""
    return (
        f"{exact(amount)} {unit}{at} are {figure(capacity_ah * nominal_v)} Wh: {figure(capacity_ah, 1)} Ah at "
        f"{exact(nominal_v)} V."
    )


def put_aboard(rig: Rig, assumed: Collection[str]) -> list[tuple[str, str]]:
    """What the set-up put aboard or filled in, each with why. ``assumed``: the paths that nobody has confirmed yet."""
    parts = dict.fromkeys((group, id) for group, id, *_ in (path.split(".") for path in assumed if path.count(".")))
    said = ((f"{group}.{id}", _put(rig, group, id, assumed)) for group, id in parts)
    return [(part, words) for part, words in said if words]


def _put(rig: Rig, group: str, id: str, assumed: Collection[str]) -> str:
    """Why one part stands there as it does; empty where it is aboard no more."""
    match group:
        case "stores":
            found = rig.store(id)
            if found is None:
                return ""
            names_ = [label(path).lower() for path in assumed if path.startswith(f"stores.{id}.")]
            return f"{found.name}: you said that it is aboard; as usual for its kind: {listed(names_)}."
        case "loads":
            load = next((each for each in rig.loads if each.id == id), None)
            usual = next((each for each in USUAL_LOADS if each.id == id), None)
            if load is None or usual is None:
                return ""
            return f"{load.name}, {exact(load.watts)} W for {exact(load.hours_per_day)} h a day: {_why(usual)}."
        case "sources":
            source = next((each for each in rig.sources if each.id == id), None)
            if source is None:
                return ""
            return (
                f"{capital(source.kind.name)}, {exact(source.amps)} A: most rigs have it; take it out if yours has not."
            )
        case "solar":
            return "The array: taken to lie flat, facing south until you say otherwise."
        case "appliances":
            burner = next((each for each in rig.appliances if each.id == id), None)
            return "" if burner is None else f"{burner.name}: you said that it burns this; its power is the usual one."
        case _:
            return ""


def _why(usual: UsualLoad) -> str:
    if usual.with_heater:
        return "you said that the heater burns something, and such a heater has a fan"
    if usual.unless_burnt:
        return f"you did not say that {APPLIANCE_KINDS[usual.unless_burnt].name} burns gas, so one on the bank is taken"
    return "most rigs have them" + (", so much for each of you" if usual.each_person else "")


def copied(name: str) -> str:
    """What a copy of a rig is called."""
    return f"{name[:_MOST_NAME]}, a copy"


_MOST_NAME = 60
