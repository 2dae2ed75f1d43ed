"""What is always said where a matter comes up. Local code and licensed practice come before all of it."""

from collections.abc import Iterable

from lodeline.core.catalogue import CELLS, Caution, Chemistry
from lodeline.core.figures import Energy
from lodeline.text.display import Display, percent


def caution(caution: Caution, display: Display) -> str:
    """One caution as a sentence."""
    match caution:
        case Caution.LFP_FROST:
            frost = CELLS[Chemistry.LFP].no_charge_below_c or 0.0
            return f"Never charge LFP cells below {display.amount(frost, 'degC')}."
        case Caution.LICENSED:
            return "Battery and mains work by licensed people and to local code; fuses and cable sized to the charger."
        case Caution.GENERATOR_OUTDOORS:
            return (
                "A generator runs outdoors, exhaust away from people, never beside a window. "
                "Keep a carbon monoxide alarm."
            )
        case Caution.GAS_INDOORS:
            return "While gas burns, air the room; never cook to heat it, least of all while asleep."
        case Caution.GAS_WHILE_DRIVING:
            return "Gas off at the bottle while driving."
        case Caution.CARBON_MONOXIDE:
            return "Carbon monoxide and gas alarms that work; a vent open while anything burns."
        case Caution.NO_COOKER_HEAT:
            return "Never a cooker or a heater without a flue for warmth while asleep."
        case Caution.GAS_AT_PUMP:
            return "Gas off at the bottle while driving and at the pump."
        case Caution.EXHAUST_SNOW:
            return "Keep exhausts and air inlets clear of snow."
        case Caution.GAS_LICENSED:
            return "Work on gas by someone licensed, to local code."
        case Caution.BURNT_WATER:
            return "What burns without a flue makes the air wet and takes its oxygen."
        case Caution.MAINS:
            return "Mains from an inverter can kill: sockets, fuses and cable by someone licensed, to local code."
        case Caution.HOT_THINGS:
            return "Anything that heats stays in sight and clear of cloth, and is never left on while asleep."
        case Caution.CABLE_SIZE:
            return f"Cable and fuse must be sized for the current; a loss of {percent(Energy.cable_v_drop)} is usual."
        case Caution.DRINKING_HOSE:
            return "Drinking water through its own clean hose, after the waste is done."
        case Caution.DUMP_ALLOWED:
            return "Empty waste only where it is allowed."
        case Caution.FUEL_OUTSIDE:
            return "Fuel cans stay outside the living space."
        case Caution.AXLES:
            return "Check axle and tyre limits before filling."
        case Caution.ESTIMATE:
            return "Lodeline estimates; the person decides."


def cautions(several: Iterable[Caution], display: Display) -> list[str]:
    """Cautions as sentences, each once."""
    return [caution(each, display) for each in dict.fromkeys(several)]


def of_bank(chemistry: Chemistry | None, display: Display) -> list[str]:
    """What is always said where energy is planned."""
    frost = (Caution.LFP_FROST,) if chemistry and CELLS[chemistry].no_charge_below_c is not None else ()
    return cautions((*frost, Caution.LICENSED, Caution.GENERATOR_OUTDOORS, Caution.ESTIMATE), display)
