"""What a crew can do to stay longer, and how hard each is until the crew says otherwise (common practice)."""

from dataclasses import dataclass
from typing import Any, ClassVar

from lodeline.core.catalogue.row import Row
from lodeline.core.catalogue.terms import Caution


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class LeverKind(Row):
    """A change of habit, an act, or a thing to be bought.

    ``hardship``: from 0, nobody minds, to 5; ``group``: of those with the same one only one is pulled at a time;
    ``once``: it is done once, not day by day; ``bought``: it cannot be had tonight.
    """

    table: ClassVar[dict[str, Any]] = {}

    hardship: int
    group: str = ""
    once: bool = False
    bought: bool = False
    cautions: tuple[Caution, ...] = ()


_ROWS = (
    LeverKind(id="navy-showers", hardship=1, group="shower"),
    LeverKind(id="showers-ashore", hardship=2, group="shower"),
    LeverKind(id="skip-showers", hardship=4, group="shower"),
    LeverKind(id="wipe-plates", hardship=1),
    LeverKind(id="dishes-once", hardship=2),
    LeverKind(id="wash-less", hardship=3),
    LeverKind(id="no-cleaning", hardship=1),
    LeverKind(id="laundry-ashore", hardship=1),
    LeverKind(id="flush-less", hardship=2),
    LeverKind(id="ice-at-night", hardship=2),
    LeverKind(id="off-at-night", hardship=2),
    LeverKind(id="half-as-long", hardship=3),
    LeverKind(id="inverter-off", hardship=1),
    LeverKind(id="heater-down", hardship=2),
    LeverKind(id="heat-night-off", hardship=3),
    LeverKind(id="heat-one-room", hardship=2),
    LeverKind(id="heat-covers", hardship=1),
    LeverKind(id="oven-less", hardship=1),
    LeverKind(id="heat-hookup", hardship=2, cautions=(Caution.MAINS,)),
    LeverKind(id="lower-ground", hardship=3),
    LeverKind(id="generator-hour", hardship=2, cautions=(Caution.GENERATOR_OUTDOORS,)),
    LeverKind(id="engine-hour", hardship=3),
    LeverKind(id="hookup-hour", hardship=2, cautions=(Caution.MAINS,)),
    LeverKind(id="pour-jug", hardship=1, once=True),
    LeverKind(id="swap-bottle", hardship=0, once=True, cautions=(Caution.GAS_INDOORS,)),
    LeverKind(id="use-spare", hardship=0, once=True, cautions=(Caution.DUMP_ALLOWED,)),
    LeverKind(id="carry-out", hardship=2, once=True, cautions=(Caution.DUMP_ALLOWED,)),
    LeverKind(id="jug-trip", hardship=3, cautions=(Caution.DRINKING_HOSE,)),
    LeverKind(id="into-sun", hardship=1),
    LeverKind(id="buy-panel", hardship=5, bought=True, cautions=(Caution.LICENSED,)),
    LeverKind(id="buy-bank", hardship=5, bought=True, cautions=(Caution.LICENSED,)),
    LeverKind(id="buy-jug", hardship=5, once=True, bought=True),
    LeverKind(id="buy-bottle", hardship=5, once=True, bought=True),
)

LEVER_KINDS: dict[str, LeverKind] = LeverKind.table
LEVER_KINDS.update({row.id: row for row in _ROWS})
