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
    p.Plain.NOT_A_LOGBOOK: "is missing: this is not a logbook file of Lodeline",
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
    p.Plain.FILL_SAYS_HOW_MUCH: 'a fill has to: "full", an amount, or both',
    p.Plain.MOVE_ENDS: "a move goes from one store to another, or to or from the reserve or outside",
    p.Plain.NOTHING_LOGGED: "nothing is logged, so the time of the forecast must be given with --at",
    p.Plain.IN_THE_FUTURE: "lies in the future; the log holds what has happened",
    p.Plain.DAY_IN_THE_FUTURE: "lies in the future; coming days belong to the plan",
    p.Plain.DAY_IS_PAST: "is past; past days are in the logbook",
    p.Plain.TARGET_OUT_OF_RANGE: "must be over 0 and at most 100 %",
    p.Plain.NO_LOADS_LISTED: "there is no list of loads to fit",
    p.Plain.ASK_EITHER: "say how long it runs, or the night, or how much hot water: one of them",
    p.Plain.TOO_LITTLE_LOG: "there is too little log yet to say what the rig really draws",
    p.Plain.TICKET_BEGUN: "this ticket was begun; it stays as it is",
    p.Plain.NOT_IN_THE_PLAN: "the plan has no such stop any more",
    p.Plain.ENDS_BEFORE_IT_BEGINS: "the end lies before the begin",
}


def problem(problem: p.Problem, display: Display = METRIC) -> str:
    """A problem as a sentence, without its place."""
    return _PLAIN[problem] if isinstance(problem, p.Plain) else words(problem, display)


@singledispatch
def words(problem: p.Detailed, display: Display) -> str:
    """The sentence of a problem that says what it is about; each kind registers its own."""
    raise NotImplementedError(type(problem).__name__)


def quoted(text: str) -> str:
    """A given text, shortened and in quotes."""
    short = text if len(text) <= _LONGEST else text[: _LONGEST - 3] + "..."
    return f'"{short}"'


@words.register
def _spare_too_large(problem: p.SpareTooLarge, display: Display) -> str:
    return (
        f"{problem.store} holds {display.amount(problem.capacity, 'kg')}: "
        "give it the size of the largest bottle that stands in its place"
    )


@words.register
def _nothing_burns_listed(problem: p.NothingBurnsListed, _display: Display) -> str:
    return f"nothing is listed that burns from {problem.store}, or nothing is known of it"


@words.register
def _no_such_appliance(problem: p.NoSuchAppliance, _display: Display) -> str:
    return f"the rig lists no appliance {problem.appliance}"


_TYPES = {
    p.JsonType.TEXT: "text",
    p.JsonType.NUMBER: "a number",
    p.JsonType.WHOLE_NUMBER: "a whole number",
    p.JsonType.TRUTH: "true or false",
    p.JsonType.LIST: "a list",
    p.JsonType.OBJECT: "an object",
}


@words.register
def _wrong_type(problem: p.WrongType, _display: Display) -> str:
    return f"must be {_TYPES[problem.wanted]}"


@words.register
def _not_one_of(problem: p.NotOneOf, _display: Display) -> str:
    allowed = [word if word.isdigit() else f"'{word}'" for word in problem.allowed]
    return f"must be {listed(allowed, 'or')}, not {quoted(problem.given)}"


@words.register
def _out_of_range(problem: p.OutOfRange, display: Display) -> str:
    how = display.unit(problem.unit) if problem.unit else None

    def says(value: float, inward: Callable[[float], float] = round) -> str:
        if how is None:
            return f"{exact(value)}"
        whole = how.to_shown(value) * _STEPS
        return f"{exact((whole if how.factor == 1 else inward(whole)) / _STEPS)} {how.unit}"

    # an end that is no round number in the user's units is rounded to the side that will be taken
    if problem.least is not None:
        way = "greater than" if problem.exclusive else "at least"
        return f"{says(problem.given)} must be {way} {says(problem.least, ceil)}"
    way = "less than" if problem.exclusive else "at most"
    return f"{says(problem.given)} must be {way} {says(problem.most or 0.0, floor)}"


@words.register
def _wrong_length(problem: p.WrongLength, _display: Display) -> str:
    if problem.most is not None:
        return f"is longer than {problem.most}"
    return "must not be empty" if problem.least == 1 else f"needs at least {problem.least}"


@words.register
def _no_such_moment(problem: p.NoSuchMoment, _display: Display) -> str:
    return f"there is no {quoted(problem.given)}"


@words.register
def _year_out_of_range(problem: p.YearOutOfRange, _display: Display) -> str:
    return f"the year must lie between {problem.first} and {problem.last}"


@words.register
def _no_timezone(problem: p.NoTimezone, _display: Display) -> str:
    return f"no timezone {quoted(problem.given)}; use an IANA name such as Europe/Lisbon"


@words.register
def _malformed(problem: p.Malformed, _display: Display) -> str:
    return problem.message


@words.register
def _file_holds_too_much(problem: p.FileHoldsTooMuch, _display: Display) -> str:
    most = figure(problem.most)
    return f"the file holds more than {most} days, readings and events; bring it in on the server: lodeline import"


@words.register
def _file_too_large(problem: p.FileTooLarge, _display: Display) -> str:
    return f"the file is larger than {problem.most_mib} MiB"


@words.register
def _not_utf8(problem: p.NotUtf8, _display: Display) -> str:
    return f"not UTF-8 text (byte {problem.byte})"


@words.register
def _not_json(problem: p.NotJson, _display: Display) -> str:
    return f"not JSON: {problem.message}. A logbook file is JSON, as Lodeline exports it"


@words.register
def _file_unreadable(problem: p.FileUnreadable, _display: Display) -> str:
    return f"cannot be read ({problem.reason})"


@words.register
def _not_understood(problem: p.NotUnderstood, display: Display) -> str:
    return (
        f"{quoted(problem.typed)} is not understood for {problem.store.name}; write {examples(problem.store, display)}"
    )


@words.register
def _may_be_two(problem: p.MayBeTwo, _display: Display) -> str:
    return f"{quoted(problem.typed)} may be {problem.large} or {problem.small}; write it one of these ways"


@words.register
def _hours_over_day(problem: p.HoursOverDay, _display: Display) -> str:
    already = f" {exact(problem.others_h)} h of it are logged on that day already." if problem.others_h else ""
    return f"{exact(problem.given_h)} h are more than a day has; log each day for itself.{already}"


@words.register
def _impossible_gravity(problem: p.ImpossibleGravity, _display: Display) -> str:
    return f"{exact(problem.gravity)} cannot be the gravity of a cell; a full one shows about 1.265, an empty one 1.120"


@words.register
def _may_be_either(problem: p.MayBeEither, _display: Display) -> str:
    return f"{quoted(problem.typed)} may mean {listed(list(problem.ways), 'or')}; say which"


@words.register
def _not_a_share(problem: p.NotAShare, _display: Display) -> str:
    return f"{quoted(problem.typed)} is not a share of a whole"


@words.register
def _over_the_whole(problem: p.OverTheWhole, _display: Display) -> str:
    return f"{quoted(problem.typed)} is over 100 %"


@words.register
def _not_a_bank_state(problem: p.NotABankState, _display: Display) -> str:
    return f"{quoted(problem.typed)} is not a state of a battery; write {volts_states()} after the volts"


@words.register
def _impossible_volts(problem: p.ImpossibleVolts, _display: Display) -> str:
    return f"{exact(problem.volts_v)} V cannot be right for a {exact(problem.nominal_v)} V bank"


@words.register
def _over_capacity(problem: p.OverCapacity, display: Display) -> str:
    amount, capacity = (display.contents(problem.store, value) for value in (problem.amount, problem.store.capacity))
    said = f"{amount} is more than the {capacity} that {problem.store.name} holds"
    if problem.store.unit == "kg" and not problem.store.tare_kg:
        return f"{said}; to weigh it with its bottle, enter the empty weight on the Rig view"
    return said


@words.register
def _too_heavy(problem: p.TooHeavy, display: Display) -> str:
    return f"{display.amount(problem.gross_kg, 'kg')} is more than bottle and contents can weigh"


@words.register
def _under_tare(problem: p.UnderTare, display: Display) -> str:
    gross, tare = (display.amount(kg, "kg") for kg in (problem.gross_kg, problem.tare_kg))
    return f"{gross} is less than the empty bottle, {tare}"


@words.register
def _not_unique(problem: p.NotUnique, _display: Display) -> str:
    return f"{quoted(problem.given)} is used twice; it must be unique in its list"


@words.register
def _no_store(problem: p.NoStore, _display: Display) -> str:
    known = f"; there are {', '.join(problem.known)}" if problem.known else ""
    return f"no store {quoted(problem.given)}{known}"


@words.register
def _not_a_fuel_store(problem: p.NotAFuelStore, _display: Display) -> str:
    return f"{quoted(problem.given)} is not a fuel store"


@words.register
def _not_a_battery(problem: p.NotABattery, _display: Display) -> str:
    return f"{quoted(problem.given)} is not a battery"


@words.register
def _id_is_taken(problem: p.IdIsTaken, _display: Display) -> str:
    return f"{quoted(problem.given)} is a word that moves use; choose another id"


@words.register
def _not_served_so(problem: p.NotServedSo, _display: Display) -> str:
    return f"A store of kind {problem.kind} cannot be served {problem.served}; leave it out, or write stop."


@words.register
def _kind_has_no(problem: p.KindHasNo, _display: Display) -> str:
    return f"a {problem.kind} store has no {problem.key}"


@words.register
def _holds_only(problem: p.HoldsOnly, _display: Display) -> str:
    return f"a {problem.kind} store holds {listed(problem.allowed, 'or')}"


@words.register
def _bank_needs(problem: p.BankNeeds, _display: Display) -> str:
    return f"is missing; a battery needs {listed(problem.keys, 'or')}"


@words.register
def _layout_makes_ah(problem: p.LayoutMakesAh, _display: Display) -> str:
    return f"the layout makes {exact(problem.bank_ah)} Ah (only parallel strings add amp-hours)"


@words.register
def _layout_makes_v(problem: p.LayoutMakesV, _display: Display) -> str:
    return f"the layout makes {exact(problem.bank_v)} V (only units in series add volts)"


@words.register
def _days_out_of_order(problem: p.DaysOutOfOrder, _display: Display) -> str:
    return f"{'the same date twice' if problem.same else 'out of time order'}; days go from old to new, one a date"


@words.register
def _other_date(problem: p.OtherDate, _display: Display) -> str:
    return f"falls on {problem.local} in the rig's timezone, not on {problem.day}"


@words.register
def _has_no_value(problem: p.HasNoValue, _display: Display) -> str:
    return f"{problem.method} has no value"


@words.register
def _share_over_one(problem: p.ShareOverOne, _display: Display) -> str:
    return f"{exact(problem.given)} is over 1; a fraction lies between 0 and 1"


@words.register
def _no_panel(problem: p.NoPanel, _display: Display) -> str:
    return f"{quoted(problem.store)} has no panel with marks"


@words.register
def _not_a_mark(problem: p.NotAMark, _display: Display) -> str:
    marks = ", ".join(f"{exact(mark)}" for mark in problem.marks)
    return f"{exact(problem.given)} is not one of the gauge's marks ({marks})"


@words.register
def _not_read_by(problem: p.NotReadBy, _display: Display) -> str:
    return f"{quoted(problem.store)} is not read by {problem.method}; use {listed(problem.allowed, 'or')}"


@words.register
def _no_tare(problem: p.NoTare, _display: Display) -> str:
    return f"the empty weight of {quoted(problem.store)} is not known, so a gross weight says nothing"


@words.register
def _not_done_to(problem: p.NotDoneTo, _display: Display) -> str:
    match EVENT_TYPES[problem.event].effect:
        case Effect.FILL:
            does = "cannot be filled"
        case Effect.EMPTY:
            does = "cannot be emptied"
        case Effect.SWAP:
            does = "is not swapped for a full one"
        case Effect.MOVE:
            does = "takes nothing that is poured"
        case Effect.DRIVE | Effect.CHARGE | Effect.COUNT | Effect.CARE | Effect.DRAIN:
            does = f"has nothing to do with {problem.event}"
    return f"{quoted(problem.store)} {does}"


@words.register
def _not_a_fuel_tank(problem: p.NotAFuelTank, _display: Display) -> str:
    return f"{quoted(problem.store)} is not a tank that a vehicle drives from"


@words.register
def _no_reserve(problem: p.NoReserve, _display: Display) -> str:
    return f"{quoted(problem.store)} has no reserve"


@words.register
def _measured_differently(problem: p.MeasuredDifferently, display: Display) -> str:
    units = listed([display.unit(unit).unit for unit in problem.units])
    return f"the two stores are measured differently ({units})"


@words.register
def _not_an_event(problem: p.NotAnEvent, _display: Display) -> str:
    return f"{quoted(problem.given)} is not something that is done; use {listed(problem.known, 'or')}"


@words.register
def _jug_in_use(problem: p.JugInUse, _display: Display) -> str:
    has = f"has {counted(problem.entries, 'entry', 'entries')} in the log"
    return f"{quoted(problem.jug)} {has}, so it stays on the list; say that it is not for drinking where it is gone"


@words.register
def _store_in_use(problem: p.StoreInUse, _display: Display) -> str:
    has = f"has {counted(problem.entries, 'entry', 'entries')} in the log"
    return (
        f"{quoted(problem.store)} {has}, so it can be neither removed nor made another kind; add a new store beside it"
    )


@words.register
def _marks_in_use(problem: p.MarksInUse, _display: Display) -> str:
    show = f"{counted(problem.readings, 'reading')} {'shows' if problem.readings == 1 else 'show'}"
    return f"{show} one of {counted(problem.marks, 'mark')}; the panel must keep as many"


@words.register
def _start_too_far(problem: p.StartTooFar, _display: Display) -> str:
    return f"lies outside the coming {figure(problem.within_h)} hours"


@words.register
def _until_out_of_range(problem: p.UntilOutOfRange, _display: Display) -> str:
    return f"must lie within the coming {counted(problem.days, 'day')}"


@words.register
def _no_bank(problem: p.NoBank, _display: Display) -> str:
    return f"there is no bank {quoted(problem.given)} aboard" if problem.given else "there is no battery aboard"


@words.register
def _never_read(problem: p.NeverRead, _display: Display) -> str:
    return f"{problem.name} was never read; log a reading first"


@words.register
def _no_source(problem: p.NoSource, _display: Display) -> str:
    return f"there is no source {quoted(problem.given)} aboard"


@words.register
def _not_opening_hours(problem: p.NotOpeningHours, _display: Display) -> str:
    where = f"it goes wrong at character {problem.column}; " if problem.column > 1 else ""
    return f"{quoted(problem.given)} is not in the opening-hours notation; {where}right is, for example, {_OPENING}"


_OPENING = '"Mo-Fr 08:00-18:00; Sa 09:00-12:00"'


@words.register
def _no_spot(problem: p.NoSpot, _display: Display) -> str:
    return f"there is no place {quoted(problem.given)} in the book"


@words.register
def _no_lever(problem: p.NoLever, _display: Display) -> str:
    return f"{quoted(problem.given)} is nothing that this rig can do"


@words.register
def _never_lever(problem: p.NeverLever, _display: Display) -> str:
    return "the crew has said that it never does this"


@words.register
def _is_closed_then(problem: p.IsClosedThen, _display: Display) -> str:
    return f"{problem.name} is closed then"


@words.register
def _book_is_full(problem: p.BookIsFull, _display: Display) -> str:
    return f"a book holds at most {figure(problem.most)} places"


@words.register
def _not_places(problem: p.NotPlaces, _display: Display) -> str:
    return f"no places could be read from this {problem.format} file: {problem.said}"


def refusal(place: str, refused: p.Problem, display: Display = METRIC) -> str:
    """A refusal in one line, its place first."""
    return f"{place}: {problem(refused, display)}" if place else problem(refused, display)
