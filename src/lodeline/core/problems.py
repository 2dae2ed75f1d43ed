"""Everything that input can be refused for, as facts. ``text.problems`` has the sentence for each."""

from dataclasses import KW_ONLY, dataclass
from datetime import date
from enum import StrEnum

from lodeline.core.catalogue.terms import Method
from lodeline.core.rig import Store


class JsonType(StrEnum):
    """What a value of a JSON document may be."""

    TEXT = "text"
    NUMBER = "number"
    WHOLE_NUMBER = "whole-number"
    TRUTH = "truth"
    LIST = "list"
    OBJECT = "object"


@dataclass(frozen=True, slots=True)
class Problem:
    """A reason to refuse input."""


@dataclass(frozen=True, slots=True)
class OwnsRig(Problem):
    """An account that is the only owner of a rig."""

    rig: str


@dataclass(frozen=True, slots=True)
class NameTaken(Problem):
    """A name that an account has already."""

    name: str


@dataclass(frozen=True, slots=True)
class NotAName(Problem):
    """A text that no account can be called."""


@dataclass(frozen=True, slots=True)
class WrongCode(Problem):
    """Another code than the one that the server shows."""


@dataclass(frozen=True, slots=True)
class NotItsName(Problem):
    """Another text than the name that has to be typed."""

    name: str


@dataclass(frozen=True, slots=True)
class ChangedMeanwhile(Problem):
    """What was to be replaced is not what was seen."""


# Of writes.
@dataclass(frozen=True, slots=True)
class IdUsed(Problem):
    """An id that another write was kept under."""


@dataclass(frozen=True, slots=True)
class HoursOverDay(Problem):
    """More hours of one thing than a day has. ``others_h`` are logged on it already."""

    given_h: float
    others_h: float


@dataclass(frozen=True, slots=True)
class ImpossibleGravity(Problem):
    """A density that no cell's acid has."""

    gravity: float


@dataclass(frozen=True, slots=True)
class MayBeEither(Problem):
    """A number alone that says two things of a store. ``ways``: each as it would be typed."""

    typed: str
    ways: tuple[str, str]


# Of shapes: a key, a type, a range.
@dataclass(frozen=True, slots=True)
class IsMissing(Problem):
    """A value that must be given is not."""


@dataclass(frozen=True, slots=True)
class UnknownKey(Problem):
    """A key that nothing knows."""


@dataclass(frozen=True, slots=True)
class WrongType(Problem):
    """Not the type that is wanted."""

    wanted: JsonType


@dataclass(frozen=True, slots=True)
class NotOneOf(Problem):
    """Not one of the known words."""

    given: str
    allowed: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class OutOfRange(Problem):
    """A number outside its range, in a base unit where it has one. Ends that are open are ``exclusive``."""

    given: float
    _: KW_ONLY
    least: float | None = None
    most: float | None = None
    exclusive: bool = False
    unit: str | None = None


@dataclass(frozen=True, slots=True)
class WrongLength(Problem):
    """A list or a text with too few or too many parts."""

    least: int | None = None
    most: int | None = None


@dataclass(frozen=True, slots=True)
class NotASlug(Problem):
    """An id with other characters than a-z, 0-9 and -."""


@dataclass(frozen=True, slots=True)
class NotADate(Problem):
    """No date of the form 2026-09-04."""


@dataclass(frozen=True, slots=True)
class NotATime(Problem):
    """No time with its offset."""


@dataclass(frozen=True, slots=True)
class NotAClockTime(Problem):
    """No local time such as 20:15."""


@dataclass(frozen=True, slots=True)
class NoSuchMoment(Problem):
    """A date or time that the calendar does not have."""

    given: str


@dataclass(frozen=True, slots=True)
class YearOutOfRange(Problem):
    """A year that no log can have."""

    first: int
    last: int


@dataclass(frozen=True, slots=True)
class NoTimezone(Problem):
    """No timezone of that name."""

    given: str


@dataclass(frozen=True, slots=True)
class Malformed(Problem):
    """Something else about a shape, in the words of the library that checked it."""

    message: str


# Of a file's text.
@dataclass(frozen=True, slots=True)
class FileHoldsTooMuch(Problem):
    """A file of so many parts that it is not read. ``most``: the parts that are."""

    most: int


@dataclass(frozen=True, slots=True)
class FileTooLarge(Problem):
    """A file over the limit."""

    most_mib: int


@dataclass(frozen=True, slots=True)
class NotUtf8(Problem):
    """Bytes that are no UTF-8 text, from one on."""

    byte: int


@dataclass(frozen=True, slots=True)
class NotJson(Problem):
    """Text that is no JSON; ``message`` is the parser's."""

    message: str


@dataclass(frozen=True, slots=True)
class NestedTooDeep(Problem):
    """Lists and objects within each other beyond all use."""


@dataclass(frozen=True, slots=True)
class KeyTwice(Problem):
    """A key that is given twice in one object."""


@dataclass(frozen=True, slots=True)
class NotFinite(Problem):
    """NaN or infinity."""


@dataclass(frozen=True, slots=True)
class NumberTooLarge(Problem):
    """A number beyond all use."""


@dataclass(frozen=True, slots=True)
class NotText(Problem):
    """A character that is not text."""


@dataclass(frozen=True, slots=True)
class FileUnreadable(Problem):
    """A file that cannot be read; ``reason`` is the system's."""

    reason: str


# Of what a person typed.
@dataclass(frozen=True, slots=True)
class NothingTyped(Problem):
    """Nothing was typed."""


@dataclass(frozen=True, slots=True)
class NotUnderstood(Problem):
    """A text that says nothing for a store."""

    typed: str
    store: Store


@dataclass(frozen=True, slots=True)
class MayBeTwo(Problem):
    """A number that a comma makes two."""

    typed: str
    large: str
    small: str


@dataclass(frozen=True, slots=True)
class NotAShare(Problem):
    """A fraction that is no share of a whole."""

    typed: str


@dataclass(frozen=True, slots=True)
class OverTheWhole(Problem):
    """More than 100 %."""

    typed: str


@dataclass(frozen=True, slots=True)
class NotABankState(Problem):
    """A word after volts that is no state of a bank."""

    typed: str


@dataclass(frozen=True, slots=True)
class ImpossibleVolts(Problem):
    """Volts that such a bank cannot show."""

    volts_v: float
    nominal_v: float


@dataclass(frozen=True, slots=True)
class OverCapacity(Problem):
    """More than a store holds, in its unit."""

    amount: float
    store: Store


@dataclass(frozen=True, slots=True)
class TooHeavy(Problem):
    """More than bottle and contents can weigh."""

    gross_kg: float


@dataclass(frozen=True, slots=True)
class UnderTare(Problem):
    """Less than the empty bottle."""

    gross_kg: float
    tare_kg: float


# Of a rig and its parts.
@dataclass(frozen=True, slots=True)
class NotUnique(Problem):
    """An id or date that is used twice in its list."""

    given: str


@dataclass(frozen=True, slots=True)
class NoStore(Problem):
    """No store of that id; ``known`` are those that there are."""

    given: str
    known: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class NotAFuelStore(Problem):
    """A store that nothing burns from."""

    given: str


@dataclass(frozen=True, slots=True)
class NobodyAboard(Problem):
    """A crew of no adult and no child."""


@dataclass(frozen=True, slots=True)
class IdIsTaken(Problem):
    """An id that moves use as a word."""

    given: str


@dataclass(frozen=True, slots=True)
class KindHasNo(Problem):
    """A key that a kind of store does not have."""

    kind: str
    key: str


@dataclass(frozen=True, slots=True)
class NotServedSo(Problem):
    """A kind of store that cannot be served in a way."""

    kind: str
    served: str


@dataclass(frozen=True, slots=True)
class HoldsOnly(Problem):
    """Contents that a kind of store cannot have."""

    kind: str
    allowed: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class BankNeeds(Problem):
    """A bank without what it must say of itself."""

    keys: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class MarksMustRise(Problem):
    """Marks of a panel out of order."""


@dataclass(frozen=True, slots=True)
class LayoutMakesAh(Problem):
    """A capacity that the layout does not make."""

    bank_ah: float


@dataclass(frozen=True, slots=True)
class LayoutMakesV(Problem):
    """Volts that the layout does not make."""

    bank_v: float


# Of a log.
@dataclass(frozen=True, slots=True)
class DaysOutOfOrder(Problem):
    """A date that is not after the one before it."""

    same: bool


@dataclass(frozen=True, slots=True)
class ColdestOverWarmest(Problem):
    """A day whose coldest is above its warmest."""


@dataclass(frozen=True, slots=True)
class OtherDate(Problem):
    """An entry whose local date is not its day's."""

    local: date
    day: date


@dataclass(frozen=True, slots=True)
class EntriesOutOfOrder(Problem):
    """An entry before the one above it."""


@dataclass(frozen=True, slots=True)
class HasNoValue(Problem):
    """A value for a method that has none."""

    method: Method


@dataclass(frozen=True, slots=True)
class OnlyVoltsHaveState(Problem):
    """A state with another method than volts."""


@dataclass(frozen=True, slots=True)
class ShareOverOne(Problem):
    """A fraction over 1."""

    given: float


@dataclass(frozen=True, slots=True)
class NoPanel(Problem):
    """A mark of a store without a light panel."""

    store: str


@dataclass(frozen=True, slots=True)
class NotAMark(Problem):
    """A mark that the panel does not have."""

    given: float
    marks: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class NotReadBy(Problem):
    """A method that a store cannot be read by; ``store`` is its id, ``allowed`` what it can be read by."""

    store: str
    method: Method
    allowed: tuple[Method, ...]


@dataclass(frozen=True, slots=True)
class NoTare(Problem):
    """A gross weight of a store whose empty weight is not known."""

    store: str


@dataclass(frozen=True, slots=True)
class NotDoneTo(Problem):
    """An event that a store cannot have; ``event`` is its type, ``store`` an id."""

    event: str
    store: str


@dataclass(frozen=True, slots=True)
class FillIsEither(Problem):
    """A fill that is neither to full nor of an amount, or both."""


@dataclass(frozen=True, slots=True)
class NotAFuelTank(Problem):
    """A drive from a store that is no vehicle's tank."""

    store: str


@dataclass(frozen=True, slots=True)
class MoveEnds(Problem):
    """A move that goes nowhere."""


@dataclass(frozen=True, slots=True)
class NoReserve(Problem):
    """A move to or from the reserve of a store that has none."""

    store: str


@dataclass(frozen=True, slots=True)
class MeasuredDifferently(Problem):
    """A move between stores of different units."""

    units: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class NotAnEvent(Problem):
    """A type that is nothing that is done."""

    given: str
    known: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class NothingLogged(Problem):
    """An empty log, of which the time of a forecast cannot be told."""


# Of writing.
@dataclass(frozen=True, slots=True)
class InTheFuture(Problem):
    """An entry later than now."""


@dataclass(frozen=True, slots=True)
class DayInTheFuture(Problem):
    """A log day after today."""


@dataclass(frozen=True, slots=True)
class DayIsPast(Problem):
    """A coming day before today."""


@dataclass(frozen=True, slots=True)
class JugInUse(Problem):
    """A jug that the log speaks of cannot be taken off the list."""

    jug: str
    entries: int


@dataclass(frozen=True, slots=True)
class StoreInUse(Problem):
    """A store of which the log has entries, and which was to go or become another kind."""

    store: str
    entries: int


@dataclass(frozen=True, slots=True)
class MarksInUse(Problem):
    """Readings show one of so many marks, and the panel was to have another number."""

    readings: int
    marks: int


# Of questions.
@dataclass(frozen=True, slots=True)
class StartTooFar(Problem):
    """A start outside the time that is looked at."""

    within_h: float


@dataclass(frozen=True, slots=True)
class TargetOutOfRange(Problem):
    """A level to charge to that is none."""


@dataclass(frozen=True, slots=True)
class UntilOutOfRange(Problem):
    """A date to hold through outside the horizon."""

    days: int


@dataclass(frozen=True, slots=True)
class NoLoadsListed(Problem):
    """Loads to fit where none are listed."""


@dataclass(frozen=True, slots=True)
class SpareTooLarge(Problem):
    """A spare bottle that holds more than the store in whose place it stands. [kg]"""

    store: str
    capacity: float


@dataclass(frozen=True, slots=True)
class NothingBurnsListed(Problem):
    """A list to fit where nothing is listed that burns from a store."""

    store: str


@dataclass(frozen=True, slots=True)
class NoSuchAppliance(Problem):
    """An appliance that the rig does not list."""

    appliance: str


@dataclass(frozen=True, slots=True)
class AskEither(Problem):
    """A run of which neither hours, nor a night, nor litres are said, or more than one of them."""


@dataclass(frozen=True, slots=True)
class TooLittleLog(Problem):
    """Something to be learned of which there is too little log."""


@dataclass(frozen=True, slots=True)
class NoBank(Problem):
    """No bank of that id; without an id, no battery at all."""

    given: str | None


@dataclass(frozen=True, slots=True)
class NeverRead(Problem):
    """A store that was never read."""

    name: str


@dataclass(frozen=True, slots=True)
class NoSource(Problem):
    """No way to charge of that id."""

    given: str


# Of accounts.
@dataclass(frozen=True, slots=True)
class OnlyOwner(Problem):
    """The only owner of a rig, who cannot leave it."""

    username: str


@dataclass(frozen=True, slots=True)
class TooManyInvitations(Problem):
    """A rig with so many open invitations that no more are made."""

    most: int


@dataclass(frozen=True, slots=True)
class WrongPassword(Problem):
    """An account and a password that do not go together."""


@dataclass(frozen=True, slots=True)
class WeakPassword(Problem):
    """A password that the server does not take; ``reasons`` are the checker's sentences."""

    reasons: tuple[str, ...]


# Of places, plans and levers.
@dataclass(frozen=True, slots=True)
class NotOpeningHours(Problem):
    """A text that is not in the opening-hours notation; ``column``: where it goes wrong, from 1."""

    given: str
    column: int


@dataclass(frozen=True, slots=True)
class NoSpot(Problem):
    """No place of that id in the book."""

    given: str


@dataclass(frozen=True, slots=True)
class NoLever(Problem):
    """No lever of that id on this rig."""

    given: str


@dataclass(frozen=True, slots=True)
class NeverLever(Problem):
    """A lever that this crew never pulls."""

    given: str


@dataclass(frozen=True, slots=True)
class EndsBeforeItBegins(Problem):
    """A span of dates or times whose end lies before its begin."""


@dataclass(frozen=True, slots=True)
class IsClosedThen(Problem):
    """A place that is closed when somebody would arrive."""

    name: str


@dataclass(frozen=True, slots=True)
class BookIsFull(Problem):
    """More places than a book holds."""

    most: int


@dataclass(frozen=True, slots=True)
class NotPlaces(Problem):
    """A file that holds no places in the format that it is said to be of."""

    format: str
    said: str
