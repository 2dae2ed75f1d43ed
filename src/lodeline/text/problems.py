"""The sentence for everything that input can be refused for: what is wrong, and what would be right."""

from collections.abc import Callable, Mapping
from functools import singledispatch
from math import ceil, floor

from lodeline.core import problems as p
from lodeline.core.catalogue import EVENT_TYPES, Effect
from lodeline.text.display import METRIC, Display, counted, listed
from lodeline.text.habits import exact, figure
from lodeline.text.readings import examples, volts_states

_LONGEST = 60
_STEPS = 10


_PLAIN: Mapping[p.Plain, str] = {
    p.Plain.CHANGED_MEANWHILE: "it was changed meanwhile; look at what stands now, then choose",
    p.Plain.ID_USED: "this id was used for something else",
    p.Plain.IS_MISSING: "is missing",
    p.Plain.UNKNOWN_KEY: "unknown key",
    p.Plain.NOT_A_SLUG: "may hold only a-z, 0-9 and -",
    p.Plain.NOT_A_DATE: "must be a date such as 2026-09-04",
    p.Plain.NOT_A_TIME: "must be a time with its offset, such as 2026-09-04T20:15:00+01:00",
    p.Plain.NOT_A_CLOCK_TIME: "must be a local time such as 20:15",
    p.Plain.NESTED_TOO_DEEP: "lists and objects are nested too deep here",
    p.Plain.KEY_TWICE: "this key is given twice",
    p.Plain.NOT_FINITE: "must be a finite number",
    p.Plain.NUMBER_TOO_LARGE: "this number is too large",
    p.Plain.NOT_TEXT: "holds a character that is not text",
    p.Plain.NOTHING_TYPED: "nothing was typed",
    p.Plain.NOBODY_ABOARD: "somebody must live aboard: at least one adult or child",
    p.Plain.MARKS_MUST_RISE: "the marks must rise",
    p.Plain.COLDEST_OVER_WARMEST: "the coldest is above the warmest",
    p.Plain.ENTRIES_OUT_OF_ORDER: "out of time order; it is before the entry above it",
    p.Plain.ONLY_VOLTS_HAVE_STATE: "only volts have a state",
    p.Plain.FILL_IS_EITHER: 'a fill has either to: "full" or an amount',
    p.Plain.MOVE_ENDS: "a move goes from one store to another, or to or from the reserve or outside",
    p.Plain.NOTHING_LOGGED: "nothing is logged, so the time of the forecast must be given with --at",
    p.Plain.IN_THE_FUTURE: "lies in the future; the log holds what has happened",
    p.Plain.DAY_IN_THE_FUTURE: "lies in the future; coming days belong to the plan",
    p.Plain.DAY_IS_PAST: "is past; past days are in the logbook",
    p.Plain.TARGET_OUT_OF_RANGE: "must be over 0 and at most 100 %",
    p.Plain.NO_LOADS_LISTED: "there is no list of loads to fit",
    p.Plain.ASK_EITHER: "say how long it runs, or the night, or how much hot water: one of them",
    p.Plain.TOO_LITTLE_LOG: "there is too little log yet to say what the rig really draws",
    p.Plain.ENDS_BEFORE_IT_BEGINS: "the end lies before the begin",
}


def problem(each: p.Problem, display: Display = METRIC) -> str:
    """A problem as a sentence, without its place."""
    return _PLAIN[each] if isinstance(each, p.Plain) else words(each, display)


@singledispatch
def words(each: p.Detailed, display: Display) -> str:
    """The sentence of a problem that says what it is about; each kind registers its own."""
    raise NotImplementedError(type(each).__name__)


def quoted(text: str) -> str:
    """A given text, shortened and in quotes."""
    short = text if len(text) <= _LONGEST else text[: _LONGEST - 3] + "..."
    return f'"{short}"'


@words.register
def _spare_too_large(each: p.SpareTooLarge, display: Display) -> str:
    return (
        f"{each.store} holds {display.amount(each.capacity, 'kg')}: give it the size of the largest bottle that stands "
        "in its place"
    )


@words.register
def _nothing_burns_listed(each: p.NothingBurnsListed, _display: Display) -> str:
    return f"nothing is listed that burns from {each.store}, or nothing is known of it"


@words.register
def _no_such_appliance(each: p.NoSuchAppliance, _display: Display) -> str:
    return f"the rig lists no appliance {each.appliance}"


_TYPES = {
    p.JsonType.TEXT: "text",
    p.JsonType.NUMBER: "a number",
    p.JsonType.WHOLE_NUMBER: "a whole number",
    p.JsonType.TRUTH: "true or false",
    p.JsonType.LIST: "a list",
    p.JsonType.OBJECT: "an object",
}


@words.register
def _wrong_type(each: p.WrongType, _display: Display) -> str:
    return f"must be {_TYPES[each.wanted]}"


@words.register
def _not_one_of(each: p.NotOneOf, _display: Display) -> str:
    allowed = [word if word.isdigit() else f"'{word}'" for word in each.allowed]
    return f"must be {listed(allowed, 'or')}, not {quoted(each.given)}"


@words.register
def _out_of_range(each: p.OutOfRange, display: Display) -> str:
    how = display.unit(each.unit) if each.unit else None

    def says(value: float, inward: Callable[[float], float] = round) -> str:
        if how is None:
            return f"{exact(value)}"
        whole = how.to_shown(value) * _STEPS
        return f"{exact((whole if how.factor == 1 else inward(whole)) / _STEPS)} {how.unit}"

    # an end that is no round number in the user's units is rounded to the side that will be taken
    if each.least is not None:
        way = "greater than" if each.exclusive else "at least"
        return f"{says(each.given)} must be {way} {says(each.least, ceil)}"
    return f"{says(each.given)} must be {'less than' if each.exclusive else 'at most'} {says(each.most or 0.0, floor)}"


@words.register
def _wrong_length(each: p.WrongLength, _display: Display) -> str:
    if each.most is not None:
        return f"is longer than {each.most}"
    return "must not be empty" if each.least == 1 else f"needs at least {each.least}"


@words.register
def _no_such_moment(each: p.NoSuchMoment, _display: Display) -> str:
    return f"there is no {quoted(each.given)}"


@words.register
def _year_out_of_range(each: p.YearOutOfRange, _display: Display) -> str:
    return f"the year must lie between {each.first} and {each.last}"


@words.register
def _no_timezone(each: p.NoTimezone, _display: Display) -> str:
    return f"no timezone {quoted(each.given)}; use an IANA name such as Europe/Lisbon"


@words.register
def _malformed(each: p.Malformed, _display: Display) -> str:
    return each.message


@words.register
def _file_holds_too_much(each: p.FileHoldsTooMuch, _display: Display) -> str:
    most = figure(each.most)
    return f"the file holds more than {most} days, readings and events; bring it in on the server: lodeline import"


@words.register
def _file_too_large(each: p.FileTooLarge, _display: Display) -> str:
    return f"the file is larger than {each.most_mib} MiB"


@words.register
def _not_utf8(each: p.NotUtf8, _display: Display) -> str:
    return f"not UTF-8 text (byte {each.byte})"


@words.register
def _not_json(each: p.NotJson, _display: Display) -> str:
    return f"not JSON: {each.message}"


@words.register
def _file_unreadable(each: p.FileUnreadable, _display: Display) -> str:
    return f"cannot be read ({each.reason})"


@words.register
def _not_understood(each: p.NotUnderstood, display: Display) -> str:
    return f"{quoted(each.typed)} is not understood for {each.store.name}; write {examples(each.store, display)}"


@words.register
def _may_be_two(each: p.MayBeTwo, _display: Display) -> str:
    return f"{quoted(each.typed)} may be {each.large} or {each.small}; write it one of these ways"


@words.register
def _hours_over_day(each: p.HoursOverDay, _display: Display) -> str:
    already = f" {exact(each.others_h)} h of it are logged on that day already." if each.others_h else ""
    return f"{exact(each.given_h)} h are more than a day has; log each day for itself.{already}"


@words.register
def _impossible_gravity(each: p.ImpossibleGravity, _display: Display) -> str:
    return f"{exact(each.gravity)} cannot be the gravity of a cell; a full one shows about 1.265, an empty one 1.120"


@words.register
def _may_be_either(each: p.MayBeEither, _display: Display) -> str:
    return f"{quoted(each.typed)} may mean {listed(list(each.ways), 'or')}; say which"


@words.register
def _not_a_share(each: p.NotAShare, _display: Display) -> str:
    return f"{quoted(each.typed)} is not a share of a whole"


@words.register
def _over_the_whole(each: p.OverTheWhole, _display: Display) -> str:
    return f"{quoted(each.typed)} is over 100 %"


@words.register
def _not_a_bank_state(each: p.NotABankState, _display: Display) -> str:
    return f"{quoted(each.typed)} is not a state of a battery; write {volts_states()} after the volts"


@words.register
def _impossible_volts(each: p.ImpossibleVolts, _display: Display) -> str:
    return f"{exact(each.volts_v)} V cannot be right for a {exact(each.nominal_v)} V bank"


@words.register
def _over_capacity(each: p.OverCapacity, display: Display) -> str:
    amount, capacity = (display.contents(each.store, value) for value in (each.amount, each.store.capacity))
    return f"{amount} is more than the {capacity} that {each.store.name} holds"


@words.register
def _too_heavy(each: p.TooHeavy, display: Display) -> str:
    return f"{display.amount(each.gross_kg, 'kg')} is more than bottle and contents can weigh"


@words.register
def _under_tare(each: p.UnderTare, display: Display) -> str:
    return f"{display.amount(each.gross_kg, 'kg')} is less than the empty bottle, {display.amount(each.tare_kg, 'kg')}"


@words.register
def _not_unique(each: p.NotUnique, _display: Display) -> str:
    return f"{quoted(each.given)} is used twice; it must be unique in its list"


@words.register
def _no_store(each: p.NoStore, _display: Display) -> str:
    known = f"; there are {', '.join(each.known)}" if each.known else ""
    return f"no store {quoted(each.given)}{known}"


@words.register
def _not_a_fuel_store(each: p.NotAFuelStore, _display: Display) -> str:
    return f"{quoted(each.given)} is not a fuel store"


@words.register
def _id_is_taken(each: p.IdIsTaken, _display: Display) -> str:
    return f"{quoted(each.given)} is a word that moves use; choose another id"


@words.register
def _not_served_so(each: p.NotServedSo, _display: Display) -> str:
    return f"A store of kind {each.kind} cannot be served {each.served}; leave it out, or write stop."


@words.register
def _kind_has_no(each: p.KindHasNo, _display: Display) -> str:
    return f"a {each.kind} store has no {each.key}"


@words.register
def _holds_only(each: p.HoldsOnly, _display: Display) -> str:
    return f"a {each.kind} store holds {listed(each.allowed, 'or')}"


@words.register
def _bank_needs(each: p.BankNeeds, _display: Display) -> str:
    return f"is missing; a battery needs {listed(each.keys, 'or')}"


@words.register
def _layout_makes_ah(each: p.LayoutMakesAh, _display: Display) -> str:
    return f"the layout makes {exact(each.bank_ah)} Ah (only parallel strings add amp-hours)"


@words.register
def _layout_makes_v(each: p.LayoutMakesV, _display: Display) -> str:
    return f"the layout makes {exact(each.bank_v)} V (only units in series add volts)"


@words.register
def _days_out_of_order(each: p.DaysOutOfOrder, _display: Display) -> str:
    return f"{'the same date twice' if each.same else 'out of time order'}; days go from old to new, one a date"


@words.register
def _other_date(each: p.OtherDate, _display: Display) -> str:
    return f"falls on {each.local} in the rig's timezone, not on {each.day}"


@words.register
def _has_no_value(each: p.HasNoValue, _display: Display) -> str:
    return f"{each.method} has no value"


@words.register
def _share_over_one(each: p.ShareOverOne, _display: Display) -> str:
    return f"{exact(each.given)} is over 1; a fraction lies between 0 and 1"


@words.register
def _no_panel(each: p.NoPanel, _display: Display) -> str:
    return f"{quoted(each.store)} has no panel with marks"


@words.register
def _not_a_mark(each: p.NotAMark, _display: Display) -> str:
    marks = ", ".join(f"{exact(mark)}" for mark in each.marks)
    return f"{exact(each.given)} is not one of the gauge's marks ({marks})"


@words.register
def _not_read_by(each: p.NotReadBy, _display: Display) -> str:
    return f"{quoted(each.store)} is not read by {each.method}; use {listed(each.allowed, 'or')}"


@words.register
def _no_tare(each: p.NoTare, _display: Display) -> str:
    return f"the empty weight of {quoted(each.store)} is not known, so a gross weight says nothing"


@words.register
def _not_done_to(each: p.NotDoneTo, _display: Display) -> str:
    match EVENT_TYPES[each.event].effect:
        case Effect.FILL:
            does = "cannot be filled"
        case Effect.EMPTY:
            does = "cannot be emptied"
        case Effect.SWAP:
            does = "is not swapped for a full one"
        case Effect.MOVE:
            does = "takes nothing that is poured"
        case Effect.DRIVE | Effect.CHARGE | Effect.COUNT | Effect.CARE | Effect.DRAIN:
            does = f"has nothing to do with {each.event}"
    return f"{quoted(each.store)} {does}"


@words.register
def _not_a_fuel_tank(each: p.NotAFuelTank, _display: Display) -> str:
    return f"{quoted(each.store)} is not a tank that a vehicle drives from"


@words.register
def _no_reserve(each: p.NoReserve, _display: Display) -> str:
    return f"{quoted(each.store)} has no reserve"


@words.register
def _measured_differently(each: p.MeasuredDifferently, display: Display) -> str:
    units = listed([display.unit(unit).unit for unit in each.units])
    return f"the two stores are measured differently ({units})"


@words.register
def _not_an_event(each: p.NotAnEvent, _display: Display) -> str:
    return f"{quoted(each.given)} is not something that is done; use {listed(each.known, 'or')}"


@words.register
def _jug_in_use(each: p.JugInUse, _display: Display) -> str:
    has = f"has {counted(each.entries, 'entry', 'entries')} in the log"
    return f"{quoted(each.jug)} {has}, so it stays on the list; say that it is not for drinking where it is gone"


@words.register
def _store_in_use(each: p.StoreInUse, _display: Display) -> str:
    has = f"has {counted(each.entries, 'entry', 'entries')} in the log"
    return f"{quoted(each.store)} {has}, so it can be neither removed nor made another kind; add a new store beside it"


@words.register
def _marks_in_use(each: p.MarksInUse, _display: Display) -> str:
    show = f"{counted(each.readings, 'reading')} {'shows' if each.readings == 1 else 'show'}"
    return f"{show} one of {counted(each.marks, 'mark')}; the panel must keep as many"


@words.register
def _start_too_far(each: p.StartTooFar, _display: Display) -> str:
    return f"lies outside the coming {figure(each.within_h)} hours"


@words.register
def _until_out_of_range(each: p.UntilOutOfRange, _display: Display) -> str:
    return f"must lie within the coming {counted(each.days, 'day')}"


@words.register
def _no_bank(each: p.NoBank, _display: Display) -> str:
    return f"there is no bank {quoted(each.given)} aboard" if each.given else "there is no battery aboard"


@words.register
def _never_read(each: p.NeverRead, _display: Display) -> str:
    return f"{each.name} was never read; log a reading first"


@words.register
def _no_source(each: p.NoSource, _display: Display) -> str:
    return f"there is no source {quoted(each.given)} aboard"


@words.register
def _not_opening_hours(each: p.NotOpeningHours, _display: Display) -> str:
    where = f"it goes wrong at character {each.column}; " if each.column > 1 else ""
    return f"{quoted(each.given)} is not in the opening-hours notation; {where}right is, for example, {_OPENING}"


_OPENING = '"Mo-Fr 08:00-18:00; Sa 09:00-12:00"'


@words.register
def _no_spot(each: p.NoSpot, _display: Display) -> str:
    return f"there is no place {quoted(each.given)} in the book"


@words.register
def _no_lever(each: p.NoLever, _display: Display) -> str:
    return f"{quoted(each.given)} is nothing that this rig can do"


@words.register
def _never_lever(each: p.NeverLever, _display: Display) -> str:
    return "the crew has said that it never does this"


@words.register
def _is_closed_then(each: p.IsClosedThen, _display: Display) -> str:
    return f"{each.name} is closed then"


@words.register
def _book_is_full(each: p.BookIsFull, _display: Display) -> str:
    return f"a book holds at most {figure(each.most)} places"


@words.register
def _not_places(each: p.NotPlaces, _display: Display) -> str:
    return f"no places could be read from this {each.format} file: {each.said}"


def refusal(place: str, each: p.Problem, display: Display = METRIC) -> str:
    """A refusal in one line, its place first."""
    return f"{place}: {problem(each, display)}" if place else problem(each, display)
