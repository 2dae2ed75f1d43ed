"""Readings: what they say, which notations fit a store, and whether one fits what was expected."""

from typing import assert_never

from lodeline.core.catalogue import Chemistry, GaugeKind, Method, Sense, VoltsState
from lodeline.core.energy.bank import ChargeStage, VoltsMeaning, VoltsSay, state_of_charge
from lodeline.core.log import Reading
from lodeline.core.reading import Understood
from lodeline.core.rig import Store
from lodeline.core.tracking.evidence import Evidence, panel_span
from lodeline.core.values import dataclass
from lodeline.text.display import Display, digits_of, listed, percent, percent_as_read, percent_span
from lodeline.text.habits import exact, figure

# Marks as they are printed beside lights; others are said in per cent.
_FRACTIONS = (
    (0.0, "0"),
    (0.125, "1/8"),
    (0.25, "1/4"),
    (1 / 3, "1/3"),
    (0.375, "3/8"),
    (0.5, "1/2"),
    (0.625, "5/8"),
    (2 / 3, "2/3"),
    (0.75, "3/4"),
    (0.875, "7/8"),
    (1.0, "1"),
)
_NEAR = 0.008


def mark_words(mark: float) -> str:
    """A gauge's mark as people say it."""
    near = next((words for value, words in _FRACTIONS if abs(mark - value) < _NEAR), None)
    return near or f"{figure(mark * 100)}%"


def mark_text(mark: float) -> str:
    """A gauge's mark as it is typed, so that it is understood as itself."""
    return f"{mark * 100:g}%"


def example(store: Store, display: Display) -> str:
    """One notation that fits a store."""
    if store.gauge.kind is GaugeKind.STEPS:
        return "2/3"
    if store.kind.amounts is Method.USES:
        return f"{figure(store.capacity / 2)}"
    return examples(store, display).replace(" (", ",").replace(" or ", ",").split(",")[0]


def end_words(store: Store) -> str:
    """The word for nothing in a store."""
    return "dry" if store.sense is Sense.DRAINS else "empty"


def examples(store: Store, display: Display) -> str:
    """Notations that fit a store, as a hint."""
    end = end_words(store)
    if store.is_bank:
        return "72%, 13.1 V, a gravity of 1.250, full or dry" if _has_acid(store) else "72%, 13.1 V, full or dry"
    if store.gauge.kind is GaugeKind.STEPS:
        return f"a mark ({', '.join(mark_words(mark) for mark in store.gauge.marks)}), an amount, full or {end}"
    method = store.kind.amounts
    if method is Method.MASS:
        kg = display.unit("kg")
        if store.tare_kg:
            gross = f"{figure(kg.to_shown(store.tare_kg + store.capacity / 2), 1)} {kg.unit}"
            return f"{gross} (bottle and contents), 40%, full or {end}"
        return f"{figure(kg.to_shown(store.capacity / 2), 1)} {kg.unit}, 40%, full or {end}"
    if method is Method.USES:
        return "a count of uses, or full"
    if method is Method.AMOUNT:
        return f"an amount in {store.unit}, 40%, full or {end}"
    return f"45%, 2/3, an amount in {display.unit(store.unit).unit}, full or {end}"


def _has_acid(store: Store) -> bool:
    return store.chemistry is Chemistry.FLOODED


def describe(store: Store, reading: Understood | Reading, display: Display) -> str:
    """A reading in words: what it says about the contents, in the user's units."""
    value = reading.value or 0.0
    method = reading.method
    if reading.within is not None:
        return _by_eye(store, reading, display)
    match method:
        case Method.RANGE:
            return f"{display.as_read(value, 'km')} left"
        case Method.METER:
            return f"{display.as_read(value, 'L')} on its meter"
        case Method.STEP:
            low, high = panel_span(store, value)
            return f"mark {mark_words(value)}: {display.span(low * store.capacity, high * store.capacity, store.unit)}"
        case Method.DRY:
            return "at its end: nothing left" if store.sense is Sense.DRAINS else "empty"
        case Method.FULL:
            return f"full, {display.contents(store, store.capacity)}"
        case Method.VOLTS:
            return volts(state_of_charge(store, value, reading.state)).rstrip(".")
        case Method.GROSS:
            kg = display.unit("kg")
            if store.lightest_kg != store.heaviest_kg:
                return f"{figure(kg.to_shown(value), 1)} {kg.unit} with the bottle in use"
            net = display.as_read(value - (store.tare_kg or 0.0), "kg")
            return f"{figure(kg.to_shown(value), 1)} {kg.unit} less the bottle: {net} of fuel"
        case Method.USES:
            return f"{figure(value)} of {figure(store.capacity)} uses"
        case Method.FRACTION:
            gravity = reading.gravity if isinstance(reading, Understood) else None
            told = f"gravity {figure(gravity, 3)} at 25 °C: " if gravity is not None else ""
            amount = value * store.capacity
            if digits_of(value * 100, 1) is None:  # an amount was typed
                return f"{told}{display.as_read(amount, store.unit)}, {percent(value)}"
            return f"{told}{display.contents(store, amount)}, {percent_as_read(value)}"
        case Method.VOLUME | Method.MASS | Method.AMOUNT:
            return f"{display.as_read(value, store.unit)}, {percent(value / store.capacity)}"
        case _:
            assert_never(method)


def _by_eye(store: Store, reading: Understood | Reading, display: Display) -> str:
    """What was judged by eye: the span that it says."""
    whole = store.capacity if reading.method is Method.FRACTION else 1.0
    middle, half = (reading.value or 0.0) * whole, (reading.within or 0.0) * whole
    low, high = max(0.0, middle - half), min(store.capacity, middle + half)
    return f"{display.span(low, high, store.unit)}, {percent_span(low / store.capacity, high / store.capacity)}"


def volts(meaning: VoltsMeaning) -> str:
    """What terminal volts mean for a bank, in plain words."""
    at = f"{exact(meaning.volts_v)} V"
    match meaning.says:
        case VoltsSay.CHARGING:
            stage = _stage(meaning.stage or ChargeStage.BULK)
            return f"{at} means being charged: {stage}; {_of_stage(meaning.stage or ChargeStage.BULK)}."
        case VoltsSay.UNDER_LOAD:
            return _under_load(meaning, at)
        case VoltsSay.AT_REST | VoltsSay.TAKEN_AS_REST:
            return _at_rest(meaning)
        case _:
            assert_never(meaning.says)


def _of_stage(stage: ChargeStage) -> str:
    """What a stage of a charge says of the level."""
    match stage:
        case ChargeStage.BULK:
            return "the bank is not full yet, and it says no more about the level"
        case ChargeStage.ABSORPTION:
            return "once little current flows the bank is nearly full"
        case ChargeStage.FLOAT | ChargeStage.EQUALISING:
            return "it says little about the level"
        case _:
            assert_never(stage)


def _under_load(meaning: VoltsMeaning, at: str) -> str:
    """A load draws the volts down: at rest there would be more."""
    if meaning.is_flat:
        return f"{at} under a load says little of LFP cells."
    return (
        f"{at} under a load means {percent(meaning.soc or 0.0)} or more: at rest the volts are higher, "
        "a little under lights, much under a kettle."
    )


def _at_rest(meaning: VoltsMeaning) -> str:
    soc = meaning.soc or 0.0
    span = percent_span(max(0.0, soc - meaning.sd), min(1.0, soc + meaning.sd))
    says = f"{exact(meaning.volts_v)} V at rest means about {span}"
    if meaning.is_flat:
        return f"{says}: volts say little of LFP cells, a shunt tells more."
    if meaning.rest_v_if_loaded is not None:
        return (
            f"{says}, if nothing has run or charged for an hour; under a load, "
            f"{figure(meaning.rest_v_if_loaded, 1)} V of "
            "rest sag to this."
        )
    return f"{says}."


def _stage(stage: ChargeStage) -> str:
    match stage:
        case ChargeStage.EQUALISING:
            return "higher than a charger should hold for these cells, unless it is equalising"
        case ChargeStage.ABSORPTION:
            return "the charger holds its absorption volts and the current falls as the bank fills"
        case ChargeStage.FLOAT:
            return "float volts, or the current is still small for the bank"
        case ChargeStage.BULK:
            return "bulk, the bank takes what the charger gives"


def expected(store: Store, low: float, high: float, display: Display) -> str:
    """What a reading is expected to show, in the store's unit and in per cent."""
    span = display.span(low, high, store.unit)
    return (
        span
        if store.kind.amounts is Method.USES
        else f"{span} ({percent_span(low / store.capacity, high / store.capacity)})"
    )


_STEP = 0.01  # of a level that is read as a share, where its gauge tells no more


def usual(store: Store, level: float, last: Reading | None, tare_kg: float | None, display: Display) -> str | None:
    """What somebody would type who reads the level that is expected, as they read it last; None where what a gauge
    shows does not follow from the level. ``tare_kg``: of the bottle in use, which is weighed with what is in it."""
    share = min(1.0, max(0.0, level / store.capacity))
    if store.gauge.shows:
        marks = [mark for mark in store.gauge.shows if mark <= share]
        return mark_text(max(marks, default=min(store.gauge.shows)))
    if tare_kg is not None:
        how = display.unit("kg")
        return f"{how.to_shown(level * store.kg_per_unit + tare_kg):.1f} {how.unit}"
    match last.method if last is not None else None:
        case Method.USES:
            return f"{level:.0f}"
        case Method.FRACTION:
            step = max(store.gauge.resolution or _STEP, _STEP)
            return f"{round(share / step) * step * 100:.0f}%"
        case Method.VOLUME | Method.MASS | Method.AMOUNT:
            how = display.unit(store.unit)
            return f"{how.to_shown(level):.{how.decimals}f} {how.unit}"
        case _:
            return None


@dataclass(frozen=True, slots=True)
class Fit:
    """Whether a reading fits what was expected, None where it can be told neither way, and how that is said."""

    fits: bool | None
    words: str


def fit(
    store: Store,
    given: Evidence,
    reading: Understood | Reading,
    expected_range: tuple[float, float] | None,
    reached: bool,
    display: Display,
) -> Fit:
    """Whether a reading fits, from the numbers that the sentence shows. ``expected_range``: before it, None where
    nothing was known; ``reached``: whether it can be so all the same, with the errors of both."""
    if given.silent:
        return Fit(None, "Saved, but not used as a level.")
    if expected_range is None:
        return Fit(None, "The first reading: the level is known from now on.")
    expects = _seen(expected_range, store, display)
    if given.value is not None and reading.method is not Method.VOLTS:
        figure_said = _as_said(store, given.value, reading, display)
        says = figure_said, figure_said
    else:
        says = _seen(given.span, store, display)
    span = display.span(*expected_range, store.unit)
    if says[0] <= expects[1] and expects[0] <= says[1]:
        return Fit(True, f"Fits: {span} expected.")
    if reached:
        return Fit(None, f"A little outside what was expected, {span}.")
    return Fit(
        False,
        f"Does not fit: {span} expected. If it is right, was something filled, emptied or charged and not logged?",
    )


def _as_said(store: Store, contents: float, reading: Understood | Reading, display: Display) -> float:
    """The amount that a reading's words say, with the digits that they have."""
    value = display.unit(store.unit).to_shown(contents)
    is_share = reading.method is Method.FRACTION and digits_of((reading.value or 0.0) * 100, 1) is not None
    digits = digits_of(value)
    if is_share or digits is None or reading.method is Method.FULL:
        return display.seen(contents, store.unit)
    return round(value, digits)


def _seen(ends: tuple[float, float], store: Store, display: Display) -> tuple[float, float]:
    """A range as it is read, within the store."""
    low, high = (display.seen(min(store.capacity, max(0.0, end)), store.unit) for end in ends)
    return low, high


def volts_states() -> str:
    """The words that may follow volts."""
    return listed([state.value for state in VoltsState], "or")
