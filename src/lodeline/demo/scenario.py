"""Two invented rigs, their crews and places. Everything here is made up."""

from dataclasses import field
from typing import Any

from lodeline.core.values import dataclass
from lodeline.demo.places import ROUND_SANDMARTIN, ROUND_TIN_LANTERN


@dataclass(frozen=True)
class CrewHabits:
    """What a crew really does, hidden from the forecast. Amounts a day for the usual crew, spreads as shares; heat in
    the unit of the store that heats.

    ``each``: how often a day something is washed, and the litres of one; what ``use`` has of water is the rest.
    """

    use: dict[str, float]
    spread: dict[str, float]
    load_factor: float
    sun_factor: float
    heat_l_per_degree_day: float = 0.0
    km_l: float = 0.11
    refill_below: float = 0.22
    empty_above: float = 0.78
    misses_evening: float = 0.12
    each: dict[str, tuple[float, float]] = field(default_factory=dict)


@dataclass(frozen=True)
class Story:
    """How the rig stands when the demo begins, on any day of the year: so many days ago it last filled, emptied and
    bought everything, and since then, perhaps, emptied its waste alone. ``place``: where it stands, of its places;
    ``ends``: how full stores then are, as shares."""

    stopped_ago: int
    place: int
    ends: dict[str, tuple[float, float]]
    drained_ago: int | None = None

    @property
    def last_ago(self) -> int:
        """Days since it last moved."""
        return self.stopped_ago if self.drained_ago is None else self.drained_ago


@dataclass(frozen=True)
class Scenario:
    """A rig, its habits, its places in turn, its weather, and how it stands in the end. ``summer_c``: how much warmer
    than the year's mean the warmest day is, and the coldest one colder."""

    rig: dict[str, Any]
    habits: CrewHabits
    places: list[dict[str, Any]]
    mean_c: float
    summer_c: float
    sky_weights: dict[str, float]
    story: Story
    mishaps: bool = True
    book: list[dict[str, Any]] = field(default_factory=list)
    methods: dict[str, str] = field(default_factory=dict)


_PANEL = {"kind": "steps", "marks": [0, 0.33, 0.67, 1]}

SANDMARTIN = Scenario(
    rig={
        "name": "Sandmartin",
        "timezone": "Europe/Lisbon",
        "units": "metric",
        "length_m": 6.4,
        "height_m": 2.9,
        "payload_kg": 520,
        "crew": {"adults": 2, "children": 0, "pets": 1},
        "stores": [
            {
                "id": "house",
                "kind": "battery",
                "name": "House bank",
                "chemistry": "lfp",
                "nominal_v": 12.8,
                "layout": {"unit_v": 12.8, "unit_ah": 105, "series": 1, "parallel": 2},
                "limit": 0.2,
                "gauge": {"kind": "shunt"},
                "kept_warm": True,
            },
            {
                "id": "fresh",
                "kind": "fresh",
                "name": "Fresh water",
                "capacity": 130,
                "gauge": {"kind": "sensor", "resolution": 0.02},
                "outside": False,
            },
            {"id": "grey", "kind": "grey", "name": "Grey tank", "capacity": 85, "gauge": _PANEL, "outside": True},
            {
                "id": "urine",
                "kind": "urine",
                "name": "Urine bottle",
                "capacity": 9,
                "gauge": {"kind": "sight"},
                "served": "here",
            },
            {"id": "solids", "kind": "solids", "name": "Solids bin", "capacity": 70},
            {
                "id": "gas",
                "kind": "gas",
                "name": "Gas bottle",
                "fuel": "propane",
                "capacity": 11,
                "tare_kg": 12.4,
                "gauge": {"kind": "scale"},
                "heats": False,
                "reserve_counts": True,
            },
            {
                "id": "diesel",
                "kind": "fuel",
                "name": "Diesel",
                "fuel": "diesel",
                "capacity": 85,
                "gauge": {"kind": "sensor", "resolution": 0.125},
                "heats": True,
                "drives": True,
                "pick_up": 0.2,
            },
        ],
        "heat": {
            "body": "van",
            "insulation": "fair",
            "living_m": 4.4,
            "double_glazed": False,
            "day_c": 19,
            "night_c": 14,
        },
        "quiet": {"from_h": 22, "until_h": 8},
        "spares": [
            {
                "id": "bottle-2",
                "name": "Second bottle",
                "store": "gas",
                "holds": 11,
                "tare_kg": 12.1,
                "where": "in the locker",
            },
            {"id": "can", "name": "Diesel can", "store": "diesel", "holds": 20, "where": "on the ladder"},
        ],
        "habits": [
            {"activity": "dishes", "per_day": 1.5},
            {"activity": "navy", "per_day": 0.6, "not_on": [2]},
            {"activity": "cleaning", "per_day": 0.143},
        ],
        "jugs": [
            {"id": "jug-1", "name": "Jug 1", "litres": 10, "where": "under the bench"},
            {"id": "jug-2", "name": "Jug 2", "litres": 10, "where": "in the boot"},
        ],
        "water": {
            "heater_l": 10,
            "heater_c": 65,
            "heater_w": 800,
            "head_l_per_min": 5,
            "filter_l": 2500,
            "filter_days": 180,
            "disinfect_days": 90,
        },
        "solar": [{"id": "roof", "watts": 540, "tilt_deg": 0, "azimuth_deg": 180, "controller_amps": 40}],
        "sources": [{"id": "dcdc", "kind": "alternator", "amps": 30}, {"id": "hookup", "kind": "shore", "amps": 25}],
        "appliances": [
            {"id": "cooker", "name": "Cooker", "kind": "cooker", "store": "gas"},
            {"id": "oven", "name": "Oven", "kind": "oven", "store": "gas"},
            {
                "id": "heater",
                "name": "Diesel heater",
                "kind": "heater",
                "store": "diesel",
                "kw": 2.4,
                "lowest_kw": 0.9,
                "watts": 22,
            },
        ],
        "inverter": {"watts": 1200, "surge_watts": 2400, "idle_watts": 10, "efficiency": 0.9},
        "loads": [
            {
                "id": "fridge",
                "name": "Fridge",
                "kind": "fridge",
                "watts": 46,
                "hours_per_day": 8,
                "via": "dc",
                "when": "any",
            },
            {
                "id": "lights",
                "name": "Lights and pump",
                "kind": "lights",
                "watts": 22,
                "hours_per_day": 5,
                "via": "dc",
                "when": "night",
            },
            {
                "id": "laptops",
                "name": "Laptops",
                "kind": "devices",
                "watts": 70,
                "hours_per_day": 3,
                "via": "inverter",
                "when": "day",
            },
        ],
    },
    habits=CrewHabits(
        use={"fresh": 11.0, "grey": 5.4, "urine": 2.3, "solids": 2.4, "gas": 0.19},
        each={"dishes": (1.3, 4.3), "navy": (0.55, 7.4)},
        spread={"fresh": 0.25, "grey": 0.3, "urine": 0.18, "solids": 0.4, "gas": 0.35},
        load_factor=0.92,
        sun_factor=0.95,
        heat_l_per_degree_day=0.10,
    ),
    places=[
        {"name": "Ponta do Fole", "lat": 37.31, "lon": -8.86},
        {"name": "Eira Velha", "lat": 37.66, "lon": -8.35},
        {"name": "Barranco Fundo", "lat": 37.2, "lon": -8.6},
        {"name": "Quay of Amoreira", "lat": 37.36, "lon": -8.83},
        {"name": "Pine ridge above Sobral", "lat": 37.9, "lon": -8.5},
    ],
    mean_c=17.0,
    summer_c=6.0,
    story=Story(
        stopped_ago=1,
        place=2,
        ends={
            "house": (0.75, 1.0),
            "fresh": (0.5, 1.0),
            "grey": (0.12, 0.45),
            "urine": (0.68, 0.88),
            "gas": (0.3, 1.0),
        },
    ),
    sky_weights={"clear": 5, "mixed": 4, "overcast": 2, "wet": 1.2},
    book=ROUND_SANDMARTIN,
)

TIN_LANTERN = Scenario(
    rig={
        "name": "Tin Lantern",
        "timezone": "America/Denver",
        "units": "us",
        "length_m": 8.2,
        "height_m": 3.3,
        "payload_kg": 690,
        "jugs": [
            {"id": "jug-1", "name": "Blue jug", "litres": 18.9, "where": "in the truck bed"},
            {"id": "jug-2", "name": "White jug", "litres": 18.9, "where": "in the truck bed"},
        ],
        "crew": {"adults": 1, "children": 1, "pets": 0},
        "stores": [
            {
                "id": "bank",
                "kind": "battery",
                "name": "Golf-cart bank",
                "chemistry": "flooded",
                "nominal_v": 12,
                "layout": {"unit_v": 6, "unit_ah": 225, "series": 2, "parallel": 2},
                "gauge": {"kind": "none"},
            },
            {
                "id": "fresh",
                "kind": "fresh",
                "name": "Fresh tank",
                "capacity": 189.3,
                "gauge": {"kind": "steps", "marks": [0, 0.25, 0.5, 0.75, 1]},
            },
            {"id": "grey", "kind": "grey", "name": "Grey tank", "capacity": 136.3, "gauge": _PANEL},
            {"id": "black", "kind": "black", "name": "Black tank", "capacity": 113.6, "gauge": _PANEL},
            {
                "id": "propane",
                "kind": "gas",
                "name": "Propane, both bottles",
                "fuel": "propane",
                "capacity": 18.14,
                "tare_kg": 16.3,
                "gauge": {"kind": "scale"},
                "heats": True,
            },
            {
                "id": "gasoline",
                "kind": "fuel",
                "name": "Truck fuel",
                "fuel": "petrol",
                "capacity": 98.4,
                "gauge": {"kind": "sensor", "resolution": 0.125},
            },
        ],
        "solar": [{"id": "roof", "watts": 800, "tilt_deg": 0, "azimuth_deg": 180, "controller_amps": 50}],
        "sources": [
            {
                "id": "generator",
                "kind": "generator",
                "amps": 45,
                "fuel_store": "gasoline",
                "rated_w": 2200,
                "full_l_per_h": 1.3,
                "oil_hours": 100,
            },
            {"id": "alternator", "kind": "alternator", "amps": 15},
        ],
        "heat": {"body": "trailer", "insulation": "fair", "day_c": 18, "night_c": 13},
        "appliances": [
            {"id": "furnace", "name": "Furnace", "kind": "heater", "store": "propane", "kw": 7.3, "watts": 85},
            {"id": "cooker", "name": "Cooker", "kind": "cooker", "store": "propane"},
            {
                "id": "fridge",
                "name": "Fridge",
                "kind": "fridge",
                "store": "propane",
                "driving_on": "dc",
                "plugged_on": "mains",
            },
            {"id": "hot", "name": "Water heater", "kind": "water-heater", "store": "propane", "kw": 3.5},
        ],
        "inverter": {"watts": 2000, "surge_watts": 4000, "idle_watts": 18, "efficiency": 0.88},
        "loads": [
            {
                "id": "lights",
                "name": "Lights and pump",
                "kind": "lights",
                "watts": 30,
                "hours_per_day": 5,
                "via": "dc",
                "when": "night",
            },
            {
                "id": "net",
                "name": "Satellite internet",
                "kind": "internet",
                "watts": 45,
                "hours_per_day": 7,
                "via": "inverter",
                "when": "any",
            },
        ],
    },
    habits=CrewHabits(
        use={"fresh": 13.5, "grey": 5.5, "black": 9.0, "propane": 0.55},
        each={"dishes": (0.9, 6.5), "shower": (0.45, 16.0)},
        spread={"fresh": 0.28, "grey": 0.35, "black": 0.3, "propane": 0.35},
        load_factor=1.08,
        sun_factor=1.02,
        km_l=0.19,
        heat_l_per_degree_day=0.06,
    ),
    places=[
        {"name": "Sawbuck wash", "lat": 33.6, "lon": -114.2},
        {"name": "Lower Kettle flat", "lat": 33.9, "lon": -113.9},
        {"name": "Old airstrip, Dry Fork", "lat": 34.2, "lon": -113.4},
    ],
    mean_c=18.0,
    summer_c=8.0,
    story=Story(
        stopped_ago=11,
        drained_ago=3,
        place=1,
        ends={
            "fresh": (0.0, 0.004),
            "bank": (0.7, 1.0),
            "grey": (0.0, 0.5),
            "black": (0.0, 0.5),
            "propane": (0.25, 1.0),
        },
    ),
    sky_weights={"clear": 7, "mixed": 3, "overcast": 1, "wet": 0.4},
    mishaps=False,
    book=ROUND_TIN_LANTERN,
)

SCENARIOS = (SANDMARTIN, TIN_LANTERN)
