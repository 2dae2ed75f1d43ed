"""What a reading says about the contents, and how well: one table of methods and gauges."""

from dataclasses import dataclass

import numpy as np

from lodeline.core.energy import bank
from lodeline.core.log import Reading
from lodeline.core.rig import Kind, Store

# One mark off through sloshing or fouling: about 1 in 20. Anything further off: rare. Common practice.
MARK_SLIP = 0.05
MARK_WILD = 0.004
TOP_MARK_SHOWS_FROM = 0.97
END_SD = 0.02
SCALE_SD_KG = 0.15
_GUESS_SD = 0.07


@dataclass(frozen=True, slots=True)
class Worth:
    """A gauge's own error and its lasting bias, as shares of capacity. Start values, common practice.

    ``bias_walk`` is how far the bias may wander in a day (a shunt drifts until the next full charge).
    """

    sd: float
    bias_sd: float = 0.0
    bias_walk: float = 0.0


_WORTH = {
    "sight": Worth(0.035, 0.02, 0.001),
    "shunt": Worth(0.01, 0.0, 0.004),
    "scale": Worth(0.02),
    "steps": Worth(0.05),
    "none": Worth(_GUESS_SD),
}


def gauge_worth(store: Store) -> Worth:
    """What the store's gauge is worth before anything is learned about it."""
    if store.gauge.kind == "sensor":
        step = store.gauge.resolution
        return Worth(float(np.hypot(0.012, step / np.sqrt(12.0))), 0.035, 0.001)
    return _WORTH.get(store.gauge.kind, _WORTH["none"])


@dataclass(frozen=True, slots=True)
class Evidence:
    """What a reading says of the contents, in the store's unit.

    Either a value with its error (``bands`` empty), or ``bands`` of (low, high, weight) that cover 0 to capacity.
    A reading that says nothing about the level has neither; ``words`` then tells why.
    """

    value: float | None = None
    sd: float = 0.0
    biased: bool = False
    bands: tuple[tuple[float, float, float], ...] = ()
    words: str = ""

    @property
    def silent(self) -> bool:
        """Whether the reading says nothing about the level."""
        return self.value is None and not self.bands


def mark_span(store: Store, mark: float) -> tuple[float, float]:
    """The levels at which a light panel shows this mark, as fractions: from the mark to just under the next."""
    marks = store.gauge.marks
    index = min(range(len(marks)), key=lambda i: abs(marks[i] - mark))
    edges = [0.0, *[m if m < 1 else TOP_MARK_SHOWS_FROM for m in marks[1:]], 1.0]
    return edges[index], edges[index + 1]


def _bands(store: Store, mark: float) -> tuple[tuple[float, float, float], ...]:
    marks = store.gauge.marks
    shown = min(range(len(marks)), key=lambda i: abs(marks[i] - mark))
    neighbours = [i for i in (shown - 1, shown + 1) if 0 <= i < len(marks)]
    found = []
    for index, each in enumerate(marks):
        low, high = mark_span(store, each)
        weight = 1 - MARK_SLIP if index == shown else MARK_SLIP / len(neighbours) if index in neighbours else MARK_WILD
        found.append((low * store.capacity, high * store.capacity, weight))
    return tuple(found)


def evidence(store: Store, reading: Reading) -> Evidence:
    """Turn a reading into evidence about its store's contents.

    Parameters
    ----------
    store : Store
    reading : Reading
        Its ``value`` in the base unit of its method.

    Returns
    -------
    Evidence
        In the store's unit.
    """
    capacity, worth = store.capacity, gauge_worth(store)
    value = reading.value if reading.value is not None else 0.0
    match reading.method:
        case "step":
            return Evidence(bands=_bands(store, value))
        case "dry":
            return Evidence(0.0, END_SD * capacity)
        case "full":
            return Evidence(capacity, END_SD * capacity)
        case "uses":
            return Evidence(value, 0.7)
        case "volts":
            meaning = bank.state_of_charge(store, value, reading.state)
            if meaning.soc is None:
                return Evidence(words=meaning.words)
            return Evidence(meaning.soc * capacity, meaning.sd * capacity, words=meaning.words)
        case "mass":
            return Evidence(value, SCALE_SD_KG)
        case "gross":
            return Evidence(value - (store.tare_kg or 0.0), SCALE_SD_KG)
        case "fraction":
            return Evidence(value * capacity, worth.sd * capacity, biased=worth.bias_sd > 0 or worth.bias_walk > 0)
        case _:
            sd = 0.02 * capacity if store.kind is Kind.SUPPLY else max(worth.sd, 0.03) * capacity
            return Evidence(value, sd, biased=worth.bias_sd > 0)
