"""Two dozen invented places round the demo rigs: taps, drains, sites, fuel, gas, shops. All of it is made up."""

from typing import Any

_WEEK = "Mo-Sa 08:00-19:00; Su off"
_WINTER = [11, 12, 1, 2]


def _at(id: str, name: str, lat: float, lon: float, services: dict[str, Any], **more: Any) -> dict[str, Any]:
    return {"id": id, "name": name, "lat": lat, "lon": lon, "services": services, "known_on": "2026-08-20", **more}


_WASTE: dict[str, Any] = {"grey": {}, "black": {}, "solids": {}}

ROUND_SANDMARTIN = [
    _at(
        "chapel-spring",
        "Chapel spring",
        37.214,
        -8.571,
        {"water": {"l_per_min": 6, "drinkable": True, "hose": False}},
        note="A spout in the wall; only jugs fit under it.",
    ),
    _at(
        "harbour-tap",
        "Harbour tap",
        37.352,
        -8.842,
        {"water": {"l_per_min": 14, "drinkable": True, "price": 2}},
        opening_hours="Mo-Su 07:00-21:00",
    ),
    _at(
        "old-wash-house",
        "Old wash-house",
        37.191,
        -8.572,
        {"water": {"l_per_min": 9, "drinkable": False}},
        closed_months=_WINTER,
        note="The tap is shut off before the first frost.",
    ),
    _at(
        "municipal-drain",
        "Municipal drain, Fundo",
        37.232,
        -8.655,
        _WASTE,
        max_length_m=7,
        opening_hours="Mo-Sa 07:00-20:00; Su off",
        note="A tight turn at the gate.",
    ),
    _at(
        "pine-site",
        "Pine site",
        37.247,
        -8.541,
        {
            "water": {"l_per_min": 12, "drinkable": True},
            **_WASTE,
            "shower": {"price": 2},
            "laundry": {"price": 5},
            "hookup": {"amps": 10, "volts": 230, "price_night": 17},
        },
        fee=0,
        max_nights=14,
    ),
    _at(
        "mill-site",
        "Mill site, Eira",
        37.64,
        -8.39,
        {
            "water": {"l_per_min": 10, "drinkable": True},
            **_WASTE,
            "hookup": {"amps": 6, "volts": 230, "price_night": 13},
        },
        max_nights=21,
        notes=[{"on": "2026-03-12", "text": "Tap ran dry in the afternoon."}],
    ),
    _at(
        "road-house",
        "Road house",
        37.305,
        -8.588,
        {
            "fuel": {"fuels": ["diesel", "petrol"], "price_per_l": 1.62},
            "water": {"l_per_min": 8, "drinkable": True},
            "grey": {},
            "black": {},
        },
        opening_hours="Mo-Su 06:00-23:00",
        note="The drain is free with a fill-up.",
    ),
    _at(
        "fuel-crossing",
        "Fuel at the crossing",
        37.168,
        -8.668,
        {"fuel": {"fuels": ["diesel"], "price_per_l": 1.57}},
        opening_hours="Mo-Sa 07:00-21:00",
    ),
    _at(
        "gas-and-tools",
        "Gas and tools",
        37.262,
        -8.618,
        {"gas": {"fuels": ["propane", "butane"], "how": "swap", "price_per_kg": 2.6}},
        opening_hours="Mo-Fr 09:00-13:00,14:30-18:00; Sa 09:00-13:00",
    ),
    _at("covered-market", "Covered market", 37.258, -8.626, {"supplies": {}, "solids": {}}, opening_hours=_WEEK),
    _at(
        "laundry-corner", "Laundry corner", 37.255, -8.622, {"laundry": {"price": 6}}, opening_hours="Mo-Su 08:00-22:00"
    ),
    _at("ridge-tap", "Ridge tap", 37.88, -8.47, {"water": {"l_per_min": 5, "drinkable": True}}),
    _at(
        "sobral-yard",
        "Sobral works yard",
        37.86,
        -8.52,
        {**_WASTE, "water": {"l_per_min": 10, "drinkable": True}},
        fee=4,
        opening_hours="Mo-Fr 08:00-17:00",
    ),
    _at(
        "barranco-stop",
        "Barranco rest stop",
        37.22,
        -8.63,
        {"water": {"l_per_min": 7, "drinkable": True}, **_WASTE},
        max_nights=2,
        max_height_m=3.5,
    ),
]

ROUND_TIN_LANTERN = [
    _at("flat-tap", "Kettle flat tap", 33.93, -113.93, {"water": {"l_per_min": 11, "drinkable": True}}),
    _at(
        "county-drain",
        "County drain",
        33.98,
        -113.86,
        {"grey": {}, "black": {}, "water": {"l_per_min": 9, "drinkable": False}},
        fee=10,
        max_length_m=7,
        opening_hours="Mo-Su 07:00-18:00",
    ),
    _at(
        "mesa-park",
        "Mesa trailer park",
        34.09,
        -113.62,
        {
            "water": {"l_per_min": 12, "drinkable": True},
            **_WASTE,
            "hookup": {"amps": 30, "volts": 120, "price_night": 34},
            "shower": {"price": 5},
            "laundry": {"price": 4},
        },
        max_nights=28,
    ),
    _at(
        "junction-fuel",
        "Junction fuel",
        34.03,
        -113.7,
        {
            "fuel": {"fuels": ["petrol", "diesel"], "price_per_l": 0.98},
            "gas": {"fuels": ["propane"], "how": "refill", "price_per_kg": 1.9},
            "black": {},
            "grey": {},
        },
        opening_hours="Mo-Su 06:00-22:00",
        fee=0,
    ),
    _at(
        "airstrip-well",
        "Airstrip well",
        34.21,
        -113.42,
        {"water": {"l_per_min": 4, "drinkable": False, "hose": False}},
        closed_months=_WINTER,
    ),
    _at(
        "propane-yard",
        "Propane yard",
        34.15,
        -113.55,
        {"gas": {"fuels": ["propane"], "how": "refill", "price_per_kg": 1.7}},
        opening_hours="Mo-Fr 08:00-16:30",
    ),
    _at(
        "dry-fork-store",
        "Dry Fork store",
        34.19,
        -113.48,
        {"supplies": {}, "solids": {"price": 3}},
        opening_hours="Tu-Su 08:00-18:00; Mo off",
    ),
    _at("wash-spigot", "Wash spigot", 33.61, -114.18, {"water": {"l_per_min": 6, "drinkable": True}}),
    _at(
        "river-camp",
        "River camp",
        33.66,
        -114.25,
        {"water": {"l_per_min": 10, "drinkable": True}, **_WASTE},
        fee=12,
        max_nights=14,
    ),
    _at(
        "truck-plaza",
        "Truck plaza",
        34.25,
        -113.3,
        {
            "fuel": {"fuels": ["petrol", "diesel"], "price_per_l": 1.04},
            "black": {"price": 8},
            "grey": {},
            "water": {"l_per_min": 15, "drinkable": True},
            "shower": {"price": 9},
        },
    ),
]
