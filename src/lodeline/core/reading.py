"""What a person types, as a reading: ``72%``, ``13.1V``, ``2/3``, ``45 L``, ``11.2kg``, ``full``, ``dry``."""

import re
from dataclasses import dataclass
from datetime import datetime

from lodeline.core.catalogue import GaugeKind, Method, System, VoltsState, shown, typed_unit
from lodeline.core.errors import Refused
from lodeline.core.figures import Readings
from lodeline.core.log import Reading
from lodeline.core.problems import (
    ImpossibleVolts,
    MayBeTwo,
    NotABankState,
    NotAShare,
    NothingTyped,
    NotUnderstood,
    OverCapacity,
    OverTheWhole,
    TooHeavy,
    UnderTare,
)
from lodeline.core.rig import Store

_NUMBER = r"[0-9]+(?:[.,][0-9]+)?|[.,][0-9]+"
_FRACTION = re.compile(rf"({_NUMBER})\s*/\s*({_NUMBER})")
_PER_CENT = re.compile(rf"({_NUMBER})\s*(%|percent|per cent|pc)")
_TWO_WAYS = re.compile(r"(?<![\d.,])[1-9]\d{0,2},\d{3}(?![\d.,])")
_VALUE = re.compile(rf"({_NUMBER})\s*(.*)")
_FULL = frozenset({"full", "brim", "to the brim", "full light", "full up"})
_DRY = frozenset({"dry", "empty", "air", "pump draws air", "none", "e"})
_SHARES = {"half": 0.5, "a half": 0.5, "third": 1 / 3, "a third": 1 / 3, "two thirds": 2 / 3, "quarter": 0.25,
           "a quarter": 0.25, "three quarters": 0.75}  # fmt: skip
_STATES = {
    "rest": VoltsState.REST, "resting": VoltsState.REST, "at rest": VoltsState.REST, "load": VoltsState.LOAD,
    "loaded": VoltsState.LOAD, "under load": VoltsState.LOAD, "charge": VoltsState.CHARGE,
    "charging": VoltsState.CHARGE, "on charge": VoltsState.CHARGE,
}  # fmt: skip
_PER_CENT_OF_ONE = 100
_OVERWEIGHT_KG = Readings.overweight_kg
_PLACE = "text"


@dataclass(frozen=True, slots=True)
class Understood:
    """A reading as understood: what to keep."""

    method: Method
    value: float | None = None
    state: VoltsState | None = None

    def at(self, when: datetime, store_id: str) -> Reading:
        """The reading made at a time."""
        return Reading(when, store_id, self.method, self.value, self.state)


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _refuse(store: Store, text: str) -> Refused:
    return Refused(_PLACE, NotUnderstood(text.strip(), store))


def understand(store: Store, text: str, system: System) -> Understood:
    """Understand what was typed for a store.

    Raises
    ------
    Refused
        With what is wrong.
    """
    plain = " ".join(text.strip().lower().split())
    if not plain:
        raise Refused(_PLACE, NothingTyped())
    if doubtful := _TWO_WAYS.search(plain):
        typed = doubtful[0]
        raise Refused(_PLACE, MayBeTwo(typed, typed.replace(",", ""), f"{_number(typed):g}"))
    return _end(plain) or _share(store, plain, text) or _amount(store, plain, text, system)


def _end(plain: str) -> Understood | None:
    if plain in _FULL:
        return Understood(Method.FULL)
    if plain in _DRY:
        return Understood(Method.DRY)
    return None


def _share(store: Store, plain: str, text: str) -> Understood | None:
    share = _SHARES.get(plain)
    if match := _FRACTION.fullmatch(plain):
        above, below = _number(match[1]), _number(match[2])
        if below == 0 or above > below:
            raise Refused(_PLACE, NotAShare(text.strip()))
        share = above / below
    elif match := _PER_CENT.fullmatch(plain):
        share = _number(match[1]) / _PER_CENT_OF_ONE
        if share > 1:
            raise Refused(_PLACE, OverTheWhole(text.strip()))
    if share is None:
        return None
    if store.kind.amounts is Method.USES:
        return Understood(Method.USES, round(share * store.capacity))
    return _as_step(store, share) or Understood(Method.FRACTION, share)


def _as_step(store: Store, share: float) -> Understood | None:
    """A share on a light panel is the mark nearest to it, if it is near."""
    if store.gauge.kind is not GaugeKind.STEPS:
        return None
    mark = min(store.gauge.marks, key=lambda each: abs(each - share))
    return Understood(Method.STEP, mark) if abs(mark - share) <= Readings.mark_taken_within else None


def _amount(store: Store, plain: str, text: str, system: System) -> Understood:
    match = _VALUE.fullmatch(plain)
    if not match:
        raise _refuse(store, text)
    value, rest = _number(match[1]), match[2].strip()
    if not rest:
        return _bare(store, value, text, system)
    unit, _, state = rest.partition(" ")
    typed = typed_unit(unit, system)
    if typed and typed[0] == "V":
        return _volts(store, value * typed[1], state.strip(), text)
    if typed is None or state:
        if rest in {store.unit.lower(), store.unit.lower().rstrip("s")}:
            return _contents(store, value)
        raise _refuse(store, text)
    base, factor = typed
    if base == store.unit:
        return _contents(store, value * factor)
    if store.is_bank and base == "Wh":
        return _contents(store, value * factor / store.volts)
    raise _refuse(store, text)


def _bare(store: Store, value: float, text: str, system: System) -> Understood:
    """A number alone: volts or per cent on a battery, a mark on a panel, per cent on a sensor, else the user's unit."""
    if store.is_bank:
        low, high = Readings.likely_volts_low * store.volts, Readings.likely_volts_high * store.volts
        if low <= value <= high and store.gauge.kind is not GaugeKind.SHUNT:
            return _volts(store, value, "", text)
        if value <= _PER_CENT_OF_ONE:
            return Understood(Method.FRACTION, value / _PER_CENT_OF_ONE)
        raise _refuse(store, text)
    if store.kind.amounts is Method.USES:
        return _contents(store, value)
    if store.gauge.kind is GaugeKind.STEPS and value <= 1 and (step := _as_step(store, value)):
        return step
    if store.gauge.kind is GaugeKind.SENSOR and value <= _PER_CENT_OF_ONE:
        return Understood(Method.FRACTION, value / _PER_CENT_OF_ONE)
    return _contents(store, shown(store.unit, system).to_base(value))


def _volts(store: Store, volts_v: float, state: str, text: str) -> Understood:
    if not store.is_bank:
        raise _refuse(store, text)
    if state and state not in _STATES:
        raise Refused(_PLACE, NotABankState(state))
    if not Readings.least_volts * store.volts <= volts_v <= Readings.most_volts * store.volts:
        raise Refused(_PLACE, ImpossibleVolts(volts_v, store.volts))
    return Understood(Method.VOLTS, volts_v, _STATES.get(state))


def _contents(store: Store, amount: float) -> Understood:
    """An amount in the store's unit, by the method that the store's kind is read with."""
    method, most = store.kind.amounts, Readings.overfull * store.capacity
    if method is Method.FRACTION:
        if amount > most:
            raise Refused(_PLACE, OverCapacity(amount, store))
        return Understood(method, min(1.0, amount / store.capacity))
    if method is Method.MASS and store.tare_kg is not None:
        if amount >= store.tare_kg:
            if amount - store.tare_kg > most + _OVERWEIGHT_KG:
                raise Refused(_PLACE, TooHeavy(amount))
            return Understood(Method.GROSS, amount)
        if amount > store.capacity:
            raise Refused(_PLACE, UnderTare(amount, store.tare_kg))
    if method is not Method.USES and amount > most:
        raise Refused(_PLACE, OverCapacity(amount, store))
    return Understood(method, amount)
