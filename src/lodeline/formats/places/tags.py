"""A place of the book in OpenStreetMap's tags, and back. What no tag says is kept in tags of our own."""

from collections.abc import Mapping
from typing import Any

from lodeline.core.catalogue import SERVICES
from lodeline.core.errors import Refused
from lodeline.core.stops.opening import check_opening
from lodeline.formats import document as d
from lodeline.formats.refusals import validated

OWN = "lodeline:"
_YES = ("yes", "customers", "permissive", "public", "designated", "only")
_NO = ("no", "private")
_FUELS = {"fuel:diesel": "diesel", "fuel:octane_95": "petrol", "fuel:octane_98": "petrol", "fuel:e10": "petrol"}
_GASES = {"fuel:lpg": "propane", "fuel:propane": "propane", "fuel:butane": "butane"}
# What a kind of place offers as a rule, where no tag of a service is there.
_OF_KIND = {
    ("tourism", "caravan_site"): (),
    ("tourism", "camp_site"): (),
    ("amenity", "fuel"): ("fuel",),
    ("amenity", "sanitary_dump_station"): ("black", "grey"),
    ("amenity", "water_point"): ("water",),
    ("amenity", "drinking_water"): ("water",),
    ("amenity", "shower"): ("shower",),
    ("amenity", "waste_disposal"): ("solids",),
    ("amenity", "recycling"): ("solids",),
    ("shop", "gas"): ("gas",),
    ("shop", "supermarket"): ("supplies",),
    ("shop", "convenience"): ("supplies",),
    ("shop", "laundry"): ("laundry",),
}
_YES_TAGS = {
    "sanitary_dump_station": ("black", "grey"),
    "sanitary_dump_station:grey_water": ("grey",),
    "sanitary_dump_station:chemical_toilet": ("black",),
    "sanitary_dump_station:cassette": ("black",),
    "sanitary_dump_station:suction": ("black",),
    "water_point": ("water",),
    "drinking_water": ("water",),
    "power_supply": ("hookup",),
    "shower": ("shower",),
    "washing_machine": ("laundry",),
    "waste_disposal": ("solids",),
    "waste_basket": ("solids",),
    "fuel:lpg": ("gas",),
    "fuel:propane": ("gas",),
    "fuel:butane": ("gas",),
    "fuel:diesel": ("fuel",),
    "fuel:octane_95": ("fuel",),
}


def _number(text: str | None) -> float | None:
    """The number that a tag begins with: ``7``, ``7 m``, ``3.5``; feet and inches are not guessed at."""
    if text is None:
        return None
    head = text.replace(",", ".").split()
    if not head or (len(head) > 1 and head[1] not in ("m", "L", "l", "A", "V", "EUR", "USD", "GBP", "l/min")):
        return None
    try:
        return float(head[0])
    except ValueError:
        return None


def _offers(tags: Mapping[str, str]) -> dict[str, dict[str, Any]]:
    """The services that the tags speak of; what they say no to is not offered."""
    offered: set[str] = set()
    for (key, value), services in _OF_KIND.items():
        if tags.get(key) == value:
            offered |= set(services)
    for key, services in _YES_TAGS.items():
        said = tags.get(key, "")
        if said in _YES or (key == "power_supply" and said not in ("", *_NO)):
            offered |= set(services)
        elif said in _NO and key in ("drinking_water", "water_point"):
            # not to be drunk is not the same as no water
            offered -= set(services) if key == "water_point" else set()
        elif said in _NO:
            offered -= set(services)
    offered |= {id for id in SERVICES if tags.get(f"{OWN}{id}") in _YES}
    return {id: {} for id in SERVICES if id in offered}


def from_tags(name: str, lat: float, lon: float, tags: Mapping[str, str], id: str) -> d.SpotDoc:
    """A place from its tags. What cannot be read of a tag is left out, and stands in the note.

    Raises
    ------
    Refused
        The name or the position is none.
    """
    services = _offers(tags)
    left: list[str] = []
    if "water" in services:
        water = services["water"]
        if tags.get("drinking_water") in ("yes", "no"):
            water["drinkable"] = tags["drinking_water"] == "yes"
        elif tags.get("amenity") == "drinking_water":
            water["drinkable"] = True
        water["l_per_min"] = _number(tags.get(f"{OWN}l_per_min"))
        water["hose"] = {"yes": True, "no": False}.get(tags.get(f"{OWN}hose", ""))
    if "hookup" in services:
        services["hookup"] |= {
            "amps": _number(tags.get("power_supply:current") or tags.get(f"{OWN}amps")),
            "volts": _number(tags.get("power_supply:voltage")),
            "price_night": _number(tags.get("power_supply:charge") or tags.get(f"{OWN}price_night")),
        }
    for service, table, per_unit in (("gas", _GASES, "price_per_kg"), ("fuel", _FUELS, "price_per_l")):
        if service in services:
            fuels = {fuel for key, fuel in table.items() if tags.get(key) in _YES}
            services[service] = {"fuels": sorted(fuels), per_unit: _number(tags.get(f"{OWN}{per_unit}"))}
    if "gas" in services and tags.get(f"{OWN}gas_how") in ("swap", "refill"):
        services["gas"]["how"] = tags[f"{OWN}gas_how"]
    for id_ in ("grey", "black", "solids", "supplies", "laundry", "shower", "water"):
        if id_ in services and (price := _number(tags.get(f"{OWN}{id_}_price"))) is not None:
            services[id_]["price"] = price
    hours = tags.get("opening_hours")
    if hours:
        try:
            check_opening(hours, "opening_hours")
        except Refused:
            left.append(f"opening_hours={hours}")
            hours = None
    fee = _number(tags.get("charge")) if tags.get("fee") != "no" else 0.0
    if tags.get("fee") == "yes" and fee is None:
        left.append("fee=yes")
    months = [int(each) for each in tags.get(f"{OWN}closed_months", "").split(";") if each.isdigit()]
    note = "; ".join(part for part in (tags.get("description") or tags.get("note") or "", *left) if part)
    nights = _number(tags.get(f"{OWN}max_nights"))
    return validated(
        d.SpotDoc,
        {
            "id": id,
            "name": name,
            "lat": lat,
            "lon": lon,
            "opening_hours": hours,
            "fee": fee,
            "note": note or None,
            "services": {id: {k: v for k, v in each.items() if v is not None} for id, each in services.items()},
            "max_nights": int(nights) if nights is not None else None,
            "max_height_m": _number(tags.get("maxheight")),
            "max_length_m": _number(tags.get("maxlength")),
            "closed_months": months or None,
        },
    )


def to_tags(doc: d.SpotDoc) -> dict[str, str]:
    """The tags of a place."""
    tags: dict[str, str] = {}
    offered = {id: each for id in SERVICES if (each := getattr(doc.services, id)) is not None}
    for id in offered:
        tags[f"{OWN}{id}"] = "yes"
    if "black" in offered:
        tags["sanitary_dump_station"] = "yes"
    elif "grey" in offered:
        tags["sanitary_dump_station:grey_water"] = "yes"
    _amenity(tags, offered)
    for key, value in _said(doc).items():
        if value is not None:
            tags[key] = _text(value)
    return tags


def _amenity(tags: dict[str, str], offered: Mapping[str, Any]) -> None:
    """What the place is, by the first of its services that says so."""
    for (key, value), services in _OF_KIND.items():
        if services and set(services) <= set(offered) and key not in tags:
            tags[key] = value
            return


def _said(doc: d.SpotDoc) -> dict[str, Any]:
    s = doc.services
    said: dict[str, Any] = {
        "opening_hours": doc.opening_hours,
        "maxheight": doc.max_height_m,
        "maxlength": doc.max_length_m,
        "description": doc.note,
        f"{OWN}max_nights": doc.max_nights,
        f"{OWN}closed_months": ";".join(str(each) for each in doc.closed_months) if doc.closed_months else None,
    }
    if doc.fee is not None:
        said |= {"fee": "yes" if doc.fee else "no", "charge": doc.fee or None}
    if s.water is not None:
        drinkable = {True: "yes", False: "no", None: None}[s.water.drinkable]
        said |= {"water_point": "yes", "drinking_water": drinkable, f"{OWN}l_per_min": s.water.l_per_min}
        said[f"{OWN}hose"] = {True: "yes", False: "no", None: None}[s.water.hose]
    if s.hookup is not None:
        said |= {
            "power_supply": "yes",
            "power_supply:current": s.hookup.amps,
            "power_supply:voltage": s.hookup.volts,
            f"{OWN}price_night": s.hookup.price_night,
        }
    if s.gas is not None:
        said |= {
            key: "yes" for key, fuel in (("fuel:propane", "propane"), ("fuel:butane", "butane")) if fuel in s.gas.fuels
        }
        said |= {f"{OWN}gas_how": s.gas.how, f"{OWN}price_per_kg": s.gas.price_per_kg}
    if s.fuel is not None:
        said |= {
            key: "yes"
            for key, fuel in (("fuel:diesel", "diesel"), ("fuel:octane_95", "petrol"))
            if fuel in s.fuel.fuels
        }
        said |= {f"{OWN}price_per_l": s.fuel.price_per_l}
    said |= {"shower": "yes" if s.shower else None, "washing_machine": "yes" if s.laundry else None}
    said |= {"waste_disposal": "yes" if s.solids else None}
    for id in ("grey", "black", "solids", "supplies", "laundry", "shower", "water"):
        each = getattr(s, id)
        if each is not None and each.price is not None:
            said[f"{OWN}{id}_price"] = each.price
    return said


def _text(value: Any) -> str:
    return f"{value:g}" if isinstance(value, float) else str(value)
