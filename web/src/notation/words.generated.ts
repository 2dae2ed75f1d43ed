// Written by ./lodeline generate from the core's notation; change it there.
export const WORDS = {
  "full": [
    "brim",
    "f",
    "full",
    "full light",
    "full up",
    "to the brim"
  ],
  "dry": [
    "air",
    "dry",
    "e",
    "empty",
    "none",
    "pump draws air"
  ],
  "shares": {
    "half": 0.5,
    "a half": 0.5,
    "third": 0.3333333333333333,
    "a third": 0.3333333333333333,
    "two thirds": 0.6666666666666666,
    "quarter": 0.25,
    "a quarter": 0.25,
    "three quarters": 0.75
  },
  "signs": {
    "½": "1/2",
    "⅓": "1/3",
    "⅔": "2/3",
    "¼": "1/4",
    "¾": "3/4",
    "⅕": "1/5",
    "⅖": "2/5",
    "⅗": "3/5",
    "⅘": "4/5",
    "⅙": "1/6",
    "⅚": "5/6",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8"
  },
  "emptyish": [
    "almost dry",
    "almost empty",
    "close to empty",
    "nearly dry",
    "nearly empty"
  ],
  "fullish": [
    "almost full",
    "close to full",
    "nearly full"
  ],
  "lowLight": [
    "fuel light on",
    "low fuel light",
    "on reserve",
    "reserve",
    "reserve light",
    "reserve light on"
  ],
  "states": {
    "rest": "rest",
    "resting": "rest",
    "at rest": "rest",
    "load": "load",
    "loaded": "load",
    "under load": "load",
    "charge": "charge",
    "charging": "charge",
    "on charge": "charge"
  },
  "figures": {
    "mark_taken_within": 0.04,
    "top_mark_shows_from": 0.97,
    "overfull": 1.02,
    "overweight_kg": 0.5,
    "likely_volts_low": 0.75,
    "likely_volts_high": 1.3,
    "least_volts": 0.5,
    "most_volts": 1.6,
    "read_alike": 0.005,
    "full_gravity": 1.265,
    "flat_gravity": 1.12,
    "least_gravity": 1.05,
    "most_gravity": 1.35,
    "nearly": 0.15
  },
  "units": {
    "L": {
      "typed": {
        "l": 1.0,
        "litre": 1.0,
        "litres": 1.0,
        "liter": 1.0,
        "liters": 1.0,
        "ltr": 1.0,
        "ltrs": 1.0,
        "lt": 1.0,
        "lts": 1.0,
        "ml": 0.001
      },
      "typedIn": {
        "metric": {
          "gal": 3.785411784,
          "gals": 3.785411784,
          "gallon": 3.785411784,
          "gallons": 3.785411784
        },
        "us": {
          "gal": 3.785411784,
          "gals": 3.785411784,
          "gallon": 3.785411784,
          "gallons": 3.785411784
        },
        "uk": {
          "gal": 4.54609,
          "gals": 4.54609,
          "gallon": 4.54609,
          "gallons": 4.54609
        }
      },
      "shown": {
        "metric": {
          "unit": "L",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        },
        "us": {
          "unit": "gal",
          "factor": 0.26417205235814845,
          "offset": 0.0,
          "decimals": 1
        },
        "uk": {
          "unit": "L",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        }
      }
    },
    "kg": {
      "typed": {
        "kg": 1.0,
        "kgs": 1.0,
        "kilo": 1.0,
        "kilos": 1.0,
        "g": 0.001,
        "lb": 0.45359237,
        "lbs": 0.45359237
      },
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "kg",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        },
        "us": {
          "unit": "lb",
          "factor": 2.2046226218487757,
          "offset": 0.0,
          "decimals": 1
        },
        "uk": {
          "unit": "kg",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        }
      }
    },
    "km": {
      "typed": {
        "km": 1.0,
        "mi": 1.609344,
        "miles": 1.609344
      },
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "km",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "us": {
          "unit": "mi",
          "factor": 0.621371192237334,
          "offset": 0.0,
          "decimals": 0
        },
        "uk": {
          "unit": "mi",
          "factor": 0.621371192237334,
          "offset": 0.0,
          "decimals": 0
        }
      }
    },
    "m": {
      "typed": {
        "m": 1.0,
        "metres": 1.0,
        "meters": 1.0,
        "ft": 0.3048,
        "feet": 0.3048
      },
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "m",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        },
        "us": {
          "unit": "ft",
          "factor": 3.280839895013123,
          "offset": 0.0,
          "decimals": 1
        },
        "uk": {
          "unit": "m",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        }
      }
    },
    "degC": {
      "typed": {},
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "°C",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "us": {
          "unit": "°F",
          "factor": 1.8,
          "offset": 32.0,
          "decimals": 0
        },
        "uk": {
          "unit": "°C",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        }
      }
    },
    "degC difference": {
      "typed": {},
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "°C",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "us": {
          "unit": "°F",
          "factor": 1.8,
          "offset": 0.0,
          "decimals": 0
        },
        "uk": {
          "unit": "°C",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        }
      }
    },
    "Ah": {
      "typed": {
        "ah": 1.0
      },
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "Ah",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "us": {
          "unit": "Ah",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "uk": {
          "unit": "Ah",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        }
      }
    },
    "Wh": {
      "typed": {
        "wh": 1.0,
        "kwh": 1000.0
      },
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "Wh",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "us": {
          "unit": "Wh",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "uk": {
          "unit": "Wh",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        }
      }
    },
    "W": {
      "typed": {
        "w": 1.0,
        "watt": 1.0,
        "watts": 1.0,
        "kw": 1000.0
      },
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "W",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "us": {
          "unit": "W",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "uk": {
          "unit": "W",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        }
      }
    },
    "V": {
      "typed": {
        "v": 1.0,
        "volt": 1.0,
        "volts": 1.0
      },
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "V",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        },
        "us": {
          "unit": "V",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        },
        "uk": {
          "unit": "V",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        }
      }
    },
    "A": {
      "typed": {
        "a": 1.0,
        "amp": 1.0,
        "amps": 1.0
      },
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "A",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "us": {
          "unit": "A",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "uk": {
          "unit": "A",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        }
      }
    },
    "h": {
      "typed": {
        "h": 1.0,
        "hour": 1.0,
        "hours": 1.0
      },
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "h",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        },
        "us": {
          "unit": "h",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        },
        "uk": {
          "unit": "h",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 1
        }
      }
    },
    "min": {
      "typed": {
        "min": 1.0,
        "minute": 1.0,
        "minutes": 1.0
      },
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "min",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "us": {
          "unit": "min",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "uk": {
          "unit": "min",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        }
      }
    },
    "uses": {
      "typed": {
        "use": 1.0,
        "uses": 1.0
      },
      "typedIn": {},
      "shown": {
        "metric": {
          "unit": "uses",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "us": {
          "unit": "uses",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        },
        "uk": {
          "unit": "uses",
          "factor": 1.0,
          "offset": 0.0,
          "decimals": 0
        }
      }
    }
  }
} as const;
