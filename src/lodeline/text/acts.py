"""Acts in words: what a button says, and what is asked first."""

from typing import assert_never

from lodeline.core.acts import Act, Deed
from lodeline.core.catalogue import Ask, Effect
from lodeline.core.rig import Rig
from lodeline.text import names
from lodeline.text.display import Display


def label(rig: Rig, act: Act) -> str:
    """What a button says was done."""
    store = act.store.name if act.store is not None else ""
    vessel = act.vessel.name if act.vessel is not None else ""
    apart = names.apart(act.store.kind) if act.store is not None else ""
    match act.deed:
        case Deed.DID:
            return f"{act.row.did} {store}".strip()
        case Deed.EXCHANGED:
            return f"Exchanged {store} for a full one"
        case Deed.CHANGED:
            return f"{store} changed for its {apart}"
        case Deed.IN_USE:
            return f"{vessel} in use now"
        case Deed.FIRST_AGAIN:
            return "The first bottle, full, in use now"
        case Deed.POURED:
            return f"{vessel or 'Reserve'} into {store}"
        case Deed.FILLED:
            return f"Filled {vessel}" if vessel else f"Filled the {_carried(act)} of {store}"
        case Deed.USED:
            return f"Used from {vessel}"
        case Deed.ELSEWHERE:
            return "Water used elsewhere"
        case Deed.PUMPED:
            source = rig.vessel(act.source)
            return f"{source.name if source is not None else ''} pumped into {store}"
        case Deed.RAN_OVER:
            return f"{store} into its {apart}"
        case Deed.CARRIED:
            return f"Emptied the {apart} of {store}"
        case _:
            assert_never(act.deed)


def _carried(act: Act) -> str:
    return "reserve" if act.store is None or act.store.is_poured else "spare"


def question(rig: Rig, act: Act, display: Display) -> str | None:
    """What is asked before it is logged; None where nothing is."""
    said = label(rig, act)
    unit = display.unit(act.unit).unit if act.unit else ""
    match act.asks:
        case Ask.NOTHING:
            return None
        case Ask.COUNT:
            return f"{said}: how often"
        case Ask.HOURS:
            far = f", or how far ({display.unit('km').unit})" if act.row.effect is Effect.DRIVE else ""
            return f"{said}: for how long ({unit}){far}"
        case Ask.AMOUNT if act.whole is not None and act.unit:
            return f"{said}: how much ({unit}); empty means all of it, {display.amount(act.whole, act.unit)}"
        case Ask.AMOUNT if act.needs_amount:
            return f"{said}: how much ({unit})"
        case Ask.AMOUNT:
            return f"{said}: how much; empty means to the brim ({unit})"
        case _:
            assert_never(act.asks)


def measured(act: Act, display: Display) -> str | None:
    """How the water of all of them is asked, where it may have been measured."""
    if act.asks is not Ask.COUNT:
        return None
    return f"Water of all of them, if it was measured ({display.unit('L').unit})"
