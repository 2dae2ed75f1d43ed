"""The sentence for everything that input can be refused for: what is wrong, and what would be right."""

from collections.abc import Callable
from math import ceil, floor
from typing import Any, TypeVar

from lodeline.core import problems as p
from lodeline.core.catalogue import EVENT_TYPES, Effect
from lodeline.text.display import METRIC, Display, counted, listed
from lodeline.text.habits import exact, figure
from lodeline.text.readings import examples, volts_states

P = TypeVar("P", bound=p.Problem)
_WORDS: dict[type[p.Problem], Callable[[Any, Display], str]] = {}
_LONGEST = 60
_STEPS = 10


def problem(each: p.Problem, display: Display = METRIC) -> str:
    """A problem as a sentence, without its place."""
    return _WORDS[type(each)](each, display)


def _says(kind: type[P]) -> Callable[[Callable[[P, Display], str]], Callable[[P, Display], str]]:
    def keep(words: Callable[[P, Display], str]) -> Callable[[P, Display], str]:
        _WORDS[kind] = words
        return words

    return keep


def _plain(kind: type[p.Problem], words: str) -> None:
    _WORDS[kind] = lambda _each, _display: words


def quoted(text: str) -> str:
    """A given text, shortened and in quotes."""
    short = text if len(text) <= _LONGEST else text[: _LONGEST - 3] + "..."
    return f'"{short}"'


_plain(p.IsMissing, "is missing")
_plain(p.ChangedMeanwhile, "it was changed meanwhile; look at what stands now, then choose")
_plain(p.IdUsed, "this id was used for something else")
_plain(p.UnknownKey, "unknown key")
_plain(p.NotASlug, "may hold only a-z, 0-9 and -")
_plain(p.NotADate, "must be a date such as 2026-09-04")
_plain(p.NotATime, "must be a time with its offset, such as 2026-09-04T20:15:00+01:00")
_plain(p.NotAClockTime, "must be a local time such as 20:15")
_plain(p.NestedTooDeep, "lists and objects are nested too deep here")
_plain(p.KeyTwice, "this key is given twice")
_plain(p.NotFinite, "must be a finite number")
_plain(p.NumberTooLarge, "this number is too large")
_plain(p.NotText, "holds a character that is not text")
_plain(p.NothingTyped, "nothing was typed")
_plain(p.NobodyAboard, "somebody must live aboard: at least one adult or child")
_plain(p.MarksMustRise, "the marks must rise")
_plain(p.ColdestOverWarmest, "the coldest is above the warmest")
_plain(p.EntriesOutOfOrder, "out of time order; it is before the entry above it")
_plain(p.OnlyVoltsHaveState, "only volts have a state")
_plain(p.FillIsEither, 'a fill has either to: "full" or an amount')
_plain(p.MoveEnds, "a move goes from one store to another, or to or from the reserve or outside")
_plain(p.NothingLogged, "nothing is logged, so the time of the forecast must be given with --at")
_plain(p.InTheFuture, "lies in the future; the log holds what has happened")
_plain(p.DayInTheFuture, "lies in the future; coming days belong to the plan")
_plain(p.DayIsPast, "is past; past days are in the logbook")
_plain(p.TargetOutOfRange, "must be over 0 and at most 100 %")
_plain(p.NoLoadsListed, "there is no list of loads to fit")
_plain(p.AskEither, "say how long it runs, or the night, or how much hot water: one of them")
_plain(p.TooLittleLog, "there is too little log yet to say what the rig really draws")
_plain(p.NotAName, "may hold letters and digits of any script and the marks @.+-_, at most 150 of them")
_plain(p.WrongCode, "this is not the code that the server's terminal shows")
_plain(p.WrongPassword, "account and password do not fit")


@_says(p.SpareTooLarge)
def _(each: p.SpareTooLarge, display: Display) -> str:
    return (
        f"{each.store} holds {display.amount(each.capacity, 'kg')}: give it the size of the largest bottle that stands "
        "in its place"
    )


@_says(p.NothingBurnsListed)
def _(each: p.NothingBurnsListed, _display: Display) -> str:
    return f"nothing is listed that burns from {each.store}, or nothing is known of it"


@_says(p.NoSuchAppliance)
def _(each: p.NoSuchAppliance, _display: Display) -> str:
    return f"the rig lists no appliance {each.appliance}"


_TYPES = {
    p.JsonType.TEXT: "text",
    p.JsonType.NUMBER: "a number",
    p.JsonType.WHOLE_NUMBER: "a whole number",
    p.JsonType.TRUTH: "true or false",
    p.JsonType.LIST: "a list",
    p.JsonType.OBJECT: "an object",
}


@_says(p.WrongType)
def _(each: p.WrongType, _display: Display) -> str:
    return f"must be {_TYPES[each.wanted]}"


@_says(p.NotOneOf)
def _(each: p.NotOneOf, _display: Display) -> str:
    allowed = [word if word.isdigit() else f"'{word}'" for word in each.allowed]
    return f"must be {listed(allowed, 'or')}, not {quoted(each.given)}"


@_says(p.OutOfRange)
def _(each: p.OutOfRange, display: Display) -> str:
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


@_says(p.WrongLength)
def _(each: p.WrongLength, _display: Display) -> str:
    if each.most is not None:
        return f"is longer than {each.most}"
    return "must not be empty" if each.least == 1 else f"needs at least {each.least}"


@_says(p.NoSuchMoment)
def _(each: p.NoSuchMoment, _display: Display) -> str:
    return f"there is no {quoted(each.given)}"


@_says(p.YearOutOfRange)
def _(each: p.YearOutOfRange, _display: Display) -> str:
    return f"the year must lie between {each.first} and {each.last}"


@_says(p.NoTimezone)
def _(each: p.NoTimezone, _display: Display) -> str:
    return f"no timezone {quoted(each.given)}; use an IANA name such as Europe/Lisbon"


@_says(p.Malformed)
def _(each: p.Malformed, _display: Display) -> str:
    return each.message


@_says(p.FileHoldsTooMuch)
def _(each: p.FileHoldsTooMuch, _display: Display) -> str:
    most = figure(each.most)
    return f"the file holds more than {most} days, readings and events; bring it in on the server: lodeline import"


@_says(p.FileTooLarge)
def _(each: p.FileTooLarge, _display: Display) -> str:
    return f"the file is larger than {each.most_mib} MiB"


@_says(p.NotUtf8)
def _(each: p.NotUtf8, _display: Display) -> str:
    return f"not UTF-8 text (byte {each.byte})"


@_says(p.NotJson)
def _(each: p.NotJson, _display: Display) -> str:
    return f"not JSON: {each.message}"


@_says(p.FileUnreadable)
def _(each: p.FileUnreadable, _display: Display) -> str:
    return f"cannot be read ({each.reason})"


@_says(p.NotUnderstood)
def _(each: p.NotUnderstood, display: Display) -> str:
    return f"{quoted(each.typed)} is not understood for {each.store.name}; write {examples(each.store, display)}"


@_says(p.MayBeTwo)
def _(each: p.MayBeTwo, _display: Display) -> str:
    return f"{quoted(each.typed)} may be {each.large} or {each.small}; write it one of these ways"


@_says(p.OwnsRig)
def _(each: p.OwnsRig, _display: Display) -> str:
    return f"you are the only owner of {each.rig}; make somebody else its owner, or delete it first"


@_says(p.NameTaken)
def _(each: p.NameTaken, _display: Display) -> str:
    return f"there is an account {each.name} already; choose another name, or sign in with it first"


@_says(p.NotItsName)
def _(each: p.NotItsName, _display: Display) -> str:
    return f"write the name as it stands: {each.name}"


@_says(p.HoursOverDay)
def _(each: p.HoursOverDay, _display: Display) -> str:
    already = f" {exact(each.others_h)} h of it are logged on that day already." if each.others_h else ""
    return f"{exact(each.given_h)} h are more than a day has; log each day for itself.{already}"


@_says(p.ImpossibleGravity)
def _(each: p.ImpossibleGravity, _display: Display) -> str:
    return f"{exact(each.gravity)} cannot be the gravity of a cell; a full one shows about 1.265, an empty one 1.120"


@_says(p.MayBeEither)
def _(each: p.MayBeEither, _display: Display) -> str:
    return f"{quoted(each.typed)} may mean {listed(list(each.ways), 'or')}; say which"


@_says(p.NotAShare)
def _(each: p.NotAShare, _display: Display) -> str:
    return f"{quoted(each.typed)} is not a share of a whole"


@_says(p.OverTheWhole)
def _(each: p.OverTheWhole, _display: Display) -> str:
    return f"{quoted(each.typed)} is over 100 %"


@_says(p.NotABankState)
def _(each: p.NotABankState, _display: Display) -> str:
    return f"{quoted(each.typed)} is not a state of a battery; write {volts_states()} after the volts"


@_says(p.ImpossibleVolts)
def _(each: p.ImpossibleVolts, _display: Display) -> str:
    return f"{exact(each.volts_v)} V cannot be right for a {exact(each.nominal_v)} V bank"


@_says(p.OverCapacity)
def _(each: p.OverCapacity, display: Display) -> str:
    amount, capacity = (display.contents(each.store, value) for value in (each.amount, each.store.capacity))
    return f"{amount} is more than the {capacity} that {each.store.name} holds"


@_says(p.TooHeavy)
def _(each: p.TooHeavy, display: Display) -> str:
    return f"{display.amount(each.gross_kg, 'kg')} is more than bottle and contents can weigh"


@_says(p.UnderTare)
def _(each: p.UnderTare, display: Display) -> str:
    return f"{display.amount(each.gross_kg, 'kg')} is less than the empty bottle, {display.amount(each.tare_kg, 'kg')}"


@_says(p.NotUnique)
def _(each: p.NotUnique, _display: Display) -> str:
    return f"{quoted(each.given)} is used twice; it must be unique in its list"


@_says(p.NoStore)
def _(each: p.NoStore, _display: Display) -> str:
    known = f"; there are {', '.join(each.known)}" if each.known else ""
    return f"no store {quoted(each.given)}{known}"


@_says(p.NotAFuelStore)
def _(each: p.NotAFuelStore, _display: Display) -> str:
    return f"{quoted(each.given)} is not a fuel store"


@_says(p.IdIsTaken)
def _(each: p.IdIsTaken, _display: Display) -> str:
    return f"{quoted(each.given)} is a word that moves use; choose another id"


@_says(p.NotServedSo)
def _(each: p.NotServedSo, _display: Display) -> str:
    return f"A store of kind {each.kind} cannot be served {each.served}; leave it out, or write stop."


@_says(p.KindHasNo)
def _(each: p.KindHasNo, _display: Display) -> str:
    return f"a {each.kind} store has no {each.key}"


@_says(p.HoldsOnly)
def _(each: p.HoldsOnly, _display: Display) -> str:
    return f"a {each.kind} store holds {listed(each.allowed, 'or')}"


@_says(p.BankNeeds)
def _(each: p.BankNeeds, _display: Display) -> str:
    return f"is missing; a battery needs {listed(each.keys, 'or')}"


@_says(p.LayoutMakesAh)
def _(each: p.LayoutMakesAh, _display: Display) -> str:
    return f"the layout makes {exact(each.bank_ah)} Ah (only parallel strings add amp-hours)"


@_says(p.LayoutMakesV)
def _(each: p.LayoutMakesV, _display: Display) -> str:
    return f"the layout makes {exact(each.bank_v)} V (only units in series add volts)"


@_says(p.DaysOutOfOrder)
def _(each: p.DaysOutOfOrder, _display: Display) -> str:
    return f"{'the same date twice' if each.same else 'out of time order'}; days go from old to new, one a date"


@_says(p.OtherDate)
def _(each: p.OtherDate, _display: Display) -> str:
    return f"falls on {each.local} in the rig's timezone, not on {each.day}"


@_says(p.HasNoValue)
def _(each: p.HasNoValue, _display: Display) -> str:
    return f"{each.method} has no value"


@_says(p.ShareOverOne)
def _(each: p.ShareOverOne, _display: Display) -> str:
    return f"{exact(each.given)} is over 1; a fraction lies between 0 and 1"


@_says(p.NoPanel)
def _(each: p.NoPanel, _display: Display) -> str:
    return f"{quoted(each.store)} has no panel with marks"


@_says(p.NotAMark)
def _(each: p.NotAMark, _display: Display) -> str:
    marks = ", ".join(f"{exact(mark)}" for mark in each.marks)
    return f"{exact(each.given)} is not one of the gauge's marks ({marks})"


@_says(p.NotReadBy)
def _(each: p.NotReadBy, _display: Display) -> str:
    return f"{quoted(each.store)} is not read by {each.method}; use {listed(each.allowed, 'or')}"


@_says(p.NoTare)
def _(each: p.NoTare, _display: Display) -> str:
    return f"the empty weight of {quoted(each.store)} is not known, so a gross weight says nothing"


@_says(p.NotDoneTo)
def _(each: p.NotDoneTo, _display: Display) -> str:
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


@_says(p.NotAFuelTank)
def _(each: p.NotAFuelTank, _display: Display) -> str:
    return f"{quoted(each.store)} is not a tank that a vehicle drives from"


@_says(p.NoReserve)
def _(each: p.NoReserve, _display: Display) -> str:
    return f"{quoted(each.store)} has no reserve"


@_says(p.MeasuredDifferently)
def _(each: p.MeasuredDifferently, display: Display) -> str:
    units = listed([display.unit(unit).unit for unit in each.units])
    return f"the two stores are measured differently ({units})"


@_says(p.NotAnEvent)
def _(each: p.NotAnEvent, _display: Display) -> str:
    return f"{quoted(each.given)} is not something that is done; use {listed(each.known, 'or')}"


@_says(p.JugInUse)
def _(each: p.JugInUse, _display: Display) -> str:
    has = f"has {counted(each.entries, 'entry', 'entries')} in the log"
    return f"{quoted(each.jug)} {has}, so it stays on the list; say that it is not for drinking where it is gone"


@_says(p.StoreInUse)
def _(each: p.StoreInUse, _display: Display) -> str:
    has = f"has {counted(each.entries, 'entry', 'entries')} in the log"
    return f"{quoted(each.store)} {has}, so it can be neither removed nor made another kind; add a new store beside it"


@_says(p.MarksInUse)
def _(each: p.MarksInUse, _display: Display) -> str:
    show = f"{counted(each.readings, 'reading')} {'shows' if each.readings == 1 else 'show'}"
    return f"{show} one of {counted(each.marks, 'mark')}; the panel must keep as many"


@_says(p.StartTooFar)
def _(each: p.StartTooFar, _display: Display) -> str:
    return f"lies outside the coming {figure(each.within_h)} hours"


@_says(p.UntilOutOfRange)
def _(each: p.UntilOutOfRange, _display: Display) -> str:
    return f"must lie within the coming {counted(each.days, 'day')}"


@_says(p.NoBank)
def _(each: p.NoBank, _display: Display) -> str:
    return f"there is no bank {quoted(each.given)} aboard" if each.given else "there is no battery aboard"


@_says(p.NeverRead)
def _(each: p.NeverRead, _display: Display) -> str:
    return f"{each.name} was never read; log a reading first"


@_says(p.NoSource)
def _(each: p.NoSource, _display: Display) -> str:
    return f"there is no source {quoted(each.given)} aboard"


@_says(p.OnlyOwner)
def _(each: p.OnlyOwner, _display: Display) -> str:
    return f"{each.username} is the only owner; a rig needs one"


@_says(p.TooManyInvitations)
def _(each: p.TooManyInvitations, _display: Display) -> str:
    return f"{each.most} invitations are open already; end some first"


@_says(p.WeakPassword)
def _(each: p.WeakPassword, _display: Display) -> str:
    return " ".join(each.reasons)


@_says(p.NotOpeningHours)
def _(each: p.NotOpeningHours, _display: Display) -> str:
    where = f"it goes wrong at character {each.column}; " if each.column > 1 else ""
    return f"{quoted(each.given)} is not in the opening-hours notation; {where}right is, for example, {_OPENING}"


_OPENING = '"Mo-Fr 08:00-18:00; Sa 09:00-12:00"'


@_says(p.NoSpot)
def _(each: p.NoSpot, _display: Display) -> str:
    return f"there is no place {quoted(each.given)} in the book"


@_says(p.NoLever)
def _(each: p.NoLever, _display: Display) -> str:
    return f"{quoted(each.given)} is nothing that this rig can do"


@_says(p.NeverLever)
def _(each: p.NeverLever, _display: Display) -> str:
    return "the crew has said that it never does this"


_plain(p.EndsBeforeItBegins, "the end lies before the begin")


@_says(p.IsClosedThen)
def _(each: p.IsClosedThen, _display: Display) -> str:
    return f"{each.name} is closed then"


@_says(p.BookIsFull)
def _(each: p.BookIsFull, _display: Display) -> str:
    return f"a book holds at most {figure(each.most)} places"


@_says(p.NotPlaces)
def _(each: p.NotPlaces, _display: Display) -> str:
    return f"no places could be read from this {each.format} file: {each.said}"


def refusal(place: str, each: p.Problem, display: Display = METRIC) -> str:
    """A refusal in one line, its place first."""
    return f"{place}: {problem(each, display)}" if place else problem(each, display)
