"""From a log to all that is told of a rig: levels, lines and forecast; of data alone, wherever it is worked out."""

from collections.abc import Mapping
from dataclasses import replace

from lodeline.core.forecast.forecast import Forecast
from lodeline.core.forecast.known import Known
from lodeline.core.forecast.record import ShownForecast, scales
from lodeline.core.forecast.supposed import served
from lodeline.core.fuel.lines import MustStay, lines, with_lines
from lodeline.core.levers.agreed import agreed_forecast
from lodeline.core.tracking.checkpoints import Checkpoints
from lodeline.core.tracking.track import track
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class WhatMayCome:
    """What may come of what is known: ``known`` with its lines and its record's spread, and the forecast; ``after``:
    that from when what is past its line is served, None where nothing is."""

    known: Known
    lines: Mapping[str, MustStay]
    forecast: Forecast
    after: Forecast | None = None


def ahead(known: Known, shown: tuple[ShownForecast, ...], seed: int) -> WhatMayCome:
    """The forecast of what is known. ``shown``: the rig's earlier forecasts."""
    scaled = replace(known, spread_scale=scales(shown, known.tracked, known.now, known.log))
    found = lines(scaled)
    lined = replace(scaled, tracked=with_lines(scaled.tracked, found))
    now = agreed_forecast(lined, seed=seed)
    then = replace(lined, tracked=served(lined.tracked, now.due))
    after = agreed_forecast(then, seed=seed) if now.due else None
    return WhatMayCome(known=lined, lines=found, forecast=now, after=after)


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """A rig to be brought up to date: what is known of it but for its levels."""

    known: Known
    shown: tuple[ShownForecast, ...]
    seed: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Answered:
    """The rig's levels before its lines, and what may come; the states along its past, for the next time."""

    known: Known
    ahead: WhatMayCome
    checkpoints: Checkpoints


def answer(asked: Asked) -> Answered:
    """Bring a rig up to date from nothing: the same data give the same answer, to the byte, on every machine."""
    checkpoints, known = Checkpoints(), asked.known
    known = replace(known, tracked=track(known.rig, known.log, known.now, checkpoints))
    return Answered(known=known, ahead=ahead(known, asked.shown, asked.seed), checkpoints=checkpoints)
