"""Common appliances with typical figures. Common practice: name plates differ."""

from dataclasses import dataclass

from lodeline.core.catalogue.terms import Via


@dataclass(frozen=True, slots=True)
class Appliance:
    """``watts`` while it runs, ``minutes`` of a usual run, ``surge`` its starting draw over its running one."""

    id: str
    name: str
    watts: float
    minutes: float
    via: Via = Via.INVERTER
    surge: float = 1.0
    heats: bool = False


APPLIANCES = (
    Appliance("kettle", "Kettle", 1500, 5, heats=True),
    Appliance("travel-kettle", "Travel kettle", 800, 9, heats=True),
    Appliance("coffee", "Coffee machine", 1200, 5, heats=True),
    Appliance("toaster", "Toaster", 900, 4, heats=True),
    Appliance("microwave", "Microwave oven", 1200, 8, surge=1.3),
    Appliance("hob", "Induction hob, one ring", 1600, 20, heats=True),
    Appliance("oven", "Electric oven", 1800, 45, heats=True),
    Appliance("fryer", "Hot-air fryer", 1400, 20, heats=True),
    Appliance("hairdryer", "Hairdryer", 1200, 8, heats=True),
    Appliance("heater", "Electric heater", 1000, 60, heats=True),
    Appliance("blanket", "Electric blanket, 12 V", 60, 120, via=Via.DC, heats=True),
    Appliance("aircon", "Roof air conditioner", 1300, 60, surge=3.0),
    Appliance("washer", "Small washing machine", 300, 45, surge=3.0),
    Appliance("vacuum", "Vacuum cleaner", 600, 10, surge=2.0),
    Appliance("drill", "Drill or saw", 700, 15, surge=2.5),
    Appliance("blender", "Blender", 400, 3, surge=2.0),
    Appliance("screen", "Television", 70, 120),
    Appliance("laptop", "Laptop charger", 65, 120),
    Appliance("console", "Games console", 150, 120),
    Appliance("breathing", "Breathing machine, 12 V", 40, 480, via=Via.DC),
    Appliance("fan", "Fan, 12 V", 25, 480, via=Via.DC),
)
