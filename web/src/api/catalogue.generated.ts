// Written by ./lodeline generate from the catalogue; change it there.
export const CATALOGUE = {
  "storeKinds": [
    {
      "id": "battery",
      "name": "House bank",
      "hue": "amber",
      "unit": "Ah",
      "gauges": [
        "shunt",
        "sensor",
        "steps",
        "none"
      ],
      "asks": [
        "chemistry",
        "nominal_v",
        "layout",
        "kept_warm"
      ],
      "contents": [],
      "usualCapacity": 100.0,
      "usualGauge": "none",
      "usualResolution": 0.02,
      "usualLine": 0.15,
      "apart": null,
      "spareTakesItsPlace": false,
      "isBank": true,
      "countsItself": false,
      "fills": false,
      "isFuel": false,
      "isGas": false,
      "drains": false,
      "freezes": false,
      "served": [
        "stop"
      ],
      "usualServed": "stop"
    },
    {
      "id": "fresh",
      "name": "Fresh water",
      "hue": "sea",
      "unit": "L",
      "gauges": [
        "steps",
        "sensor",
        "sight",
        "none"
      ],
      "asks": [],
      "contents": [],
      "usualCapacity": 100.0,
      "usualGauge": "steps",
      "usualResolution": 0.02,
      "usualLine": 0.05,
      "apart": "reserve",
      "spareTakesItsPlace": false,
      "isBank": false,
      "countsItself": false,
      "fills": false,
      "isFuel": false,
      "isGas": false,
      "drains": false,
      "freezes": true,
      "served": [
        "stop",
        "here"
      ],
      "usualServed": "stop"
    },
    {
      "id": "grey",
      "name": "Grey tank",
      "hue": "slate",
      "unit": "L",
      "gauges": [
        "steps",
        "sensor",
        "sight",
        "none"
      ],
      "asks": [],
      "contents": [],
      "usualCapacity": 80.0,
      "usualGauge": "steps",
      "usualResolution": 0.02,
      "usualLine": 0.95,
      "apart": "tote",
      "spareTakesItsPlace": false,
      "isBank": false,
      "countsItself": false,
      "fills": true,
      "isFuel": false,
      "isGas": false,
      "drains": true,
      "freezes": true,
      "served": [
        "stop",
        "here"
      ],
      "usualServed": "stop"
    },
    {
      "id": "black",
      "name": "Black tank",
      "hue": "plum",
      "unit": "L",
      "gauges": [
        "steps",
        "sensor",
        "sight",
        "none"
      ],
      "asks": [],
      "contents": [],
      "usualCapacity": 80.0,
      "usualGauge": "steps",
      "usualResolution": 0.02,
      "usualLine": 0.9,
      "apart": "tote",
      "spareTakesItsPlace": false,
      "isBank": false,
      "countsItself": false,
      "fills": true,
      "isFuel": false,
      "isGas": false,
      "drains": false,
      "freezes": true,
      "served": [
        "stop",
        "here"
      ],
      "usualServed": "stop"
    },
    {
      "id": "cassette",
      "name": "Cassette",
      "hue": "plum",
      "unit": "L",
      "gauges": [
        "steps",
        "sensor",
        "sight",
        "none"
      ],
      "asks": [],
      "contents": [],
      "usualCapacity": 19.0,
      "usualGauge": "none",
      "usualResolution": 0.02,
      "usualLine": 0.9,
      "apart": "spare",
      "spareTakesItsPlace": true,
      "isBank": false,
      "countsItself": false,
      "fills": true,
      "isFuel": false,
      "isGas": false,
      "drains": false,
      "freezes": false,
      "served": [
        "stop",
        "here"
      ],
      "usualServed": "stop"
    },
    {
      "id": "urine",
      "name": "Urine bottle",
      "hue": "straw",
      "unit": "L",
      "gauges": [
        "steps",
        "sensor",
        "sight",
        "none"
      ],
      "asks": [],
      "contents": [],
      "usualCapacity": 8.0,
      "usualGauge": "sight",
      "usualResolution": 0.02,
      "usualLine": 0.9,
      "apart": "spare",
      "spareTakesItsPlace": true,
      "isBank": false,
      "countsItself": false,
      "fills": true,
      "isFuel": false,
      "isGas": false,
      "drains": false,
      "freezes": false,
      "served": [
        "stop",
        "here"
      ],
      "usualServed": "here"
    },
    {
      "id": "solids",
      "name": "Solids bin",
      "hue": "umber",
      "unit": "uses",
      "gauges": [
        "none",
        "sight",
        "steps"
      ],
      "asks": [],
      "contents": [],
      "usualCapacity": 70.0,
      "usualGauge": "none",
      "usualResolution": 0.02,
      "usualLine": 1.0,
      "apart": "spare",
      "spareTakesItsPlace": true,
      "isBank": false,
      "countsItself": false,
      "fills": true,
      "isFuel": false,
      "isGas": false,
      "drains": false,
      "freezes": false,
      "served": [
        "stop",
        "here"
      ],
      "usualServed": "stop"
    },
    {
      "id": "gas",
      "name": "Gas bottle",
      "hue": "rust",
      "unit": "kg",
      "gauges": [
        "scale",
        "sensor",
        "steps",
        "sight",
        "none"
      ],
      "asks": [
        "fuel",
        "tare_kg",
        "propane_share",
        "changes_itself",
        "tank_l",
        "heats",
        "generates"
      ],
      "contents": [
        {
          "id": "propane",
          "name": "propane"
        },
        {
          "id": "butane",
          "name": "butane"
        },
        {
          "id": "mix",
          "name": "butane and propane mixed"
        }
      ],
      "usualCapacity": 9.0,
      "usualGauge": "none",
      "usualResolution": 0.02,
      "usualLine": 0.05,
      "apart": "reserve",
      "spareTakesItsPlace": true,
      "isBank": false,
      "countsItself": false,
      "fills": false,
      "isFuel": false,
      "isGas": true,
      "drains": false,
      "freezes": true,
      "served": [
        "stop",
        "here"
      ],
      "usualServed": "stop"
    },
    {
      "id": "fuel",
      "name": "Vehicle fuel",
      "hue": "moss",
      "unit": "L",
      "gauges": [
        "steps",
        "sensor",
        "sight",
        "none"
      ],
      "asks": [
        "fuel",
        "heats",
        "drives",
        "generates",
        "pick_up",
        "by_pump"
      ],
      "contents": [
        {
          "id": "diesel",
          "name": "diesel"
        },
        {
          "id": "petrol",
          "name": "petrol"
        },
        {
          "id": "oil-mixed",
          "name": "petrol with oil mixed in"
        },
        {
          "id": "paraffin",
          "name": "paraffin"
        }
      ],
      "usualCapacity": 80.0,
      "usualGauge": "sensor",
      "usualResolution": 0.125,
      "usualLine": 0.25,
      "apart": "reserve",
      "spareTakesItsPlace": false,
      "isBank": false,
      "countsItself": false,
      "fills": false,
      "isFuel": true,
      "isGas": false,
      "drains": false,
      "freezes": false,
      "served": [
        "stop",
        "here"
      ],
      "usualServed": "stop"
    },
    {
      "id": "supply",
      "name": "Supply",
      "hue": "indigo",
      "unit": null,
      "gauges": [
        "steps",
        "sensor",
        "sight",
        "none"
      ],
      "asks": [
        "unit",
        "sense",
        "kwh_per_unit"
      ],
      "contents": [],
      "usualCapacity": 10.0,
      "usualGauge": "none",
      "usualResolution": 0.02,
      "usualLine": 0.0,
      "apart": "reserve",
      "spareTakesItsPlace": false,
      "isBank": false,
      "countsItself": true,
      "fills": false,
      "isFuel": false,
      "isGas": false,
      "drains": false,
      "freezes": false,
      "served": [
        "stop",
        "here"
      ],
      "usualServed": "stop"
    }
  ],
  "sourceKinds": [
    {
      "id": "alternator",
      "name": "Engine",
      "planned": "Drive",
      "burns": "engine-idle"
    },
    {
      "id": "shore",
      "name": "Hookup",
      "planned": "Plugged in",
      "burns": "nothing"
    },
    {
      "id": "generator",
      "name": "Generator",
      "planned": "Generator",
      "burns": "own-rate"
    }
  ],
  "eventTypes": [
    {
      "id": "fill",
      "effect": "fill"
    },
    {
      "id": "dump",
      "effect": "empty"
    },
    {
      "id": "swap",
      "effect": "swap"
    },
    {
      "id": "move",
      "effect": "move"
    },
    {
      "id": "drive",
      "effect": "drive"
    },
    {
      "id": "shore",
      "effect": "charge"
    },
    {
      "id": "generator",
      "effect": "charge"
    },
    {
      "id": "shower",
      "effect": "count"
    },
    {
      "id": "navy",
      "effect": "count"
    },
    {
      "id": "dishes",
      "effect": "count"
    },
    {
      "id": "wiped",
      "effect": "count"
    },
    {
      "id": "laundry",
      "effect": "count"
    },
    {
      "id": "flush",
      "effect": "count"
    },
    {
      "id": "cleaning",
      "effect": "count"
    },
    {
      "id": "filter",
      "effect": "care"
    },
    {
      "id": "disinfect",
      "effect": "care"
    },
    {
      "id": "seal",
      "effect": "care"
    },
    {
      "id": "oil",
      "effect": "care"
    },
    {
      "id": "odometer",
      "effect": "care"
    },
    {
      "id": "drain",
      "effect": "drain"
    }
  ],
  "applianceKinds": [
    {
      "id": "cooker",
      "name": "cooker",
      "solid": false,
      "changesOver": false
    },
    {
      "id": "oven",
      "name": "oven",
      "solid": false,
      "changesOver": false
    },
    {
      "id": "grill",
      "name": "grill",
      "solid": false,
      "changesOver": false
    },
    {
      "id": "griddle",
      "name": "griddle outdoors",
      "solid": false,
      "changesOver": false
    },
    {
      "id": "fridge",
      "name": "absorption fridge",
      "solid": false,
      "changesOver": true
    },
    {
      "id": "water-heater",
      "name": "water heater",
      "solid": false,
      "changesOver": false
    },
    {
      "id": "heater",
      "name": "heater",
      "solid": false,
      "changesOver": false
    },
    {
      "id": "unvented-heater",
      "name": "heater without a flue",
      "solid": false,
      "changesOver": false
    },
    {
      "id": "stove",
      "name": "wood or pellet stove",
      "solid": true,
      "changesOver": false
    },
    {
      "id": "lamp",
      "name": "lamp",
      "solid": false,
      "changesOver": false
    },
    {
      "id": "other",
      "name": "something else",
      "solid": false,
      "changesOver": false
    }
  ],
  "served": [
    {
      "id": "stop",
      "name": "at a stop"
    },
    {
      "id": "here",
      "name": "here, on the spot or on foot"
    }
  ],
  "outlets": [
    {
      "id": "sink",
      "name": "the sink"
    },
    {
      "id": "shower",
      "name": "the shower"
    },
    {
      "id": "toilet",
      "name": "the toilet"
    },
    {
      "id": "urine",
      "name": "urine"
    }
  ],
  "bodies": [
    {
      "id": "van",
      "name": "a van"
    },
    {
      "id": "motorhome",
      "name": "a motorhome"
    },
    {
      "id": "trailer",
      "name": "a trailer"
    },
    {
      "id": "truck",
      "name": "a truck with a box"
    },
    {
      "id": "bus",
      "name": "a bus"
    }
  ],
  "insulations": [
    {
      "id": "good",
      "name": "well"
    },
    {
      "id": "fair",
      "name": "fairly well"
    },
    {
      "id": "poor",
      "name": "badly"
    }
  ],
  "feeds": [
    {
      "id": "fuel",
      "name": "its gas or fuel"
    },
    {
      "id": "dc",
      "name": "the bank's volts"
    },
    {
      "id": "mains",
      "name": "mains"
    },
    {
      "id": "off",
      "name": "nothing, it is off"
    }
  ],
  "supplies": [
    {
      "id": "rubbish",
      "name": "Rubbish",
      "unit": "bags",
      "sense": "fills",
      "capacity": 3.0,
      "kwhPerUnit": null
    },
    {
      "id": "recycling",
      "name": "Recycling",
      "unit": "bags",
      "sense": "fills",
      "capacity": 2.0,
      "kwhPerUnit": null
    },
    {
      "id": "firewood",
      "name": "Firewood",
      "unit": "kg",
      "sense": "drains",
      "capacity": 40.0,
      "kwhPerUnit": 4.0
    },
    {
      "id": "pellets",
      "name": "Pellets",
      "unit": "kg",
      "sense": "drains",
      "capacity": 30.0,
      "kwhPerUnit": 4.8
    },
    {
      "id": "cylinders",
      "name": "One-use gas cylinders",
      "unit": "cylinders",
      "sense": "drains",
      "capacity": 8.0,
      "kwhPerUnit": 5.8
    },
    {
      "id": "laundry",
      "name": "Laundry to wash",
      "unit": "kg",
      "sense": "fills",
      "capacity": 8.0,
      "kwhPerUnit": null
    },
    {
      "id": "food",
      "name": "Food",
      "unit": "days of food",
      "sense": "drains",
      "capacity": 7.0,
      "kwhPerUnit": null
    },
    {
      "id": "additive",
      "name": "Toilet additive",
      "unit": "doses",
      "sense": "drains",
      "capacity": 12.0,
      "kwhPerUnit": null
    },
    {
      "id": "medium",
      "name": "Toilet medium",
      "unit": "uses",
      "sense": "drains",
      "capacity": 80.0,
      "kwhPerUnit": null
    },
    {
      "id": "toilet-bags",
      "name": "Toilet bags",
      "unit": "bags",
      "sense": "drains",
      "capacity": 40.0,
      "kwhPerUnit": null
    }
  ],
  "loadKinds": [
    {
      "id": "fridge",
      "name": "fridge or freezer"
    },
    {
      "id": "internet",
      "name": "internet"
    },
    {
      "id": "lights",
      "name": "lights, pump"
    },
    {
      "id": "heating",
      "name": "heater's fan or pump"
    },
    {
      "id": "devices",
      "name": "phones, laptops"
    },
    {
      "id": "other",
      "name": "something else"
    }
  ],
  "chemistries": [
    {
      "id": "lfp",
      "name": "lithium iron phosphate",
      "nominalBlockV": 12.8
    },
    {
      "id": "agm",
      "name": "AGM",
      "nominalBlockV": 12.0
    },
    {
      "id": "gel",
      "name": "gel",
      "nominalBlockV": 12.0
    },
    {
      "id": "flooded",
      "name": "flooded lead",
      "nominalBlockV": 12.0
    },
    {
      "id": "nmc",
      "name": "lithium-ion (NMC), power station",
      "nominalBlockV": 11.1
    },
    {
      "id": "lead-carbon",
      "name": "lead-carbon",
      "nominalBlockV": 12.0
    }
  ],
  "gauges": [
    {
      "id": "steps",
      "name": "light panel"
    },
    {
      "id": "sensor",
      "name": "sensor"
    },
    {
      "id": "sight",
      "name": "sight line"
    },
    {
      "id": "scale",
      "name": "scale"
    },
    {
      "id": "shunt",
      "name": "shunt"
    },
    {
      "id": "none",
      "name": "no gauge"
    }
  ],
  "skies": [
    {
      "id": "clear",
      "name": "clear"
    },
    {
      "id": "mixed",
      "name": "mixed"
    },
    {
      "id": "overcast",
      "name": "overcast"
    },
    {
      "id": "wet",
      "name": "wet"
    }
  ],
  "statuses": [
    {
      "id": "parked",
      "name": "parked"
    },
    {
      "id": "moving",
      "name": "moving"
    },
    {
      "id": "hookup",
      "name": "plugged in"
    }
  ],
  "systems": [
    {
      "id": "metric",
      "name": "litres, kg, km, °C"
    },
    {
      "id": "us",
      "name": "gallons, lb, miles, °F"
    },
    {
      "id": "uk",
      "name": "litres, kg, miles, °C"
    }
  ],
  "via": [
    {
      "id": "dc",
      "name": "the bank's own volts"
    },
    {
      "id": "inverter",
      "name": "the inverter"
    }
  ],
  "when": [
    {
      "id": "any",
      "name": "day and night"
    },
    {
      "id": "day",
      "name": "by day"
    },
    {
      "id": "night",
      "name": "at night"
    }
  ],
  "toilets": [
    {
      "id": "black",
      "name": "black tank"
    },
    {
      "id": "cassette",
      "name": "cassette"
    },
    {
      "id": "composting",
      "name": "composting, with urine bottle"
    },
    {
      "id": "none",
      "name": "none"
    }
  ],
  "heaters": [
    {
      "id": "diesel",
      "name": "vehicle fuel"
    },
    {
      "id": "gas",
      "name": "gas"
    },
    {
      "id": "none",
      "name": "nothing"
    }
  ],
  "ratingUnits": [
    {
      "id": "Wh",
      "name": "Wh"
    },
    {
      "id": "kWh",
      "name": "kWh"
    },
    {
      "id": "mAh",
      "name": "mAh"
    },
    {
      "id": "Ah",
      "name": "Ah"
    }
  ],
  "usual": {
    "metric": {
      "fresh": 100,
      "grey": 80,
      "black": 80,
      "cassette": 19,
      "urine": 8,
      "solids": 70,
      "gas": 9,
      "fuel": 80
    },
    "us": {
      "fresh": 26,
      "grey": 21,
      "black": 21,
      "cassette": 5,
      "urine": 2,
      "solids": 70,
      "gas": 20,
      "fuel": 21
    },
    "uk": {
      "fresh": 100,
      "grey": 80,
      "black": 80,
      "cassette": 19,
      "urine": 8,
      "solids": 70,
      "gas": 9,
      "fuel": 80
    }
  },
  "shown": {
    "metric": {
      "L": "L",
      "kg": "kg",
      "km": "km",
      "m": "m",
      "degC": "°C",
      "degC difference": "°C",
      "Ah": "Ah",
      "Wh": "Wh",
      "W": "W",
      "V": "V",
      "A": "A",
      "h": "h",
      "min": "min",
      "uses": "uses"
    },
    "us": {
      "L": "gal",
      "kg": "lb",
      "km": "mi",
      "m": "ft",
      "degC": "°F",
      "degC difference": "°F",
      "Ah": "Ah",
      "Wh": "Wh",
      "W": "W",
      "V": "V",
      "A": "A",
      "h": "h",
      "min": "min",
      "uses": "uses"
    },
    "uk": {
      "L": "L",
      "kg": "kg",
      "km": "mi",
      "m": "m",
      "degC": "°C",
      "degC difference": "°C",
      "Ah": "Ah",
      "Wh": "Wh",
      "W": "W",
      "V": "V",
      "A": "A",
      "h": "h",
      "min": "min",
      "uses": "uses"
    }
  },
  "labels": {
    "name": "Name",
    "timezone": "Timezone",
    "units": "Units",
    "adults": "Adults",
    "children": "Children",
    "pets": "Animals",
    "crew": "Crew",
    "stores": "Stores",
    "loads": "Loads",
    "solar": "Solar arrays",
    "sources": "Other ways to charge",
    "inverter": "Inverter",
    "kind": "Kind",
    "capacity": "Capacity",
    "limit": "Lode line",
    "reserve": "Carried apart",
    "served": "Emptied or filled",
    "reserve_counts": "Reserve counts",
    "heats": "A heater burns from it",
    "drives": "The vehicle drives on it",
    "generates": "A generator runs on it",
    "appliances": "What burns",
    "kw": "Burns at",
    "gas_burns": "What burns gas",
    "chemistry": "Chemistry",
    "nominal_v": "Nominal volts",
    "layout": "Series and parallel",
    "unit_v": "Volts of a unit",
    "unit_ah": "Amp-hours of a unit",
    "series": "Units in series",
    "parallel": "Strings in parallel",
    "kept_warm": "Kept warm",
    "starter": "Starts the engine",
    "fuel": "Holds",
    "tare_kg": "Empty bottle",
    "unit": "Counted in",
    "sense": "Life aboard",
    "gauge": "Gauge",
    "marks": "Marks",
    "resolution": "Resolution",
    "id": "Id",
    "takes": "What drains into it",
    "reads_from": "Shows when it is empty",
    "outside": "Inside or outside",
    "habits": "Habits",
    "per_day": "Times a day",
    "each_l": "One takes",
    "each": "One takes",
    "jugs": "Jugs",
    "litres": "Holds",
    "holds": "Holds",
    "heater_l": "Water heater holds",
    "filter_l": "Filter is good for",
    "shown": "Shows when it is empty",
    "sure": "How sure",
    "watts": "Watts",
    "tilt_deg": "Tilt",
    "azimuth_deg": "Faces, from north",
    "controller_amps": "Controller",
    "horizon_deg": "Obstruction height, degrees",
    "amps": "Into the bank",
    "fuel_store": "Burns from",
    "fuel_l_per_h": "Burns",
    "surge_watts": "Surge",
    "idle_watts": "Idle",
    "efficiency": "Efficiency",
    "always_on": "It is on",
    "hours_per_day": "Runs",
    "via": "Through",
    "when": "When",
    "propane_share": "Propane in the mix",
    "changes_itself": "The next bottle",
    "tank_l": "The whole tank",
    "pick_up": "A heater draws none under",
    "by_pump": "Its line",
    "kwh_per_unit": "Heat of one unit",
    "buffer_days": "Days to sit out without supply",
    "lowest_kw": "Lowest rate",
    "driving_on": "While driving, on",
    "plugged_on": "While plugged in, on",
    "idle_l_per_h": "Burns at no load",
    "full_l_per_h": "Burns at full load",
    "rated_w": "Rated",
    "oil_hours": "Oil every",
    "spares": "Bottles and cans",
    "tare": "Empty weight",
    "contents": "In it",
    "heat": "Heating",
    "quiet": "Quiet hours",
    "body": "Built as",
    "insulation": "Keeps its heat",
    "living": "Length that is heated",
    "living_m": "Length that is heated",
    "day_c": "Inside by day",
    "night_c": "Inside at night",
    "away_c": "With nobody aboard",
    "glazing_m2": "Windows",
    "day_temp": "Inside by day",
    "night_temp": "Inside at night",
    "night_from_h": "Night from",
    "night_until_h": "Night until",
    "from_h": "Quiet from",
    "until_h": "Quiet until",
    "appliance": "Appliance",
    "night": "Outside",
    "text": "Reading",
    "value": "Value",
    "at": "Time",
    "date": "Date",
    "time": "Time",
    "type": "What was done",
    "store": "Store",
    "amount": "Amount",
    "left": "Left in it",
    "from": "From",
    "to": "To",
    "source": "From",
    "target": "To",
    "hours": "Hours",
    "km": "Distance",
    "distance": "Distance",
    "count": "How often",
    "method": "Method",
    "state": "State",
    "entries": "Entries",
    "full": "To the brim",
    "sky": "Sky",
    "temp_min_c": "Coldest",
    "temp_max_c": "Warmest",
    "temp_min": "Coldest",
    "temp_max": "Warmest",
    "status": "What the rig does",
    "panels_covered": "Panels covered by snow",
    "confirmed": "Confirmed",
    "within": "Within",
    "crew_aboard": "Sleeping aboard",
    "note": "Note",
    "solar_wh": "Solar yield",
    "load_wh": "Drawn from the bank",
    "water_l": "Water drawn, by meter",
    "water": "Water drawn, by meter",
    "place": "Place",
    "lat": "Latitude",
    "lon": "Longitude",
    "minutes": "For",
    "start": "Start",
    "surge": "Starting draw",
    "bank": "Bank",
    "until": "Until",
    "cell_v": "At its cells' volts",
    "username": "Account",
    "password": "Password",
    "code": "Code from the server",
    "battery_ah": "Capacity of the bank",
    "starter_ah": "Starter battery",
    "battery_v": "Bank volts",
    "solar_watts": "All panels together",
    "fresh": "Fresh tanks",
    "grey": "Grey tank",
    "toilet": "Toilet",
    "gas": "Bottle in use, full",
    "heater": "Heater burns",
    "drive_hours": "Drive",
    "shore_hours": "Plugged in",
    "generator_hours": "Generator"
  }
} as const;
