"""What a person types, as a reading: ``72%``, ``13.1V``, ``2/3``, ``45 L``, ``11.2kg``, ``full``, ``dry``."""

import re
from dataclasses import dataclass, replace
from datetime import datetime

from lodeline.core.energy import bank
from lodeline.core.errors import Refused
from lodeline.core.log import Reading
from lodeline.core.rig import Kind, Sense, Store
from lodeline.core.tracking.evidence import evidence, mark_span
from lodeline.core.units import System, shown, typed_unit

_NUMBER = r"[0-9]+(?:[.,][0-9]+)?|[.,][0-9]+"
_FRACTION = re.compile(rf"({_NUMBER})\s*/\s*({_NUMBER})")
_TWO_WAYS = re.compile(r"(?<![\d.,])[1-9]\d{0,2},\d{3}(?![\d.,])")
_VALUE = re.compile(rf"({_NUMBER})\s*(.*)")
_FULL = {"full", "brim", "to the brim", "full light", "100", "full up"}
_DRY = {"dry", "empty", "air", "pump draws air", "none", "e"}
_SHARES = {"half": 0.5, "a half": 0.5, "third": 1 / 3, "a third": 1 / 3, "two thirds": 2 / 3, "quarter": 0.25,
           "a quarter": 0.25, "three quarters": 0.75}  # fmt: skip
_STATES = {
    "rest": "rest", "resting": "rest", "at rest": "rest", "load": "load", "loaded": "load", "under load": "load",
    "charge": "charge", "charging": "charge", "on charge": "charge",
}  # fmt: skip
_OVERFULL = 1.02


@dataclass(frozen=True, slots=True)
class Understood:
    """A reading as understood: what to store, and a sentence that says it back."""

    method: str
    value: float | None
    state: str | None
    words: str

    def at(self, when: datetime, store_id: str) -> Reading:
        """The reading made at a time."""
        return Reading(when, store_id, self.method, self.value, self.state)


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _refuse(store: Store, text: str) -> Refused:
    return Refused("text", f'"{text.strip()}" is not understood for {store.name}; write {examples(store)}')


def examples(store: Store) -> str:
    """Notations that fit a store, as a hint."""
    if store.kind is Kind.BATTERY:
        return "72%, 13.1 V, full or dry"
    if store.gauge.kind == "steps":
        marks = ", ".join(_mark_words(mark) for mark in store.gauge.marks)
        return f"a mark ({marks}), an amount, full or {_end_words(store)}"
    if store.kind is Kind.GAS:
        return "11.2 kg (bottle and contents), 40%, full or dry" if store.tare_kg else "4.5 kg, 40%, full or dry"
    if store.kind is Kind.SOLIDS:
        return "a count of uses, or full"
    if store.kind is Kind.SUPPLY:
        return f"an amount in {store.unit}, 40%, full or dry"
    return f"45%, 2/3, an amount, full or {_end_words(store)}"


def _end_words(store: Store) -> str:
    return "dry" if store.sense is Sense.DRAINS else "empty"


def _mark_words(mark: float) -> str:
    known = {0.0: "0", 0.25: "1/4", 0.33: "1/3", 0.333: "1/3", 0.34: "1/3", 0.5: "1/2", 0.66: "2/3", 0.67: "2/3",
             0.667: "2/3", 0.75: "3/4", 1.0: "1"}  # fmt: skip
    return known.get(round(mark, 3), f"{mark * 100:.0f}%")


def understand(store: Store, text: str, system: System) -> Understood:
    """Understand what was typed for a store.

    Raises
    ------
    Refused
        With a sentence that says what would be right.
    """
    plain = " ".join(text.strip().lower().split())
    if not plain:
        raise Refused("text", "nothing was typed")
    if doubtful := _TWO_WAYS.search(plain):
        large, small = doubtful[0].replace(",", ""), f"{_number(doubtful[0]):g}"
        raise Refused("text", f'"{doubtful[0]}" may be {large} or {small}; write it one of these ways')
    found = _end(store, plain) or _share(store, plain, text) or _amount(store, plain, text, system)
    return replace(found, words=describe(store, found, system))


def _end(store: Store, plain: str) -> Understood | None:
    if plain in _FULL and plain != "100":
        return Understood("full", None, None, "")
    if plain in _DRY:
        return Understood("dry", None, None, "")
    return None


def _share(store: Store, plain: str, text: str) -> Understood | None:
    share = _SHARES.get(plain)
    if match := _FRACTION.fullmatch(plain):
        above, below = _number(match[1]), _number(match[2])
        if below == 0 or above > below:
            raise Refused("text", f'"{text.strip()}" is not a share of a whole')
        share = above / below
    elif match := re.fullmatch(rf"({_NUMBER})\s*(%|percent|per cent|pc)", plain):
        share = _number(match[1]) / 100
        if share > 1:
            raise Refused("text", f'"{text.strip()}" is over 100 %')
    if share is None:
        return None
    if store.kind is Kind.SOLIDS:
        return Understood("uses", round(share * store.capacity), None, "")
    return _as_step(store, share) or Understood("fraction", share, None, "")


def _as_step(store: Store, share: float) -> Understood | None:
    """A share on a light panel is the mark nearest to it, if it is near."""
    if store.gauge.kind != "steps":
        return None
    mark = min(store.gauge.marks, key=lambda each: abs(each - share))
    return Understood("step", mark, None, "") if abs(mark - share) <= 0.04 else None


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
        own = {store.unit.lower(), store.unit.lower().rstrip("s")} | ({"use"} if store.kind is Kind.SOLIDS else set())
        if rest in own:
            return _contents(store, value, text)
        raise _refuse(store, text)
    base, factor = typed
    if base == store.unit:
        return _contents(store, value * factor, text)
    if store.kind is Kind.BATTERY and base == "Wh":
        return _contents(store, value * factor / store.volts, text)
    raise _refuse(store, text)


def _bare(store: Store, value: float, text: str, system: System) -> Understood:
    """A number alone: volts or per cent on a battery, a mark on a panel, per cent on a sensor, else the user's unit."""
    if store.kind is Kind.BATTERY:
        likely_volts = 0.75 * store.volts <= value <= 1.3 * store.volts and store.gauge.kind != "shunt"
        if likely_volts:
            return _volts(store, value, "", text)
        if value <= 100:
            return Understood("fraction", value / 100, None, "")
        raise _refuse(store, text)
    if store.kind is Kind.SOLIDS:
        return _contents(store, value, text)
    if store.gauge.kind == "steps" and (value <= 1) and (step := _as_step(store, value)):
        return step
    if store.gauge.kind == "sensor" and value <= 100:
        return Understood("fraction", value / 100, None, "")
    return _contents(store, shown(store.unit, system).to_base(value), text)


def _volts(store: Store, volts_v: float, state: str, text: str) -> Understood:
    if store.kind is not Kind.BATTERY:
        raise _refuse(store, text)
    if state and state not in _STATES:
        raise Refused("text", f'"{state}" is not a state of a battery; write rest, load or charge after the volts')
    if not 0.5 * store.volts <= volts_v <= 1.6 * store.volts:
        raise Refused("text", f"{volts_v:g} V cannot be right for a {store.volts:g} V bank")
    return Understood("volts", volts_v, _STATES.get(state), "")


def _contents(store: Store, amount: float, text: str) -> Understood:
    """An amount in the store's unit, by the method that the store's kind is read with."""
    if store.kind is Kind.BATTERY:
        if amount > _OVERFULL * store.capacity:
            raise Refused("text", f"{amount:g} Ah is more than the bank's {store.capacity:g} Ah")
        return Understood("fraction", min(1.0, amount / store.capacity), None, "")
    if store.kind is Kind.GAS:
        if store.tare_kg is not None and amount >= store.tare_kg:
            if amount - store.tare_kg > _OVERFULL * store.capacity + 0.5:
                raise Refused("text", f"{amount:.1f} kg is more than bottle and contents can weigh")
            return Understood("gross", amount, None, "")
        if store.tare_kg is not None and amount > store.capacity:
            raise Refused("text", f"{amount:.1f} kg is less than the empty bottle, {store.tare_kg:.1f} kg")
    if store.kind is not Kind.SOLIDS and amount > _OVERFULL * store.capacity:
        raise Refused("text", f"{amount:g} {store.unit} is more than the {store.capacity:g} {store.unit} that it holds")
    methods = {Kind.GAS: "mass", Kind.SOLIDS: "uses", Kind.SUPPLY: "amount"}
    return Understood(methods.get(store.kind, "volume"), amount, None, "")


def describe(store: Store, said: Understood | Reading, system: System) -> str:
    """A reading in words: what it says about the contents, in the user's units."""
    unit = shown(store.unit, system)
    if said.method == "step":
        low, high = mark_span(store, said.value or 0.0)
        span = f"between {unit.text(low * store.capacity)} and {unit.text(high * store.capacity)}"
        return f"mark {_mark_words(said.value or 0.0)}: {span}"
    if said.method == "dry":
        return "at its end: nothing left" if store.sense is Sense.DRAINS else "empty"
    if said.method == "full":
        return f"full: {unit.text(store.capacity)}"
    if said.method == "volts":
        return bank.volts_sentence(store, said.value or 0.0, said.state).rstrip(".")
    value = evidence(store, Reading(datetime.min, store.id, said.method, said.value, said.state)).value or 0.0  # noqa: DTZ901
    if said.method == "gross":
        kg = shown("kg", system)
        return f"{kg.to_shown(said.value or 0.0):.1f} {kg.unit} less the bottle: {unit.text(value)} of fuel"
    if store.kind is Kind.SOLIDS:
        return f"{value:.0f} of {store.capacity:.0f} uses"
    return f"{unit.text(value)}, {value / store.capacity * 100:.0f} %"
