"""Against typical years as measured by others, which pvlib 0.16 ships.

TMY3: Wilcox and Marion 2008, NREL/TP-581-43156 (703165 Sand Point, Alaska; 723170 Greensboro, North Carolina).
TMY2: Marion and Urban 1995, NREL/SP-463-7668 (12839 Miami, Florida). Hours end at their stamp, in standard time.
"""

from datetime import date, timedelta
from pathlib import Path

import numpy as np
import pvlib
import pytest

from lodeline.core.energy.air import air_c
from lodeline.core.energy.solar import array_power_w
from lodeline.core.energy.sun import Location, clear_plane_w_m2
from lodeline.core.figures import Energy
from lodeline.core.zone import Zone

DATA = Path(pvlib.__file__).parent / "data"
DATES = [date(2026, 1, 1) + timedelta(days=each) for each in range(365)]


class Year:
    """A measured year; each column of shape (365, 24)."""

    def __init__(self, file: str) -> None:
        is_new = file.lower().endswith(".csv")
        table, self.station = pvlib.iotools.read_tmy3(DATA / file) if is_new else pvlib.iotools.read_tmy2(DATA / file)
        names = ("ghi", "dni", "dhi", "temp_air", "wind_speed", "TotCld (tenths)")
        if not is_new:
            names = ("GHI", "DNI", "DHI", "DryBulb", "Wspd", "TotCld")
        self.level, self.beam, self.diffuse, self.air, self.wind, self.cloud = (
            table[name].to_numpy(dtype=float).reshape(365, 24) for name in names
        )
        if not is_new:
            self.air, self.wind = self.air / 10, self.wind / 10  # TMY2 keeps both in tenths
        ahead_h = int(self.station["TZ"])
        self.spot = Location(self.station["latitude"], self.station["longitude"], Zone(f"Etc/GMT{-ahead_h:+d}"))

    def clear(self, tilt: float = 0.0) -> np.ndarray:
        return np.array([clear_plane_w_m2(self.spot, on, tilt, 180.0) for on in DATES])


@pytest.fixture(scope="module", params=["703165TY.csv", "723170TYA.CSV", "12839.tm2"])
def year(request):
    return Year(request.param)


def test_a_clear_day_is_as_bright_as_measured(year):
    clear = year.clear()
    by_day = np.where(clear > 50, year.cloud, np.nan)
    cloudless = np.nanmean(by_day, axis=1) < 1.0
    assert cloudless.sum() >= 5
    measured, ours = year.level[cloudless], clear[cloudless]
    assert ours.sum() == pytest.approx(measured.sum(), rel=0.08)
    assert np.sqrt(((measured - ours) ** 2).mean()) < 0.06 * measured.max()


def test_the_sky_words_leave_about_what_is_measured_under_such_clouds(year):
    # words by total cloud in tenths: clear under 2, mixed 2 to 8, overcast over 9.5 (wet days among them)
    clear = year.clear()
    by_day = np.nanmean(np.where(clear > 50, year.cloud, np.nan), axis=1)
    share = year.level.sum(axis=1) / clear.sum(axis=1)
    fair, mixed, overcast, wet = Energy.sky_shares
    assert share[by_day < 2].mean() == pytest.approx(fair, abs=0.12)
    assert share[(by_day >= 2) & (by_day < 8)].mean() == pytest.approx(mixed, abs=0.25)
    assert wet < share[by_day > 9.5].mean() == pytest.approx(overcast, abs=0.27)


def test_the_air_of_a_day_is_as_warm_by_the_hour_as_measured(year):
    # from the coldest and warmest hour alone, as the log has them, against all 24
    low, high = year.air.min(axis=1), year.air.max(axis=1)
    ours = np.array([air_c((a + b) / 2, a) for a, b in zip(low, high, strict=True)])
    flat = np.broadcast_to(((low + high) / 2)[:, None], ours.shape)
    miss = np.sqrt(((ours - year.air) ** 2).mean())
    assert miss < 0.4 * (high - low).mean()
    assert miss < np.sqrt(((flat - year.air) ** 2).mean())


def test_an_array_yields_in_a_year_what_a_fuller_model_makes_of_the_measured_sun(year):
    # PVWatts (Dobos 2014) on Faiman's cell temperature (2008), both by pvlib, with measured air and wind; ours lie flat on
    # a roof, where less wind reaches their backs, so they run warmer
    plane, watts = year.level, 400.0
    cell_c = pvlib.temperature.faiman(plane, year.air, year.wind)
    theirs = pvlib.pvsystem.pvwatts_dc(plane, cell_c, watts, Energy.power_per_c).sum()
    low, high = year.air.min(axis=1), year.air.max(axis=1)
    air = np.array([air_c((a + b) / 2, a) for a, b in zip(low, high, strict=True)])
    ours = array_power_w(plane, watts, air).sum() / Energy.system_share
    assert ours == pytest.approx(theirs, rel=0.06)


def test_a_tilted_plane_on_clear_days_gets_what_the_measured_beam_and_sky_give_it(year):
    # pvlib's isotropic sky (Liu and Jordan 1963) on the measured parts, against our clear sky under another model
    tilt, clear = 30.0, year.clear()
    by_day = np.nanmean(np.where(clear > 50, year.cloud, np.nan), axis=1)
    days = np.flatnonzero(by_day < 1.0)
    times = [np.datetime64(year.spot.zone.midnight(DATES[day]).replace(tzinfo=None)) for day in days]
    stamps = np.concatenate(
        [begin + np.timedelta64(30, "m") + np.arange(24) * np.timedelta64(1, "h") for begin in times]
    )
    sun = pvlib.solarposition.spa_python(
        pvlib.tools.pd.DatetimeIndex(stamps).tz_localize("UTC"), year.spot.lat, year.spot.lon
    )
    zenith, azimuth = (sun[name].to_numpy() for name in ("apparent_zenith", "azimuth"))
    parts = (each[days].ravel() for each in (year.beam, year.level, year.diffuse))
    theirs = pvlib.irradiance.get_total_irradiance(tilt, 180.0, zenith, azimuth, *parts, albedo=Energy.albedo)
    assert year.clear(tilt)[days].sum() == pytest.approx(np.nansum(theirs["poa_global"]), rel=0.1)
