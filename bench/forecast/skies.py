"""Banks under skies that nobody here made up: the measured typical years that pvlib ships.

TMY3: Wilcox and Marion 2008, NREL/TP-581-43156 (703165 Sand Point, Alaska; 723170 Greensboro, North Carolina). Hours end
at their stamp, in standard time. Loads, banks and logs are those of the simulated banks; sun and air are measured.
"""

from datetime import date, datetime, timedelta
from functools import lru_cache
from pathlib import Path
from zoneinfo import ZoneInfo

import numpy as np

from bench.forecast.banks import BankMaker

_FILES = {"America/Anchorage": "703165TY.csv", "America/New_York": "723170TYA.CSV"}
_YEAR = 365
# A day's total over the brightest of the weeks around it, from which its word is told.
_WORDS = (0.78, 0.45, 0.2)
_AROUND, _BRIGHT = 12, 0.92


@lru_cache(maxsize=4)
def measured(zone: str) -> tuple[np.ndarray, np.ndarray, float, float, int]:
    """Irradiation on the level in each standard hour [kWh/m2], air [degC], latitude, longitude, hours from UTC."""
    import pvlib

    table, station = pvlib.iotools.read_tmy3(Path(pvlib.__file__).parent / "data" / _FILES[zone])
    ghi, air = (table[name].to_numpy(dtype=float).reshape(_YEAR, 24) for name in ("ghi", "temp_air"))
    return ghi / 1000, air, float(station["latitude"]), float(station["longitude"]), int(station["TZ"])


class SkyMaker(BankMaker):
    """Makes one bank under a measured year."""

    def __init__(self, seed: int) -> None:
        self.pick = str(np.random.default_rng([9, seed]).choice(list(_FILES)))
        self.ghi, self.air, self.place_lat, self.place_lon, self.standard_h = measured(self.pick)
        self.settled = False
        super().__init__(seed)
        self.zone = ZoneInfo(self.pick)
        self.lat, self.lon, self.tilt = self.place_lat, self.place_lon, 0.0
        usual = float(self.clear_h(self.first + timedelta(days=self.n_days)).sum()) * 0.6
        ratio = float(self.rng.lognormal(np.log(0.95), 0.5))
        self.watts = int(
            np.clip(ratio * self.load_wh / max(0.25, usual * self.performance * self.efficiency), 50, 3000)
        )
        self.settled = True

    def _row(self, on: date) -> int:
        return min(on.timetuple().tm_yday, _YEAR) - 1

    def _sun_h(self, on: date) -> np.ndarray:
        if not self.settled:
            return np.asarray(super()._sun_h(on))
        offset = datetime(on.year, on.month, on.day, 12, tzinfo=self.zone).utcoffset()
        assert offset is not None
        return np.roll(self.ghi[self._row(on)], round(offset.total_seconds() / 3600) - self.standard_h)

    def clear_h(self, on: date) -> np.ndarray:
        """The brightest hours of the weeks around a date."""
        rows = (self._row(on) + np.arange(-_AROUND, _AROUND + 1)) % _YEAR
        totals = self.ghi[rows].sum(axis=1)
        return np.asarray(self.ghi[rows][np.argsort(totals)[int(_BRIGHT * len(rows))]])

    def _weather(self, on: date) -> tuple[int, float, float, float]:
        air = self.air[self._row(on)]
        share = float(self._sun_h(on).sum() / max(1e-6, self.clear_h(on).sum()))
        sky = next((index for index, least in enumerate(_WORDS) if share >= least), len(_WORDS))
        return sky, 1.0, float((air.min() + air.max()) / 2), float(air.min())
