"""What a person types, as a reading: ``72%``, ``13.1V``, ``2/3``, ``45 L``, ``11.2kg``, ``full``, ``dry``.

The web has the same in ``notation/understand.ts``, for the field's echo and for when there is no signal; both sides are
held to one file of cases that is generated from here.
"""

import re
from datetime import datetime

from lodeline.core.catalogue import Chemistry, GaugeKind, Method, System, VoltsState, shown, typed_unit
from lodeline.core.errors import Refused
from lodeline.core.figures import Readings
from lodeline.core.log import Reading
from lodeline.core.problems import (
    ImpossibleGravity,
    ImpossibleVolts,
    MayBeEither,
    MayBeTwo,
    NotABankState,
    NotAShare,
    NotUnderstood,
    OverCapacity,
    OverTheWhole,
    Plain,
    TooHeavy,
    UnderTare,
)
from lodeline.core.rig import Store
from lodeline.core.values import dataclass

_NUMBER = r"[0-9]+(?:[.,][0-9]+)?|[.,][0-9]+"
_FRACTION = re.compile(rf"({_NUMBER})\s*/\s*({_NUMBER})")
_PER_CENT = re.compile(rf"({_NUMBER})\s*(%|percent|per cent|pc)")
_TWO_WAYS = re.compile(r"(?<![\d.,])[1-9]\d{0,2},\d{3}(?![\d.,])")
_VALUE = re.compile(rf"({_NUMBER})\s*(.*)")
FULL = frozenset({"full", "brim", "to the brim", "full light", "full up", "f"})
DRY = frozenset({"dry", "empty", "air", "pump draws air", "none", "e"})
# What people say of a level that they judge by eye: how far from each end it may be, as a share of the whole.
EMPTYISH = frozenset({"nearly empty", "almost empty", "nearly dry", "almost dry", "close to empty"})
FULLISH = frozenset({"nearly full", "almost full", "close to full"})
LOW_LIGHT = frozenset({"reserve light on", "reserve light", "reserve", "on reserve", "fuel light on", "low fuel light"})
SHARES = {
    "half": 0.5,
    "a half": 0.5,
    "third": 1 / 3,
    "a third": 1 / 3,
    "two thirds": 2 / 3,
    "quarter": 0.25,
    "a quarter": 0.25,
    "three quarters": 0.75,
}
# Fractions that are one character.
SIGNS = {
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
    "⅞": "7/8",
}
_BETWEEN = re.compile(r"(?:between |from )?(.+?)\s*(?:and|to|-|–)\s*(.+)")
_LIGHTS = re.compile(r"(no|all|\d{1,2}) lights?(?: (?:on|lit))?")
_LEFT = re.compile(rf"({_NUMBER})\s*([a-z]+) (?:left|to go|range|of range)|range ({_NUMBER})\s*([a-z]+)")
_METER = re.compile(rf"(?:meter|counter)\s*({_NUMBER})\s*([a-z]*)")
_MINUSES = str.maketrans(dict.fromkeys("−–‒﹣－", "-"))
# What is put before an amount that was not read off exactly; it changes nothing.
_ABOUT = re.compile(r"^(~|≈|about|approx\.?|ca\.?|circa)\s*")
_PARTED = re.compile(r"(?<![\d.,])(\d{1,3})((?:[\s'’]\d{3})+)(?!\d)")
_OF_WHAT = re.compile(r"\s+(?:of\s+)?(?:a\s+|the\s+)?(?:tank|tanks|bottle|full)$")
# A hydrometer's reading, as 1.250 or 1250, alone or with its unit.
_GRAVITY = re.compile(r"(?:sg\s*)?(1[.,]?[0-3]\d\d?)(?:\s*sg)?")
_WATER = 1000.0
STATES = {
    "rest": VoltsState.REST,
    "resting": VoltsState.REST,
    "at rest": VoltsState.REST,
    "load": VoltsState.LOAD,
    "loaded": VoltsState.LOAD,
    "under load": VoltsState.LOAD,
    "charge": VoltsState.CHARGE,
    "charging": VoltsState.CHARGE,
    "on charge": VoltsState.CHARGE,
}
_PER_CENT_OF_ONE = 100
_OVERWEIGHT_KG = Readings.overweight_kg
_GRAVITY_DIGITS = 3
_PLACE = "text"


@dataclass(frozen=True, slots=True, kw_only=True)
class Understood:
    """A reading as understood: what to keep. ``gravity``: of the acid, where a share was told by it; ``within``: how
    far from its value it may be, of what was judged by eye."""

    method: Method
    value: float | None = None
    state: VoltsState | None = None
    gravity: float | None = None
    within: float | None = None

    def at(self, when: datetime, store_id: str) -> Reading:
        """The reading made at a time."""
        return Reading(when, store_id, self.method, self.value, self.state, within=self.within)


def _says(method: Method, value: float | None = None, state: VoltsState | None = None) -> Understood:
    return Understood(method=method, value=value, state=state)


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
    plain = _plain(text)
    if not plain:
        raise Refused(_PLACE, Plain.NOTHING_TYPED)
    if store.chemistry is Chemistry.FLOODED and (match := _GRAVITY.fullmatch(plain)):
        return _gravity(match[1])
    if doubtful := _TWO_WAYS.search(plain):
        typed = doubtful[0]
        raise Refused(_PLACE, MayBeTwo(typed, typed.replace(",", ""), f"{_number(typed):g}"))
    return (
        _end(plain)
        or _by_eye(store, plain)
        or _lights(store, plain, text)
        or _share(store, plain, text)
        or _way_left(store, plain, system)
        or _meter(store, plain, system)
        or _amount(store, plain, text, system)
    )


def written_in(store: Store, method: Method, system: System) -> str | None:
    """The unit in which a number alone may be taken for a reading like that one; None where it takes none.

    Of a bank it is asked each time: 13 are volts, too, for one that was read in per cent.
    """
    if store.is_bank:
        return None
    match method:
        case Method.FRACTION:
            return "%"
        case store.kind.amounts:
            return shown(store.unit, system).unit
        case _:
            return None


def _plain(text: str) -> str:
    """Small letters, single spaces, fractions written out, thousands not parted, no ``about`` before it."""
    plain = text.strip().lower().translate(_MINUSES)
    for sign, fraction in SIGNS.items():
        plain = plain.replace(sign, fraction)
    plain = _ABOUT.sub("", " ".join(plain.split()))
    return _PARTED.sub(lambda match: match[1] + re.sub(r"\D", "", match[2]), plain)


def _gravity(typed: str) -> Understood:
    """Acid tells a flooded cell's charge by its density. Common practice: a straight line between two figures."""
    digits = _number(typed)
    gravity = digits if digits < _PER_CENT_OF_ONE else digits / _WATER
    if not Readings.least_gravity <= gravity <= Readings.most_gravity:
        raise Refused(_PLACE, ImpossibleGravity(gravity))
    span = Readings.full_gravity - Readings.flat_gravity
    share = min(1.0, max(0.0, (gravity - Readings.flat_gravity) / span))
    return Understood(method=Method.FRACTION, value=round(share, _GRAVITY_DIGITS), gravity=gravity)


def _end(plain: str) -> Understood | None:
    if plain in FULL:
        return _says(Method.FULL)
    if plain in DRY:
        return _says(Method.DRY)
    return None


def _by_eye(store: Store, plain: str) -> Understood | None:
    """A level that was judged by eye: near an end, or between two shares."""
    if plain in EMPTYISH or (store.is_fuel and plain in LOW_LIGHT):
        return _between(store, 0.0, Readings.nearly)
    if plain in FULLISH:
        return _between(store, 1.0 - Readings.nearly, 1.0)
    match = _BETWEEN.fullmatch(plain)
    first, second = map(_plain_share, match.groups()) if match else (None, None)
    if first is None or second is None:
        return None
    low, high = sorted((first, second))
    step = _as_step(store, low)
    if step is not None and step.value is not None:
        marks = store.gauge.marks
        after = [mark for mark in marks if mark > step.value]
        if after and abs(min(after) - high) <= Readings.mark_taken_within:
            return step  # what the panel says when it shows the lower mark
    return _between(store, low, high) if high > low else None


def _plain_share(text: str) -> float | None:
    """A share of the whole, said without more; None where it is none."""
    if text in FULL or text in DRY:
        return float(text in FULL)
    if match := _FRACTION.fullmatch(text):
        above, below = _number(match[1]), _number(match[2])
        return above / below if below > 0 and above <= below else None
    if match := _PER_CENT.fullmatch(text):
        return share if (share := _number(match[1]) / _PER_CENT_OF_ONE) <= 1 else None
    return SHARES.get(text)


def _between(store: Store, low: float, high: float) -> Understood:
    middle, half = (low + high) / 2, (high - low) / 2
    if store.kind.amounts is Method.USES:
        return _says(Method.USES, round(middle * store.capacity))
    return Understood(method=Method.FRACTION, value=middle, within=half)


def _lights(store: Store, plain: str, text: str) -> Understood | None:
    """Lights of a panel, counted. Where the lowest mark is empty, its light may be counted or not."""
    match = _LIGHTS.fullmatch(plain) if store.gauge.kind is GaugeKind.STEPS else None
    if match is None:
        return None
    marks = store.gauge.marks
    n = {"no": 0, "all": len(marks)}.get(match[1]) if not match[1].isdigit() else int(match[1])
    if n is None or n > len(marks):
        raise _refuse(store, text)
    if n in (0, len(marks)) or marks[0] > 0:
        return _says(Method.STEP, marks[max(0, n - 1)])
    lower, upper = (f"{marks[i] * _PER_CENT_OF_ONE:g}%" for i in (n - 1, n))
    raise Refused(_PLACE, MayBeEither(text.strip(), (lower, upper)))


def _way_left(store: Store, plain: str, system: System) -> Understood | None:
    """The range that a dashboard shows."""
    match = _LEFT.fullmatch(plain) if Method.RANGE in store.kind.reads else None
    if match is None:
        return None
    number, unit = (group for group in match.groups() if group)
    typed = typed_unit(unit, system)
    if typed is None or typed[0] != "km":
        return None
    return _says(Method.RANGE, _number(number) * typed[1])


def _meter(store: Store, plain: str, system: System) -> Understood | None:
    """What the counter of a flow meter shows, in the user's unit where none is said."""
    match = _METER.fullmatch(plain) if Method.METER in store.kind.reads else None
    if match is None:
        return None
    if not match[2]:
        return _says(Method.METER, shown(store.unit, system).to_base(_number(match[1])))
    typed = typed_unit(match[2], system)
    return _says(Method.METER, _number(match[1]) * typed[1]) if typed is not None and typed[0] == store.unit else None


def _share(store: Store, plain: str, text: str) -> Understood | None:
    plain = _OF_WHAT.sub("", plain)
    share = SHARES.get(plain)
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
        return _says(Method.USES, round(share * store.capacity))
    return _as_step(store, share) or _says(Method.FRACTION, share)


def _as_step(store: Store, share: float) -> Understood | None:
    """A share on a light panel is the mark nearest to it, if it is near."""
    if store.gauge.kind is not GaugeKind.STEPS:
        return None
    mark = min(store.gauge.marks, key=lambda each: abs(each - share))
    return _says(Method.STEP, mark) if abs(mark - share) <= Readings.mark_taken_within else None


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
    if store.is_gas and base == "L":
        mass = value * factor * store.liquid_kg_per_l
        if mass > Readings.overfull * store.capacity:
            raise Refused(_PLACE, OverCapacity(mass, store))
        return _says(store.kind.amounts, mass)
    if store.is_bank and base == "Wh":
        return _contents(store, value * factor / store.volts)
    raise _refuse(store, text)


def _bare(store: Store, value: float, text: str, system: System) -> Understood:
    """A number alone: a mark on a panel, else the user's unit; on a battery or a sensor it may be asked which."""
    if store.is_bank:
        low, high = Readings.likely_volts_low * store.volts, Readings.likely_volts_high * store.volts
        if low <= value <= high:
            # volts are read to a tenth; what is typed whole, or off a shunt, may be either
            if value == int(value) or store.gauge.kind is GaugeKind.SHUNT:
                raise Refused(_PLACE, MayBeEither(text.strip(), (f"{value:g} V", f"{value:g}%")))
            return _volts(store, value, "", text)
        if value <= _PER_CENT_OF_ONE:
            return _says(Method.FRACTION, value / _PER_CENT_OF_ONE)
        raise _refuse(store, text)
    if store.kind.amounts is Method.USES:
        return _contents(store, value)
    if store.gauge.kind is GaugeKind.STEPS and value <= 1 and (step := _as_step(store, value)):
        return step
    how = shown(store.unit, system)
    amount = how.to_base(value)
    if store.gauge.kind is GaugeKind.SENSOR and value <= _PER_CENT_OF_ONE:
        share = value / _PER_CENT_OF_ONE
        fits_in = amount <= Readings.overfull * store.capacity
        if fits_in and abs(amount - share * store.capacity) > Readings.read_alike * store.capacity:
            raise Refused(_PLACE, MayBeEither(text.strip(), (f"{value:g}%", f"{value:g} {how.unit}")))
        return _says(Method.FRACTION, share)
    return _contents(store, amount)


def _volts(store: Store, volts_v: float, state: str, text: str) -> Understood:
    if not store.is_bank:
        raise _refuse(store, text)
    if state and state not in STATES:
        raise Refused(_PLACE, NotABankState(state))
    if not Readings.least_volts * store.volts <= volts_v <= Readings.most_volts * store.volts:
        raise Refused(_PLACE, ImpossibleVolts(volts_v, store.volts))
    return _says(Method.VOLTS, volts_v, STATES.get(state))


def _contents(store: Store, amount: float) -> Understood:
    """An amount in the store's unit, by the method that the store's kind is read with."""
    method, most = store.kind.amounts, Readings.overfull * store.capacity
    if method is Method.FRACTION:
        if amount > most:
            raise Refused(_PLACE, OverCapacity(amount, store))
        return _says(method, min(1.0, amount / store.capacity))
    if method is Method.MASS and store.tare_kg is not None:
        if amount >= store.lightest_kg:
            if amount - store.heaviest_kg > most + _OVERWEIGHT_KG:
                raise Refused(_PLACE, TooHeavy(amount))
            return _says(Method.GROSS, amount)
        if amount > store.capacity:
            raise Refused(_PLACE, UnderTare(amount, store.lightest_kg))
    if method is not Method.USES and amount > most:
        raise Refused(_PLACE, OverCapacity(amount, store))
    return _says(method, amount)
