"""Ways to charge a bank other than by the sun, and what draws from it."""

from typing import Any, ClassVar

from lodeline.core.catalogue.row import Row
from lodeline.core.catalogue.terms import Burns, Caution, DayStatus, Sparing, When
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SourceKind(Row):
    """A way to charge.

    ``event``: the event that runs it; ``outlook_key``: its hours on a coming day, as the file has them; ``from_h``:
    the local hour at which planned hours begin (the file contract); ``all_day``: the day status that means it ran all
    day; ``run``: what one does with it, before the hours (``Drive 2 h``);
    ``planned``: what its hours on a coming day are called; ``short``: it in a word, for a narrow column.
    ``usual_amps``: into the bank, where most rigs have it (common practice); None where a rig has to say so.
    """

    table: ClassVar[dict[str, Any]] = {}

    name: str
    event: str
    outlook_key: str
    from_h: float
    run: str
    planned: str
    short: str
    burns: Burns
    usual_amps: float | None = None
    drives: bool = False
    mains: bool = False
    all_day: DayStatus | None = None
    cautions: tuple[Caution, ...] = ()


_ROWS = (
    SourceKind(
        id="alternator",
        name="Engine",
        event="drive",
        outlook_key="drive_hours",
        from_h=11.0,
        run="Drive",
        planned="Drive",
        short="drive",
        burns=Burns.ENGINE_IDLE,
        drives=True,
        usual_amps=25.0,
    ),
    SourceKind(
        id="shore",
        name="Hookup",
        event="shore",
        outlook_key="shore_hours",
        from_h=17.0,
        run="Plug in for",
        planned="Plugged in",
        short="hookup",
        burns=Burns.NOTHING,
        mains=True,
        all_day=DayStatus.HOOKUP,
        usual_amps=25.0,
        cautions=(Caution.LICENSED,),
    ),
    SourceKind(
        id="generator",
        name="Generator",
        event="generator",
        outlook_key="generator_hours",
        from_h=17.0,
        run="Run the generator for",
        planned="Generator",
        short="gen.",
        burns=Burns.OWN_RATE,
        mains=True,
        cautions=(Caution.GENERATOR_OUTDOORS,),
    ),
)

SOURCE_KINDS: dict[str, SourceKind] = SourceKind.table
SOURCE_KINDS.update({row.id: row for row in _ROWS})


def source_of_event(event_type: str) -> SourceKind | None:
    """The way to charge that an event runs, or None."""
    return next((row for row in SOURCE_KINDS.values() if row.event == event_type), None)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class LoadKind(Row):
    """What a load is; ``sparing``: how its draw may be spared; ``heats``: it serves a heater, and goes by the cold;
    ``cools``: it draws more in the heat; ``words``: in a name, that tell such a load where nobody said."""

    table: ClassVar[dict[str, Any]] = {}

    name: str
    sparing: Sparing
    heats: bool = False
    cools: bool = False
    words: tuple[str, ...] = ()


_COOLING = ("fridge", "freezer", "refrigerator", "coolbox", "cool box", "cooler")

_LOADS = (
    LoadKind(id="fridge", name="fridge or freezer", sparing=Sparing.ICE_AT_NIGHT, cools=True, words=_COOLING),
    LoadKind(id="internet", name="internet", sparing=Sparing.OFF_AT_NIGHT),
    LoadKind(id="lights", name="lights, pump", sparing=Sparing.HALF_AS_LONG),
    LoadKind(id="heating", name="heater's fan or pump", sparing=Sparing.HALF_AS_LONG, heats=True),
    LoadKind(id="devices", name="phones, laptops", sparing=Sparing.HALF_AS_LONG),
    LoadKind(id="other", name="something else", sparing=Sparing.HALF_AS_LONG),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualLoad:
    """A load that most rigs have, until somebody says otherwise (common practice).

    ``each_person``: its watts are each person's; ``with_heater``: only where a heater burns something;
    ``unless_burnt``: the appliance that does the same by gas.
    """

    id: str
    name: str
    kind: str
    watts: float
    hours_per_day: float
    when: When = When.ANY
    each_person: bool = False
    with_heater: bool = False
    unless_burnt: str = ""


USUAL_LOADS = (
    UsualLoad(id="fridge", name="Fridge", kind="fridge", watts=45.0, hours_per_day=9.0, unless_burnt="fridge"),
    UsualLoad(id="lights", name="Lights and pump", kind="lights", watts=20.0, hours_per_day=4.0, when=When.NIGHT),
    UsualLoad(
        id="chargers", name="Phones and laptops", kind="devices", watts=40.0, hours_per_day=3.0, each_person=True
    ),
    UsualLoad(
        id="heater-fan",
        name="Heater fan",
        kind="heating",
        watts=25.0,
        hours_per_day=5.0,
        when=When.NIGHT,
        with_heater=True,
    ),
)

LOAD_KINDS: dict[str, LoadKind] = LoadKind.table
LOAD_KINDS.update({row.id: row for row in _LOADS})
