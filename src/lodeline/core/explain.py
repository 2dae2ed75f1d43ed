"""Why a lane looks as it does: what the level rests on, what use was assumed, what widens the range most."""

from datetime import datetime
from zoneinfo import ZoneInfo

import numpy as np

from lodeline.core.forecast.forecast import StoreForecast
from lodeline.core.reading import describe
from lodeline.core.rig import Kind, Rig, Sense
from lodeline.core.tracking.energy_past import learned_load_wh, listed_wh
from lodeline.core.tracking.evidence import gauge_worth
from lodeline.core.tracking.track import Tracked
from lodeline.core.units import shown


def _on(at: datetime, zone: ZoneInfo) -> str:
    local = at.astimezone(zone)
    return f"{local.strftime('%a')} {local.day} {local.strftime('%b')}"


def explain(rig: Rig, tracked: Tracked, ahead: StoreForecast) -> list[str]:
    """Sentences, most important first; empty before the store is known."""
    if tracked.known_since is None or ahead.rate_per_day is None:
        return []
    return [each for each in (_rests_on(rig, tracked), _use(rig, tracked), _widest(rig, tracked, ahead)) if each]


def _rests_on(rig: Rig, tracked: Tracked) -> str:
    zone, store = ZoneInfo(rig.timezone), tracked.store
    parts = []
    if tracked.last_reset:
        what = "filled" if store.sense is Sense.DRAINS else "emptied"
        parts.append(f"last {what} on {_on(tracked.last_reset, zone)}")
    if tracked.last_reading:
        said = describe(store, tracked.last_reading, rig.units)
        parts.append(f"last read on {_on(tracked.last_reading.at, zone)} ({said})")
    worth = gauge_worth(store)
    gauge = (
        ""
        if store.gauge.kind in ("steps", "none")
        else f" This gauge is good to about {worth.sd * 100:.0f} % of capacity."
    )
    return f"The level rests on: {' and '.join(parts)}.{gauge}" if parts else ""


def _use(rig: Rig, tracked: Tracked) -> str:
    store, unit = tracked.store, shown(tracked.store.unit, rig.units)
    days = tracked.days_seen
    basis = (
        f"assumed from crew and kind; only {days:.0f} days of use are logged" if tracked.assumed
        else f"learned from {days:.0f} days of log, recent days weighing more"
    )  # fmt: skip
    coefficients = dict(zip(tracked.model.drivers, tracked.belief.coefficients, strict=True))
    if store.kind is Kind.BATTERY:
        load = learned_load_wh(rig, tracked)[1]
        share, clear = load / max(listed_wh(rig), 1e-9), coefficients["clear"]
        sun = f" and the array at {clear * 100:.0f} % of its expected strength under a clear sky" if rig.solar else ""
        return f"Loads are taken as about {load:,.0f} Wh a day, {share * 100:.0f} % of the list,{sun}, {basis}."
    parts = []
    if "people" in coefficients:
        parts.append(f"{unit.text(coefficients['people'])} a day with the usual crew")
    for kind, words in (
        ("shower", "a shower"),
        ("laundry", "a load of laundry"),
        ("weekend", "more on a week-end day"),
    ):
        if kind in coefficients:
            parts.append(f"{unit.text(coefficients[kind])} {words}")
    if "cold" in coefficients:
        parts.append(f"{unit.to_shown(coefficients['cold']):.2f} {unit.unit} a degree-day under 18 °C")
    if "km" in coefficients:
        per = shown("km", rig.units)
        parts.append(f"{unit.to_shown(coefficients['km']) / per.to_shown(1) * 100:.1f} {unit.unit} per 100 {per.unit}")
    return f"Use is taken as {' and '.join(parts)}, {basis}."


def _widest(rig: Rig, tracked: Tracked, ahead: StoreForecast) -> str:
    """Shares of the variance of the days left: level, rate, days that differ; then what would narrow it."""
    rate = ahead.rate_per_day or 0.0
    if ahead.p50_days is None or rate <= 0 or ahead.p50_days <= 0 or tracked.store.kind is Kind.BATTERY:
        return "Most of the range comes from the sky." if tracked.store.kind is Kind.BATTERY and rig.solar else ""
    days = ahead.p50_days
    belief = tracked.belief
    level = (belief.sd / rate) ** 2
    rate_cv = float(np.sqrt(belief.cov[1, 1]) / max(belief.coefficients[0], 1e-9))
    uncertain = (days * rate_cv) ** 2
    differ = (float(tracked.model.day_cv[0]) * tracked.spread) ** 2 * days
    names = {
        "how full it is now": level,
        "how much you use on the whole": uncertain,
        "how much one day differs from another": differ,
    }
    widest = max(names, key=lambda name: names[name])
    share = round(10 * names[widest] / sum(names.values()))
    advice = ""
    if widest == "how full it is now":
        advice = " Weigh the bottle tonight." if tracked.store.tare_kg else " One reading tonight would narrow it most."
    elif widest == "how much you use on the whole":
        advice = " A reading each evening for a few days would narrow it most."
    return f"About {share} tenths of the range come from {widest}.{advice}"
