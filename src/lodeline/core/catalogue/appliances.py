"""Common appliances with typical figures. Common practice: name plates differ."""

from lodeline.core.catalogue.terms import Via
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True)
class UsualAppliance:
    """``watts`` while it runs, ``minutes`` of a usual run, ``surge`` its starting draw over its running one."""

    id: str
    name: str
    watts: float
    minutes: float
    via: Via = Via.INVERTER
    surge: float = 1.0
    heats: bool = False


APPLIANCES = (
    UsualAppliance("kettle", "Kettle", 1500, 5, heats=True),
    UsualAppliance("travel-kettle", "Travel kettle", 800, 9, heats=True),
    UsualAppliance("coffee", "Coffee machine", 1200, 5, heats=True),
    UsualAppliance("toaster", "Toaster", 900, 4, heats=True),
    UsualAppliance("microwave", "Microwave oven", 1200, 8, surge=1.3),
    UsualAppliance("hob", "Induction hob, one ring", 1600, 20, heats=True),
    UsualAppliance("oven", "Electric oven", 1800, 45, heats=True),
    UsualAppliance("fryer", "Hot-air fryer", 1400, 20, heats=True),
    UsualAppliance("hairdryer", "Hairdryer", 1200, 8, heats=True),
    UsualAppliance("heater", "Electric heater", 1000, 60, heats=True),
    UsualAppliance("blanket", "Electric blanket, 12 V", 60, 120, via=Via.DC, heats=True),
    UsualAppliance("aircon", "Roof air conditioner", 1300, 60, surge=3.0),
    UsualAppliance("washer", "Small washing machine", 300, 45, surge=3.0),
    UsualAppliance("vacuum", "Vacuum cleaner", 600, 10, surge=2.0),
    UsualAppliance("drill", "Drill or saw", 700, 15, surge=2.5),
    UsualAppliance("blender", "Blender", 400, 3, surge=2.0),
    UsualAppliance("screen", "Television", 70, 120),
    UsualAppliance("laptop", "Laptop charger", 65, 120),
    UsualAppliance("console", "Games console", 150, 120),
    UsualAppliance("breathing", "Breathing machine, 12 V", 40, 480, via=Via.DC),
    UsualAppliance("fan", "Fan, 12 V", 25, 480, via=Via.DC),
)
