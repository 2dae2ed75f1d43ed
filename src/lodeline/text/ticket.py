"""The ticket's words: each task with its amounts, what to take out, weights, and how long it all takes."""

from lodeline.core.catalogue.terms import Thing
from lodeline.core.log import Event
from lodeline.core.rig import Rig
from lodeline.core.stops.ticket import StopWeight, Task, TaskKind
from lodeline.text.display import Display, capital, counted, listed
from lodeline.text.habits import figure
from lodeline.text.round import event
from lodeline.text.stops import to_pay
from lodeline.text.times import clock, hours_words

_THINGS = {
    Thing.WASTE_HOSE: "the waste hose",
    Thing.GLOVES: "gloves",
    Thing.WATER_HOSE: "the drinking-water hose",
    Thing.REGULATOR: "the pressure regulator",
    Thing.FILTER: "the filter",
    Thing.JUGS: "the jugs",
    Thing.POST_CABLE: "the mains cable",
    Thing.POST_ADAPTER: "the post's adapter",
    Thing.BOTTLE_SPANNER: "the bottle spanner",
    Thing.COINS: "coins",
    Thing.BAGS: "shopping bags",
}


def task(rig: Rig, task: Task, display: Display) -> str:
    """What is done: ``Empty Grey tank: about 60 to 78 L``."""
    store = rig.store(task.store)
    name = store.name if store else ""
    amount = ""
    if store is not None and task.low is not None and task.high is not None:
        amount = display.span(task.low, task.high, store.unit)
    match task.kind:
        case TaskKind.TAKE_OUT:
            return f"Take out {listed([_THINGS[thing] for thing in task.things])}"
        case TaskKind.GAS_OFF:
            return "Gas off at the bottle, for the drive and at the pump"
        case TaskKind.GAS_ON:
            return "Gas on again, and look for a smell of gas"
        case TaskKind.DRIVE:
            there = "Drive back" if task.id == "back" else "Drive there"
            return f"{there}: {display.amount(task.km or 0.0, 'km')}, {hours_words(task.hours or 0.0)}"
        case TaskKind.EMPTY:
            return f"Empty {name}: {amount}"
        case TaskKind.RINSE:
            return f"Rinse {name} until it runs clear"
        case TaskKind.VALVES:
            return "Valves shut, hose drained and put away"
        case TaskKind.HANDS:
            return "Wash hands, change gloves"
        case TaskKind.CLEAN_HOSE:
            return "Drinking-water hose on, with regulator and filter; let the tap run first"
        case TaskKind.FILL:
            return f"Fill {name}: {amount}"
        case TaskKind.JUGS:
            jugs = counted(task.trips or 1, "trip")
            return f"Fill {name} by jugs: {amount}, {jugs} of {display.amount(task.jug or 0.0, 'L')}"
        case TaskKind.SWAP:
            return f"Swap {name} for a full one"
        case TaskKind.REFUEL:
            return f"Refuel {name}: {amount}"
        case TaskKind.PLUG_IN:
            return f"Plug in for {hours_words(task.hours or 0.0)}: {name} takes {amount}{_post(task, display)}"
        case TaskKind.BUY:
            return f"Buy {name}: {amount}"
        case TaskKind.LAUNDRY:
            return "Laundry, if you like"
        case TaskKind.SHOWER:
            return "Showers, if you like"


def _post(task: Task, display: Display) -> str:
    """The post's amps against what the rig draws."""
    if task.draw_a is None:
        return ""
    draws = f"the charger draws about {figure(task.draw_a)} A"
    if task.post_a is None:
        return f"; {draws}: ask what the post gives"
    if task.draw_a > task.post_a:
        return f"; {draws}, the post gives {display.amount(task.post_a, 'A')}: turn the charger down"
    return f"; {draws} of the post's {display.amount(task.post_a, 'A')}"


def beside(task: Task, display: Display) -> str:
    """Minutes and money of a task."""
    parts = [hours_words(task.minutes / 60) if task.minutes else "", to_pay(task.cost, display)]
    return ", ".join(part for part in parts if part)


def did(task: Task) -> str:
    """The word on the button that ticks it."""
    return "Done" if task.event is None else "Done, log it"


def done(logged: Event, rig: Rig, display: Display) -> str:
    """That the log says so: ``Logged at 10:12: Filled Fresh water``."""
    return f"Logged at {clock(display.local(logged.at))}: {event(rig, logged, display)}"


def weight(weight: StopWeight, display: Display) -> str:
    """What the stores weigh after the stop, and what is left of the payload."""
    said = f"The stores weigh {display.amount(weight.stores_kg, 'kg')} after this stop"
    if weight.left_kg is None:
        return f"{said}. Say the payload on the rig's page to see what is left of it."
    if weight.left_kg < 0:
        over = display.amount(-weight.left_kg, "kg")
        return f"{said}: {over} more than the payload. Fill less, and mind the axles."
    return f"{said}; {display.amount(weight.left_kg, 'kg')} of the payload are left for all else."


def changed(over: bool, is_gone: bool, has_changed: bool) -> str | None:
    """That the plan is another one than when it was written."""
    if over or not (is_gone or has_changed):
        return None
    if is_gone:
        return "The plan does not need this stop any more."
    return "The plan has changed since this was written."


def sums(minutes: float, cost: float, display: Display) -> str:
    """All of it together."""
    return capital(f"{hours_words(minutes / 60)} in all{f', {to_pay(cost, display)}' if round(cost) else ''}")
