"""What fields are called on screen: one label a key, for forms and for what was refused."""

import re

from lodeline.core.catalogue import SOURCE_KINDS

LABELS: dict[str, str] = {
    # a rig and its crew
    "name": "Name", "timezone": "Timezone", "units": "Units", "adults": "Adults", "children": "Children",
    "pets": "Animals", "crew": "Crew", "stores": "Stores", "loads": "Loads", "solar": "Solar arrays",
    "sources": "Other ways to charge", "inverter": "Inverter",
    # a store
    "kind": "Kind", "capacity": "Capacity", "limit": "Lode line", "reserve": "Carried apart",
    "served": "Emptied or filled", "reserve_counts": "Reserve counts",
    "heats": "A heater burns from it", "drives": "The vehicle drives on it", "generates": "A generator runs on it",
    "appliances": "What burns", "kw": "Burns at", "gas_burns": "What burns gas", "chemistry": "Chemistry",
    "nominal_v": "Nominal volts", "layout": "Series and parallel", "unit_v": "Volts of a unit",
    "unit_ah": "Amp-hours of a unit", "series": "Units in series", "parallel": "Strings in parallel",
    "kept_warm": "Kept warm", "fuel": "Holds", "tare_kg": "Empty bottle", "unit": "Counted in", "sense": "Life aboard",
    "gauge": "Gauge", "marks": "Marks", "resolution": "Resolution", "id": "Id",
    "takes": "What drains into it", "reads_from": "Shows when it is empty", "outside": "Where it hangs",
    # water
    "habits": "Habits", "per_day": "Times a day", "each_l": "One takes", "each": "One takes", "jugs": "Jugs",
    "litres": "Holds", "holds": "Holds", "heater_l": "Water heater holds", "filter_l": "Filter is good for",
    "shown": "Shows when it is empty", "sure": "How sure",
    # what charges and draws
    "watts": "Watts", "tilt_deg": "Tilt", "azimuth_deg": "Faces, from north", "controller_amps": "Controller",
    "horizon_deg": "Obstruction height, degrees", "amps": "Into the bank", "fuel_store": "Burns from",
    "fuel_l_per_h": "Burns", "surge_watts": "Surge", "idle_watts": "Idle", "efficiency": "Efficiency",
    "always_on": "It is on", "hours_per_day": "Runs", "via": "Through", "when": "When",
    # gas, heat and fuel
    "propane_share": "Propane in the mix", "changes_itself": "The next bottle", "tank_l": "The whole tank",
    "pick_up": "A heater draws none under", "by_pump": "Its line", "kwh_per_unit": "Heat of one unit",
    "buffer_days": "Days to sit out without supply", "lowest_kw": "Lowest rate", "driving_on": "While driving, on",
    "plugged_on": "While plugged in, on", "idle_l_per_h": "Burns at no load", "full_l_per_h": "Burns at full load",
    "rated_w": "Rated", "oil_hours": "Oil every", "spares": "Bottles and cans", "tare": "Empty weight",
    "contents": "In it", "heat": "Heating", "quiet": "Quiet hours", "body": "Built as", "insulation": "Keeps its heat",
    "living": "Length that is heated", "living_m": "Length that is heated",
    "day_c": "Inside by day", "night_c": "Inside at night", "glazing_m2": "Windows", "day_temp": "Inside by day",
    "night_temp": "Inside at night", "night_from_h": "Night from", "night_until_h": "Night until",
    "from_h": "Quiet from", "until_h": "Quiet until", "appliance": "Appliance", "night": "Outside",
    # entries
    "text": "Reading", "value": "Value", "at": "Time", "date": "Date", "time": "Time", "type": "What was done",
    "store": "Store", "amount": "Amount", "left": "Left in it", "from": "From", "to": "To", "source": "From",
    "target": "To", "hours": "Hours", "km": "Distance", "distance": "Distance", "count": "How often",
    "method": "Method", "state": "State", "entries": "Entries", "full": "To the brim",
    # a day
    "sky": "Sky", "temp_min_c": "Coldest", "temp_max_c": "Warmest", "temp_min": "Coldest", "temp_max": "Warmest",
    "status": "What the rig does", "panels_covered": "Panels covered by snow", "confirmed": "Confirmed",
    "within": "Within",
    "crew_aboard": "Sleeping aboard", "note": "Note", "solar_wh": "Solar yield",
    "load_wh": "Drawn from the bank", "water_l": "Water drawn, by meter", "water": "Water drawn, by meter",
    "place": "Place", "lat": "Latitude", "lon": "Longitude",
    # questions and accounts
    "minutes": "For", "start": "Start", "surge": "Starting draw", "bank": "Bank", "until": "Until",
    "cell_v": "At its cells' volts", "username": "Account", "password": "Password", "code": "Code from the server",
    "battery_ah": "Capacity of the bank", "battery_v": "Bank volts", "solar_watts": "All panels together",
    "fresh": "Fresh tanks", "grey": "Grey tank",
    "toilet": "Toilet", "gas": "Bottle in use, full", "heater": "Heater burns",
}  # fmt: skip

LABELS |= {row.outlook_key: row.planned for row in SOURCE_KINDS.values()}

_KEY = re.compile(r"([a-z_]+)(?:\[\d+\])?$")


def label(place: str) -> str:
    """What the field at a place is called; the place itself where it has no name."""
    match = _KEY.search(place)
    return LABELS.get(match[1], place) if match else place
