"""What the priors alone lead one to expect: rigs drawn from them, before any log (a prior predictive check).

Writes ``docs/pictures/priors.svg``: how often each figure comes, over the range that practitioners give.
"""

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from xml.sax.saxutils import escape

import numpy as np

from lodeline.core.catalogue import STORE_KINDS, Chemistry, System
from lodeline.core.energy.loads import audit_wh
from lodeline.core.rig import Crew, Rig, Store
from lodeline.core.tracking.use import expected_use

_PICTURE = Path(__file__).resolve().parents[2] / "docs" / "pictures" / "priors.svg"
_WEEK, _COLD = 7.0, 8.0


@dataclass(frozen=True)
class Figure:
    """One figure: what it is, its range in practice, how it is drawn from a rig and chance."""

    name: str
    low: float
    high: float
    draw: Callable[[np.random.Generator], float]


def _rig(rng: np.random.Generator, kind: str, low: float, high: float) -> tuple[Rig, Store, int]:
    adults = int(rng.choice([1, 2, 2, 3]))
    store = Store(kind, STORE_KINDS[kind], kind, float(rng.uniform(low, high)))
    rig = Rig(name="drawn", timezone="UTC", units=System.METRIC, crew=Crew(adults, 0, 0), stores=(store,))
    return rig, store, adults


def _rates(rng: np.random.Generator, rig: Rig, store: Store) -> np.ndarray:
    """Coefficients as the paths draw them: log-normal with the prior's mean and error."""
    model = expected_use(rig, store)
    cv_sq = np.log1p(np.square(model.sd / np.maximum(model.mean, 1e-9)))
    drawn: np.ndarray = model.mean * np.exp(np.sqrt(cv_sq) * rng.standard_normal(len(model.mean)) - cv_sq / 2)
    return drawn


def _between(kind: str, low: float, high: float) -> Callable[[np.random.Generator], float]:
    """Days between two services: the way to the people's margin, at the use that was drawn."""

    def draw(rng: np.random.Generator) -> float:
        rig, store, _ = _rig(rng, kind, low, high)
        margin = rng.normal(store.kind.service.margin, store.kind.service.margin_sd)
        return abs(store.line_level - store.good_end) * max(0.1, margin) / float(_rates(rng, rig, store)[0])

    return draw


def _litres(rng: np.random.Generator) -> float:
    rig, store, adults = _rig(rng, "fresh", 60, 350)
    return float(_rates(rng, rig, store)[0]) / adults


def _gas(rng: np.random.Generator) -> float:
    rig, store, _ = _rig(rng, "gas", 5, 14)
    rates = _rates(rng, rig, store)
    return _WEEK * float(rates[0] + _COLD * rates[1:].sum())


def _kwh(rng: np.random.Generator) -> float:
    rig, _, _ = _rig(rng, "fresh", 60, 350)
    bank = Store("b", STORE_KINDS["battery"], "b", 200.0, chemistry=Chemistry.LFP, nominal_v=12.8)
    factor = _rates(rng, rig, bank)[0]
    return float(audit_wh(rig).sum() * factor) / 1000


# Ranges as practitioners give them: a careful person's day of water to three times it, a cassette of 18 to 20 L for two
# in two to three days, a bottle of 9 kg in six to eight weeks without heat and in days with it.
FIGURES = (
    Figure("litres of water, a person and day", 6, 45, _litres),
    Figure("days between two fills of water", 2, 20, _between("fresh", 60, 350)),
    Figure("days between two dumps of grey", 2, 20, _between("grey", 50, 300)),
    Figure("days between two cassettes", 1, 8, _between("cassette", 17, 21)),
    Figure("days between two black tanks", 3, 25, _between("black", 70, 150)),
    Figure("days between two urine bottles", 1.5, 10, _between("urine", 6, 10)),
    Figure("kWh a day, nothing listed", 0.3, 2.5, _kwh),
    Figure("kg of gas a week, at 10 degrees C", 0.3, 5, _gas),
)


def draws(n: int, seed: int = 1) -> dict[str, np.ndarray]:
    """So many draws of each figure."""
    rng = np.random.default_rng(seed)
    return {each.name: np.array([each.draw(rng) for _ in range(n)]) for each in FIGURES}


def _panel(figure: Figure, values: np.ndarray, left: float, top: float) -> str:
    width, height, bins = 330.0, 86.0, 36
    edges = np.geomspace(figure.low / 4, figure.high * 4, bins + 1)
    counts = np.histogram(values, edges)[0] / len(values)

    def x(value: float) -> float:
        return left + width * float(np.log(value / edges[0]) / np.log(edges[-1] / edges[0]))

    most = float(counts.max())
    bars = "".join(
        f'<rect x="{x(a):.1f}" y="{top + height * (1 - c / most):.1f}" width="{x(b) - x(a) - 1:.1f}" '
        f'height="{height * c / most:.1f}" fill="#3f5f6f"/>'
        for a, b, c in zip(edges, edges[1:], counts, strict=False)
    )
    inside = float(((values >= figure.low) & (values <= figure.high)).mean())
    marks = "".join(
        f'<text x="{x(v):.1f}" y="{top + height + 13:.1f}" text-anchor="middle">{v:g}</text>'
        for v in (figure.low, figure.high)
    )
    return (
        f'<text x="{left}" y="{top - 6}">{escape(figure.name)}: {100 * inside:.0f} % within</text>'
        f'<rect x="{x(figure.low):.1f}" y="{top}" width="{x(figure.high) - x(figure.low):.1f}" height="{height}" fill="#e6dfcc"/>'
        f"{bars}{marks}"
    )


def main(n: int = 1000, picture: Path = _PICTURE) -> None:
    """Draw, print, and write the picture."""
    drawn = draws(n)
    panels = []
    for index, figure in enumerate(FIGURES):
        values = drawn[figure.name]
        low, middle, high = np.quantile(values, (0.1, 0.5, 0.9))
        inside = ((values >= figure.low) & (values <= figure.high)).mean()
        print(
            f"{figure.name:36}{low:8.2f}{middle:8.2f}{high:8.2f}   in {figure.low:g} to {figure.high:g}: {100 * inside:.0f} %"
        )
        panels.append(_panel(figure, values, 10 + 365 * (index % 2), 28 + 128 * (index // 2)))
    drawing = (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 725 520" font-family="sans-serif" font-size="12">'
        f'<rect width="725" height="520" fill="#fff"/>{"".join(panels)}</svg>\n'
    )
    picture.write_text(drawing)
