"""What a store's gauge has been found to be worth: its error, its lasting bias, where its marks really sit."""

from dataclasses import dataclass

import numpy as np

from lodeline.core.rig import Store
from lodeline.core.tracking.evidence import TOP_MARK_SHOWS_FROM, gauge_worth
from lodeline.core.tracking.track import Tracked

_MARK_PRIOR_SD = 0.06
_ENOUGH = 8


@dataclass(frozen=True, slots=True)
class MarkFound:
    """Where a mark of a light panel seems to begin, as a share of capacity."""

    painted: float
    found: float
    sd: float


@dataclass(frozen=True, slots=True)
class GaugeFound:
    """Shares of capacity. ``error`` is None until enough readings were compared."""

    readings: int
    stated: float
    error: float | None
    bias: float
    bias_sd: float
    marks: tuple[MarkFound, ...] = ()


def gauge_found(tracked: Tracked) -> GaugeFound:
    """What the log says of a store's gauge, from readings against what was expected before each."""
    store, belief = tracked.store, tracked.belief
    compared = [seen for seen in tracked.seen if seen.expected_sd < 0.15 * store.capacity]
    values = [seen for seen in compared if seen.method == "fraction" and seen.value is not None]
    error = None
    if len(values) >= _ENOUGH:
        misses = np.array([(seen.value or 0.0) - seen.expected for seen in values])
        expected_var = np.array([seen.expected_sd**2 for seen in values])
        # a median keeps slips out; 1.4826 makes it a standard deviation
        spread = 1.4826 * float(np.median(np.abs(misses - np.median(misses))))
        error = float(np.sqrt(max(spread**2 - float(np.median(expected_var)), (0.003 * store.capacity) ** 2)))
    return GaugeFound(
        len(tracked.seen), gauge_worth(store).sd, None if error is None else error / store.capacity,
        float(belief.mean[-1]) / store.capacity, float(np.sqrt(max(belief.cov[-1, -1], 0.0))) / store.capacity,
        _marks(store, tracked),
    )  # fmt: skip


def _marks(store: Store, tracked: Tracked) -> tuple[MarkFound, ...]:
    """The level from which each mark shows, by the likelihood of all readings on a grid around the painted mark."""
    if store.gauge.kind != "steps":
        return ()
    shown = [seen for seen in tracked.seen if seen.method == "step" and seen.mark is not None]
    found = []
    for painted in store.gauge.marks[1:]:
        centre = painted if painted < 1 else TOP_MARK_SHOWS_FROM
        grid = np.linspace(max(0.02, centre - 0.25), min(1.0, centre + 0.25), 101)
        log_p = -0.5 * ((grid - centre) / _MARK_PRIOR_SD) ** 2
        for seen in shown:
            sd = max(seen.expected_sd / store.capacity, 0.02)
            above = 1 / (1 + np.exp(-1.702 * (seen.expected / store.capacity - grid) / sd))
            is_above = (seen.mark or 0.0) >= painted - 1e-9
            log_p += np.log(0.05 + 0.9 * (above if is_above else 1 - above))
        p = np.exp(log_p - log_p.max())
        p /= p.sum()
        mean = float(p @ grid)
        found.append(MarkFound(painted, mean, float(np.sqrt(p @ (grid - mean) ** 2))))
    return tuple(found)


def worth_tonight(tracked: Tracked, rate_per_day: float | None) -> float:
    """How much a reading tonight would narrow the days left. [day]"""
    store = tracked.store
    if tracked.known_since is None:
        return float("inf")
    if not rate_per_day or rate_per_day <= 0:
        return 0.0
    sd = tracked.belief.sd
    worth = gauge_worth(store)
    gauge_sd = float(np.hypot(worth.sd, worth.bias_sd)) * store.capacity
    if store.gauge.kind == "steps" and store.gauge.marks:
        gauge_sd = store.capacity * float(np.mean(np.diff([*store.gauge.marks]))) / np.sqrt(12)
    if store.tare_kg is not None:
        gauge_sd = 0.15
    after = 1 / np.sqrt(1 / max(sd, 1e-9) ** 2 + 1 / max(gauge_sd, 1e-9) ** 2)
    return float((sd - after) / rate_per_day)


def gauge_words(found: GaugeFound) -> list[str]:
    """What a gauge has been found to be worth, in sentences."""
    said = []
    if found.error is not None:
        said.append(
            f"Error found {found.error * 100:.1f} % of capacity from {found.readings} readings; "
            f"{found.stated * 100:.1f} % was assumed."
        )
    if abs(found.bias) > max(1.3 * found.bias_sd, 0.02) and found.bias_sd > 0:
        way = "high" if found.bias > 0 else "low"
        said.append(f"It reads about {abs(found.bias) * 100:.0f} % of capacity too {way} (±{found.bias_sd * 100:.0f}).")
    for mark in found.marks:
        if abs(mark.found - mark.painted) > max(1.3 * mark.sd, 0.03) and mark.painted < 1:
            said.append(
                f"The mark {mark.painted * 100:.0f} % seems to begin at {mark.found * 100:.0f} % "
                f"(±{mark.sd * 100:.0f})."
            )
    if not said:
        said.append(
            "As assumed so far." if found.readings >= _ENOUGH else f"Too few readings to judge: {found.readings}."
        )
    return said
