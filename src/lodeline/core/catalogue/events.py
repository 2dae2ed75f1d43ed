"""What can be done and logged, and the kinds of days that a log tells apart in water use."""

from typing import Any, ClassVar

from lodeline.core.catalogue.row import Row
from lodeline.core.catalogue.terms import Ask, DayStatus, Effect, EventField, ToldBy
from lodeline.core.figures import Use, Water
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class EventType(Row):
    """Something that can be logged.

    ``needs``: the fields that it must carry, ``takes``: those that it may. ``name``: what it is; ``did``: that it was
    done, as a button says it; ``counted``: one and many of what is counted.
    """

    table: ClassVar[dict[str, Any]] = {}

    name: str
    did: str
    effect: Effect
    needs: tuple[EventField, ...]
    takes: tuple[EventField, ...] = ()
    asks: Ask = Ask.NOTHING
    counted: tuple[str, str] | None = None

    @property
    def fields(self) -> tuple[EventField, ...]:
        """All that it may carry."""
        return (*self.needs, *self.takes)


_F = EventField


def _water(id: str, name: str, did: str, counted: tuple[str, str]) -> EventType:
    """Something that water is used on, so many times; ``amount``: the litres of all of them, where it was measured."""
    return EventType(
        id=id,
        name=name,
        did=did,
        effect=Effect.COUNT,
        needs=(_F.COUNT,),
        takes=(_F.AMOUNT,),
        asks=Ask.COUNT,
        counted=counted,
    )


_ROWS = (
    EventType(
        id="fill",
        name="Fill",
        did="Filled",
        effect=Effect.FILL,
        needs=(_F.STORE,),
        takes=(_F.TO_FULL, _F.AMOUNT),
        asks=Ask.AMOUNT,
    ),
    EventType(id="dump", name="Empty", did="Emptied", effect=Effect.EMPTY, needs=(_F.STORE,), takes=(_F.LEFT,)),
    EventType(id="swap", name="Swap", did="Swapped", effect=Effect.SWAP, needs=(_F.STORE,), takes=(_F.SOURCE,)),
    EventType(
        id="move",
        name="Move",
        did="Moved",
        effect=Effect.MOVE,
        needs=(_F.SOURCE, _F.TARGET, _F.AMOUNT),
        takes=(_F.STORE,),
        asks=Ask.AMOUNT,
    ),
    EventType(
        id="drive",
        name="Drive",
        did="Drove",
        effect=Effect.DRIVE,
        needs=(),
        takes=(_F.HOURS, _F.KM, _F.STORE),
        asks=Ask.HOURS,
    ),
    EventType(id="shore", name="Hookup", did="Plugged in", effect=Effect.CHARGE, needs=(_F.HOURS,), asks=Ask.HOURS),
    EventType(
        id="generator",
        name="Generator",
        did="Ran the generator",
        effect=Effect.CHARGE,
        needs=(_F.HOURS,),
        asks=Ask.HOURS,
    ),
    _water("shower", "Shower", "Showered", ("shower", "showers")),
    _water("navy", "Navy shower", "Navy shower", ("navy shower", "navy showers")),
    _water("dishes", "Wash-up", "Washed up", ("wash-up", "wash-ups")),
    _water("wiped", "Wash-up, wiped first", "Washed up, wiped first", ("wiped wash-up", "wiped wash-ups")),
    _water("laundry", "Laundry", "Did laundry", ("load of laundry", "loads of laundry")),
    _water("flush", "Flush", "Flushed", ("flush", "flushes")),
    _water("cleaning", "Cleaning", "Cleaned", ("cleaning", "cleanings")),
    EventType(id="filter", name="Filter", did="Changed the filter", effect=Effect.CARE, needs=()),
    EventType(id="disinfect", name="Disinfecting", did="Disinfected the tank", effect=Effect.CARE, needs=()),
    EventType(id="seal", name="Seals", did="Greased the seals", effect=Effect.CARE, needs=()),
    EventType(id="oil", name="Oil", did="Changed the generator's oil", effect=Effect.CARE, needs=()),
    EventType(id="odometer", name="Odometer", did="Odometer", effect=Effect.CARE, needs=(_F.KM,)),
    EventType(id="drain", name="Draining", did="Drained tanks and lines", effect=Effect.DRAIN, needs=()),
)

EVENT_TYPES: dict[str, EventType] = EventType.table
EVENT_TYPES.update({row.id: row for row in _ROWS})


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class DayKind(Row):
    """A kind of day whose water use a log may tell apart.

    ``told_by``: events of type ``event``, the week-end, or a day's ``status``. ``each_l`` with ``each_sd_l``: water of
    one such event; without, a share of the day's use is added. ``enough``: days with and without it before it is told
    apart; ``often``: how often it comes before the log says. [1/day]
    """

    table: ClassVar[dict[str, Any]] = {}

    name: str
    told_by: ToldBy
    enough: int
    often: float
    event: str | None = None
    status: DayStatus | None = None
    each_l: float | None = None
    each_sd_l: float | None = None


_KINDS = (
    DayKind(
        id="shower",
        name="a shower",
        told_by=ToldBy.EVENTS,
        event="shower",
        enough=Use.shower_days,
        often=Use.shower_often,
        each_l=Use.shower_l,
        each_sd_l=Use.shower_sd_l,
    ),
    DayKind(
        id="navy",
        name="a navy shower",
        told_by=ToldBy.EVENTS,
        event="navy",
        enough=Use.shower_days,
        often=Use.shower_often,
        each_l=Water.navy_l,
        each_sd_l=Water.navy_sd_l,
    ),
    DayKind(
        id="dishes",
        name="a wash-up",
        told_by=ToldBy.EVENTS,
        event="dishes",
        enough=Use.shower_days,
        often=Use.dishes_often,
        each_l=Water.dishes_l,
        each_sd_l=Water.dishes_sd_l,
    ),
    DayKind(
        id="wiped",
        name="a wash-up, wiped first",
        told_by=ToldBy.EVENTS,
        event="wiped",
        enough=Use.shower_days,
        often=Use.dishes_often,
        each_l=Water.wiped_l,
        each_sd_l=Water.wiped_sd_l,
    ),
    DayKind(
        id="laundry",
        name="a load of laundry",
        told_by=ToldBy.EVENTS,
        event="laundry",
        enough=Use.laundry_days,
        often=Use.laundry_often,
        each_l=Water.laundry_l,
        each_sd_l=Water.laundry_sd_l,
    ),
    DayKind(
        id="flush",
        name="a flush",
        told_by=ToldBy.EVENTS,
        event="flush",
        enough=Use.shower_days,
        often=Use.flush_often,
        each_l=Water.flush_l,
        each_sd_l=Water.flush_sd_l,
    ),
    DayKind(
        id="cleaning",
        name="a cleaning",
        told_by=ToldBy.EVENTS,
        event="cleaning",
        enough=Use.laundry_days,
        often=Use.laundry_often,
        each_l=Water.cleaning_l,
        each_sd_l=Water.cleaning_sd_l,
    ),
    DayKind(
        id="weekend",
        name="more on a week-end day",
        told_by=ToldBy.WEEKEND,
        enough=Use.weekend_days,
        often=Use.weekend_often,
    ),
    DayKind(
        id="hookup",
        name="more on a day plugged in",
        told_by=ToldBy.STATUS,
        status=DayStatus.HOOKUP,
        enough=Use.hookup_days,
        often=Use.hookup_often,
    ),
    DayKind(
        id="moving",
        name="more on a day on the move",
        told_by=ToldBy.STATUS,
        status=DayStatus.MOVING,
        enough=Use.moving_days,
        often=Use.moving_often,
    ),
)

DAY_KINDS: dict[str, DayKind] = DayKind.table
DAY_KINDS.update({row.id: row for row in _KINDS})
