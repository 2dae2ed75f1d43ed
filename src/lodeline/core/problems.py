"""Everything that input can be refused for, as facts. ``text.problems`` has the sentence for each."""

from dataclasses import KW_ONLY
from datetime import date
from enum import Enum, StrEnum

from lodeline.core.catalogue.terms import Method
from lodeline.core.rig import Store
from lodeline.core.values import dataclass


class JsonType(StrEnum):
    """What a value of a JSON document may be."""

    TEXT = "text"
    NUMBER = "number"
    WHOLE_NUMBER = "whole-number"
    TRUTH = "truth"
    LIST = "list"
    OBJECT = "object"


@dataclass(frozen=True, slots=True)
class Detailed:
    """A reason to refuse input, with what it is about."""


class Plain(Enum):
    """Reasons that say all there is to say by their name."""

    CHANGED_MEANWHILE = "changed-meanwhile"
    ID_USED = "id-used"
    IS_MISSING = "is-missing"
    NOT_A_LOGBOOK = "not-a-logbook"
    UNKNOWN_KEY = "unknown-key"
    NOT_A_SLUG = "not-a-slug"
    NOT_A_DATE = "not-a-date"
    NOT_A_TIME = "not-a-time"
    NOT_A_CLOCK_TIME = "not-a-clock-time"
    NESTED_TOO_DEEP = "nested-too-deep"
    KEY_TWICE = "key-twice"
    NOT_FINITE = "not-finite"
    NUMBER_TOO_LARGE = "number-too-large"
    NOT_TEXT = "not-text"
    NOTHING_TYPED = "nothing-typed"
    NOBODY_ABOARD = "nobody-aboard"
    MARKS_MUST_RISE = "marks-must-rise"
    COLDEST_OVER_WARMEST = "coldest-over-warmest"
    ENTRIES_OUT_OF_ORDER = "entries-out-of-order"
    ONLY_VOLTS_HAVE_STATE = "only-volts-have-state"
    FILL_SAYS_HOW_MUCH = "fill-says-how-much"
    MOVE_ENDS = "move-ends"
    NOTHING_LOGGED = "nothing-logged"
    IN_THE_FUTURE = "in-the-future"
    DAY_IN_THE_FUTURE = "day-in-the-future"
    DAY_IS_PAST = "day-is-past"
    TARGET_OUT_OF_RANGE = "target-out-of-range"
    NO_LOADS_LISTED = "no-loads-listed"
    ASK_EITHER = "ask-either"
    TOO_LITTLE_LOG = "too-little-log"
    TICKET_BEGUN = "ticket-begun"
    NOT_IN_THE_PLAN = "not-in-the-plan"
    ENDS_BEFORE_IT_BEGINS = "ends-before-it-begins"


# Of writes.
@dataclass(frozen=True, slots=True)
class HoursOverDay(Detailed):
    """More hours of one thing than a day has. ``others_h`` are logged on it already."""

    given_h: float
    others_h: float


@dataclass(frozen=True, slots=True)
class ImpossibleGravity(Detailed):
    """A density that no cell's acid has."""

    gravity: float


@dataclass(frozen=True, slots=True)
class MayBeEither(Detailed):
    """A number alone that says two things of a store. ``ways``: each as it would be typed."""

    typed: str
    ways: tuple[str, str]


# Of shapes: a key, a type, a range.
@dataclass(frozen=True, slots=True)
class WrongType(Detailed):
    """Not the type that is wanted."""

    wanted: JsonType


@dataclass(frozen=True, slots=True)
class NotOneOf(Detailed):
    """Not one of the known words."""

    given: str
    allowed: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class OutOfRange(Detailed):
    """A number outside its range, in a base unit where it has one. Ends that are open are ``exclusive``."""

    given: float
    _: KW_ONLY
    least: float | None = None
    most: float | None = None
    exclusive: bool = False
    unit: str | None = None


@dataclass(frozen=True, slots=True)
class WrongLength(Detailed):
    """A list or a text with too few or too many parts."""

    least: int | None = None
    most: int | None = None


@dataclass(frozen=True, slots=True)
class NoSuchMoment(Detailed):
    """A date or time that the calendar does not have."""

    given: str


@dataclass(frozen=True, slots=True)
class YearOutOfRange(Detailed):
    """A year that no log can have."""

    first: int
    last: int


@dataclass(frozen=True, slots=True)
class NoTimezone(Detailed):
    """No timezone of that name."""

    given: str


@dataclass(frozen=True, slots=True)
class Malformed(Detailed):
    """Something else about a shape, in the words of the library that checked it."""

    message: str


# Of a file's text.
@dataclass(frozen=True, slots=True)
class FileHoldsTooMuch(Detailed):
    """A file of so many parts that it is not read. ``most``: the parts that are."""

    most: int


@dataclass(frozen=True, slots=True)
class FileTooLarge(Detailed):
    """A file over the limit."""

    most_mib: int


@dataclass(frozen=True, slots=True)
class NotUtf8(Detailed):
    """Bytes that are no UTF-8 text, from one on."""

    byte: int


@dataclass(frozen=True, slots=True)
class NotJson(Detailed):
    """Text that is no JSON; ``message`` is the parser's."""

    message: str


@dataclass(frozen=True, slots=True)
class FileUnreadable(Detailed):
    """A file that cannot be read; ``reason`` is the system's."""

    reason: str


# Of what a person typed.
@dataclass(frozen=True, slots=True)
class NotUnderstood(Detailed):
    """A text that says nothing for a store."""

    typed: str
    store: Store


@dataclass(frozen=True, slots=True)
class MayBeTwo(Detailed):
    """A number that a comma makes two."""

    typed: str
    large: str
    small: str


@dataclass(frozen=True, slots=True)
class NotAShare(Detailed):
    """A fraction that is no share of a whole."""

    typed: str


@dataclass(frozen=True, slots=True)
class OverTheWhole(Detailed):
    """More than 100 %."""

    typed: str


@dataclass(frozen=True, slots=True)
class NotABankState(Detailed):
    """A word after volts that is no state of a bank."""

    typed: str


@dataclass(frozen=True, slots=True)
class ImpossibleVolts(Detailed):
    """Volts that such a bank cannot show."""

    volts_v: float
    nominal_v: float


@dataclass(frozen=True, slots=True)
class OverCapacity(Detailed):
    """More than a store holds, in its unit."""

    amount: float
    store: Store


@dataclass(frozen=True, slots=True)
class TooHeavy(Detailed):
    """More than bottle and contents can weigh."""

    gross_kg: float


@dataclass(frozen=True, slots=True)
class UnderTare(Detailed):
    """Less than the empty bottle."""

    gross_kg: float
    tare_kg: float


# Of a rig and its parts.
@dataclass(frozen=True, slots=True)
class NotUnique(Detailed):
    """An id or date that is used twice in its list."""

    given: str


@dataclass(frozen=True, slots=True)
class NoStore(Detailed):
    """No store of that id; ``known`` are those that there are."""

    given: str
    known: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class NotAFuelStore(Detailed):
    """A store that nothing burns from."""

    given: str


@dataclass(frozen=True, slots=True)
class NotABattery(Detailed):
    """A store that nothing is wired to."""

    given: str


@dataclass(frozen=True, slots=True)
class IdIsTaken(Detailed):
    """An id that moves use as a word."""

    given: str


@dataclass(frozen=True, slots=True)
class KindHasNo(Detailed):
    """A key that a kind of store does not have."""

    kind: str
    key: str


@dataclass(frozen=True, slots=True)
class NotServedSo(Detailed):
    """A kind of store that cannot be served in a way."""

    kind: str
    served: str


@dataclass(frozen=True, slots=True)
class HoldsOnly(Detailed):
    """Contents that a kind of store cannot have."""

    kind: str
    allowed: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class BankNeeds(Detailed):
    """A bank without what it must say of itself."""

    keys: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class LayoutMakesAh(Detailed):
    """A capacity that the layout does not make."""

    bank_ah: float


@dataclass(frozen=True, slots=True)
class LayoutMakesV(Detailed):
    """Volts that the layout does not make."""

    bank_v: float


# Of a log.
@dataclass(frozen=True, slots=True)
class DaysOutOfOrder(Detailed):
    """A date that is not after the one before it."""

    same: bool


@dataclass(frozen=True, slots=True)
class OtherDate(Detailed):
    """An entry whose local date is not its day's."""

    local: date
    day: date


@dataclass(frozen=True, slots=True)
class HasNoValue(Detailed):
    """A value for a method that has none."""

    method: Method


@dataclass(frozen=True, slots=True)
class ShareOverOne(Detailed):
    """A fraction over 1."""

    given: float


@dataclass(frozen=True, slots=True)
class NoPanel(Detailed):
    """A mark of a store without a light panel."""

    store: str


@dataclass(frozen=True, slots=True)
class NotAMark(Detailed):
    """A mark that the panel does not have."""

    given: float
    marks: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class NotReadBy(Detailed):
    """A method that a store cannot be read by; ``store`` is its id, ``allowed`` what it can be read by."""

    store: str
    method: Method
    allowed: tuple[Method, ...]


@dataclass(frozen=True, slots=True)
class NoTare(Detailed):
    """A gross weight of a store whose empty weight is not known."""

    store: str


@dataclass(frozen=True, slots=True)
class NotDoneTo(Detailed):
    """An event that a store cannot have; ``event`` is its type, ``store`` an id."""

    event: str
    store: str


@dataclass(frozen=True, slots=True)
class NotAFuelTank(Detailed):
    """A drive from a store that is no vehicle's tank."""

    store: str


@dataclass(frozen=True, slots=True)
class NoReserve(Detailed):
    """A move to or from the reserve of a store that has none."""

    store: str


@dataclass(frozen=True, slots=True)
class MeasuredDifferently(Detailed):
    """A move between stores of different units."""

    units: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class NotAnEvent(Detailed):
    """A type that is nothing that is done."""

    given: str
    known: tuple[str, ...]


# Of writing.
@dataclass(frozen=True, slots=True)
class JugInUse(Detailed):
    """A jug that the log speaks of cannot be taken off the list."""

    jug: str
    entries: int


@dataclass(frozen=True, slots=True)
class StoreInUse(Detailed):
    """A store of which the log has entries, and which was to go or become another kind."""

    store: str
    entries: int


@dataclass(frozen=True, slots=True)
class MarksInUse(Detailed):
    """Readings show one of so many marks, and the panel was to have another number."""

    readings: int
    marks: int


# Of questions.
@dataclass(frozen=True, slots=True)
class StartTooFar(Detailed):
    """A start outside the time that is looked at."""

    within_h: float


@dataclass(frozen=True, slots=True)
class UntilOutOfRange(Detailed):
    """A date to hold through outside the horizon."""

    days: int


@dataclass(frozen=True, slots=True)
class SpareTooLarge(Detailed):
    """A spare bottle that holds more than the store in whose place it stands. [kg]"""

    store: str
    capacity: float


@dataclass(frozen=True, slots=True)
class NothingBurnsListed(Detailed):
    """A list to fit where nothing is listed that burns from a store."""

    store: str


@dataclass(frozen=True, slots=True)
class NoSuchAppliance(Detailed):
    """An appliance that the rig does not list."""

    appliance: str


@dataclass(frozen=True, slots=True)
class NoBank(Detailed):
    """No bank of that id; without an id, no battery at all."""

    given: str | None


@dataclass(frozen=True, slots=True)
class NeverRead(Detailed):
    """A store that was never read."""

    name: str


@dataclass(frozen=True, slots=True)
class NoSource(Detailed):
    """No way to charge of that id."""

    given: str


# Of places, plans and levers.
@dataclass(frozen=True, slots=True)
class NotOpeningHours(Detailed):
    """A text that is not in the opening-hours notation; ``column``: where it goes wrong, from 1."""

    given: str
    column: int


@dataclass(frozen=True, slots=True)
class NoSpot(Detailed):
    """No place of that id in the book."""

    given: str


@dataclass(frozen=True, slots=True)
class NoLever(Detailed):
    """No lever of that id on this rig."""

    given: str


@dataclass(frozen=True, slots=True)
class NeverLever(Detailed):
    """A lever that this crew never pulls."""

    given: str


@dataclass(frozen=True, slots=True)
class IsClosedThen(Detailed):
    """A place that is closed when somebody would arrive."""

    name: str


@dataclass(frozen=True, slots=True)
class BookIsFull(Detailed):
    """More places than a book holds."""

    most: int


@dataclass(frozen=True, slots=True)
class NotPlaces(Detailed):
    """A file that holds no places in the format that it is said to be of."""

    format: str
    said: str


Problem = Detailed | Plain
