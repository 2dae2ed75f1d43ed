"""The closed sets of words that the catalogue's rows and the computation speak in."""

from enum import StrEnum


class Sense(StrEnum):
    """Whether life aboard empties a store or fills it."""

    DRAINS = "drains"
    FILLS = "fills"


class Role(StrEnum):
    """What a store is to the others and to the computation; most are plain."""

    BANK = "bank"
    WATER = "water"
    DRAIN = "drain"
    FLUSHED = "flushed"
    GAS = "gas"
    VEHICLE_FUEL = "vehicle-fuel"
    PLAIN = "plain"


class Pattern(StrEnum):
    """How what is expected of a store's use is put together."""

    BY_DRIVERS = "by-drivers"
    WATER = "water"
    DRAIN = "drain"
    OWN_RATE = "own-rate"
    BANK = "bank"


class Driver(StrEnum):
    """What moves a level, apart from the kinds of days that a log tells apart."""

    PEOPLE = "people"
    DEGREE_DAYS = "degree-days"
    CHANGES_OVER = "changes-over"
    KM = "km"
    LOAD_BY_DAY = "load-by-day"
    LOAD_AT_NIGHT = "load-at-night"
    CHILL = "chill"
    HEAT = "heat"
    SUN_CLEAR = "sun-clear"
    SUN_MIXED = "sun-mixed"
    SUN_OVERCAST = "sun-overcast"
    SUN_WET = "sun-wet"
    SUN_PLACE = "sun-place"


class SkyWord(StrEnum):
    """A day's sky, from bright to dark."""

    CLEAR = "clear"
    MIXED = "mixed"
    OVERCAST = "overcast"
    WET = "wet"


class DayStatus(StrEnum):
    """Where a rig was on a day."""

    PARKED = "parked"
    MOVING = "moving"
    HOOKUP = "hookup"


class Effect(StrEnum):
    """What an event does."""

    FILL = "fill"
    EMPTY = "empty"
    SWAP = "swap"
    MOVE = "move"
    DRIVE = "drive"
    CHARGE = "charge"
    COUNT = "count"
    CARE = "care"
    DRAIN = "drain"


class EventField(StrEnum):
    """What an event may carry beside its time and type. Names as in ``log.Event``."""

    STORE = "store"
    TO_FULL = "to_full"
    AMOUNT = "amount"
    LEFT = "left"
    SOURCE = "source"
    TARGET = "target"
    HOURS = "hours"
    KM = "km"
    COUNT = "count"


class Ask(StrEnum):
    """What the Round asks when something was done."""

    NOTHING = "nothing"
    AMOUNT = "amount"
    HOURS = "hours"
    COUNT = "count"


class Method(StrEnum):
    """How a reading was taken, as the file has it."""

    FRACTION = "fraction"
    STEP = "step"
    VOLUME = "volume"
    MASS = "mass"
    AMOUNT = "amount"
    GROSS = "gross"
    VOLTS = "volts"
    USES = "uses"
    RANGE = "range"
    METER = "meter"
    DRY = "dry"
    FULL = "full"


class VoltsState(StrEnum):
    """What the bank did while its volts were read."""

    REST = "rest"
    LOAD = "load"
    CHARGE = "charge"


class GaugeKind(StrEnum):
    """How a store is read."""

    STEPS = "steps"
    SENSOR = "sensor"
    SIGHT = "sight"
    SCALE = "scale"
    SHUNT = "shunt"
    NONE = "none"


class Chemistry(StrEnum):
    """Battery chemistry."""

    LFP = "lfp"
    AGM = "agm"
    GEL = "gel"
    FLOODED = "flooded"
    LEAD_CARBON = "lead-carbon"
    NMC = "nmc"


class Served(StrEnum):
    """Where a store is emptied or filled: somebody goes with the rig, or on the spot or on foot."""

    STOP = "stop"
    HERE = "here"


class Feed(StrEnum):
    """What an appliance that can change over lives off."""

    FUEL = "fuel"
    DC = "dc"
    MAINS = "mains"
    OFF = "off"


class Body(StrEnum):
    """What a rig is built as."""

    VAN = "van"
    MOTORHOME = "motorhome"
    TRAILER = "trailer"
    TRUCK = "truck"
    BUS = "bus"


class Insulation(StrEnum):
    """How well a rig keeps its heat."""

    GOOD = "good"
    FAIR = "fair"
    POOR = "poor"


class ApplianceWhen(StrEnum):
    """When an appliance runs."""

    PARKED = "parked"
    ALWAYS = "always"


class Toilet(StrEnum):
    """What toilet a rig may have; some stores come with it."""

    BLACK = "black"
    CASSETTE = "cassette"
    COMPOSTING = "composting"
    NONE = "none"


class Burns(StrEnum):
    """What a source burns while it charges."""

    OWN_RATE = "own-rate"
    ENGINE_IDLE = "engine-idle"
    NOTHING = "nothing"


class ToldBy(StrEnum):
    """What tells that a day was of a kind."""

    EVENTS = "events"
    WEEKEND = "weekend"
    STATUS = "status"


class Via(StrEnum):
    """How a load is fed."""

    DC = "dc"
    INVERTER = "inverter"


class When(StrEnum):
    """When a load runs."""

    ANY = "any"
    DAY = "day"
    NIGHT = "night"


class Sparing(StrEnum):
    """How a load's draw may be spared."""

    ICE_AT_NIGHT = "ice-at-night"
    OFF_AT_NIGHT = "off-at-night"
    HALF_AS_LONG = "half-as-long"


class Thing(StrEnum):
    """What is to be taken out before a stop."""

    WASTE_HOSE = "waste-hose"
    GLOVES = "gloves"
    WATER_HOSE = "water-hose"
    REGULATOR = "regulator"
    FILTER = "filter"
    JUGS = "jugs"
    POST_CABLE = "post-cable"
    POST_ADAPTER = "post-adapter"
    BOTTLE_SPANNER = "bottle-spanner"
    COINS = "coins"
    BAGS = "bags"


class StopAct(StrEnum):
    """What is done with a store at a stop, in the order in which it is done: waste before water, grey after black."""

    EMPTY = "empty"
    FILL = "fill"
    SWAP = "swap"
    CHARGE = "charge"


class AfterStop(StrEnum):
    """Where the rig stands after a stop: where it stood before, or at the place."""

    BACK = "back"
    STAY = "stay"


class GasHow(StrEnum):
    """How gas is had: the bottle changed for a full one, or filled."""

    SWAP = "swap"
    REFILL = "refill"


class StoreField(StrEnum):
    """What only some kinds of stores say of themselves. Names as in the file."""

    CHEMISTRY = "chemistry"
    NOMINAL_V = "nominal_v"
    LAYOUT = "layout"
    KEPT_WARM = "kept_warm"
    HEATS = "heats"
    DRIVES = "drives"
    GENERATES = "generates"
    FUEL = "fuel"
    TARE_KG = "tare_kg"
    PROPANE_SHARE = "propane_share"
    CHANGES_ITSELF = "changes_itself"
    TANK_L = "tank_l"
    PICK_UP = "pick_up"
    BY_PUMP = "by_pump"
    KWH_PER_UNIT = "kwh_per_unit"
    UNIT = "unit"
    SENSE = "sense"


class Caution(StrEnum):
    """What is always said where a matter comes up."""

    LFP_FROST = "lfp-frost"
    LICENSED = "licensed"
    GENERATOR_OUTDOORS = "generator-outdoors"
    GAS_INDOORS = "gas-indoors"
    GAS_WHILE_DRIVING = "gas-while-driving"
    CARBON_MONOXIDE = "carbon-monoxide"
    NO_COOKER_HEAT = "no-cooker-heat"
    GAS_AT_PUMP = "gas-at-pump"
    EXHAUST_SNOW = "exhaust-snow"
    GAS_LICENSED = "gas-licensed"
    BURNT_WATER = "burnt-water"
    MAINS = "mains"
    HOT_THINGS = "hot-things"
    CABLE_SIZE = "cable-size"
    DRINKING_HOSE = "drinking-hose"
    DUMP_ALLOWED = "dump-allowed"
    FUEL_OUTSIDE = "fuel-outside"
    AXLES = "axles"
    ESTIMATE = "estimate"


class Hue(StrEnum):
    """A colour family; the screen's theme says what it looks like by day and by night."""

    AMBER = "amber"
    SEA = "sea"
    SLATE = "slate"
    PLUM = "plum"
    STRAW = "straw"
    UMBER = "umber"
    RUST = "rust"
    MOSS = "moss"
    INDIGO = "indigo"
