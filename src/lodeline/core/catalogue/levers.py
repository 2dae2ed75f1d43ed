"""What a crew can do to stay longer, what each does, and how hard it is until the crew says otherwise (common
practice)."""

from collections.abc import Mapping
from dataclasses import field
from typing import Any, ClassVar

from lodeline.core.catalogue.row import Row
from lodeline.core.catalogue.terms import Caution
from lodeline.core.figures import Heat, Levers
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Milder:
    """Ways to ask less of the heating. ``down_c``: turned down; ``night_off``; ``loss``: what is left of the loss;
    ``warmer_c``: outside, as lower down; ``whole``: nothing is burnt at all."""

    down_c: float = 0.0
    night_off: bool = False
    loss: float = 1.0
    warmer_c: float = 0.0
    whole: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class LeverKind(Row):
    """A change of habit, an act, or a thing to be bought.

    ``name``: what is done, where ``{thing}`` is the load or store that it is done with, ``{apart}`` what is carried
    apart of it, ``{amount}`` how much, ``{where}`` at which place; ``short``: the same within a sentence, after *with*;
    ``amount`` and ``unit``: how much, where that is the same on every rig; ``brings``: what it gives is brought, not
    saved. ``hardship``: from 0, nobody minds, to 5; ``group``: of those with the same one only one is pulled at a time;
    ``once``: it is done once, not day by day; ``bought``: it cannot be had tonight.

    What it does: ``cuts``: by activity the share of its litres that is spared, 1 where it is not done at all, None
    where it is done once a day at most; ``milder``: what less is asked of the heating; ``runs``: the kind of source
    that is run for an hour a day. A load's way to be spared is named as its lever. What the others do stands in
    ``core.levers``.
    """

    table: ClassVar[dict[str, Any]] = {}

    name: str
    short: str
    hardship: int
    group: str = ""
    once: bool = False
    bought: bool = False
    brings: bool = False
    amount: float | None = None
    unit: str = ""
    cuts: Mapping[str, float | None] = field(default_factory=dict)
    milder: Milder | None = None
    runs: str = ""
    cautions: tuple[Caution, ...] = ()


_ROWS = (
    LeverKind(
        id="wipe-plates",
        name="Wipe plates before washing, or use paper ones",
        short="plates wiped first",
        hardship=1,
        cuts={"dishes": Levers.wipe_spares},
    ),
    LeverKind(
        id="navy-showers",
        name="Short showers: wet, water off, soap, rinse",
        short="navy showers",
        hardship=1,
        group="shower",
        cuts={"shower": Levers.navy_spares},
    ),
    LeverKind(id="laundry-ashore", name="Laundry ashore", short="laundry ashore", hardship=1, cuts={"laundry": 1.0}),
    LeverKind(
        id="flush-less", name="Flush less", short="less flushing", hardship=2, cuts={"flush": Levers.flush_spares}
    ),
    LeverKind(
        id="dishes-once",
        name="Wash up once a day",
        short="one wash-up a day",
        hardship=2,
        cuts={"dishes": None, "wiped": None},
    ),
    LeverKind(
        id="showers-ashore",
        name="Shower ashore",
        short="showers ashore",
        hardship=2,
        group="shower",
        cuts={"shower": 1.0, "navy": 1.0},
    ),
    LeverKind(
        id="skip-showers",
        name="No showers aboard",
        short="no showers",
        hardship=4,
        group="shower",
        cuts={"shower": 1.0, "navy": 1.0},
    ),
    LeverKind(id="no-cleaning", name="No cleaning with water", short="no cleaning", hardship=1, cuts={"cleaning": 1.0}),
    LeverKind(
        id="wash-less",
        name="Wash with a cloth and a bowl",
        short="a cloth and a bowl",
        hardship=3,
        cuts={"hands": Levers.wash_spares},
    ),
    LeverKind(
        id="ice-at-night",
        name="{thing} off at night, ice packs in it",
        short="{thing} off at night, ice packs in it",
        hardship=2,
    ),
    LeverKind(id="off-at-night", name="{thing} off at night", short="{thing} off at night", hardship=2),
    LeverKind(id="half-as-long", name="{thing} half as long", short="{thing} half as long", hardship=3),
    LeverKind(
        id="inverter-off",
        name="Inverter off while nothing runs on it",
        short="the inverter off while nothing runs on it",
        hardship=1,
    ),
    LeverKind(
        id="heater-down",
        name="Heating {amount} down",
        short="the heating {amount} down",
        hardship=2,
        amount=Heat.down_c,
        unit="degC difference",
        milder=Milder(down_c=Heat.down_c),
    ),
    LeverKind(
        id="heat-night-off",
        name="Heating off at night",
        short="the heating off at night",
        hardship=3,
        milder=Milder(night_off=True),
    ),
    LeverKind(
        id="heat-one-room",
        name="Heat one room, close off the rest",
        short="one room heated",
        hardship=2,
        milder=Milder(loss=1 - Heat.one_room_spares),
    ),
    LeverKind(
        id="heat-covers",
        name="Covers on the cab glass, curtains drawn",
        short="covers on the cab glass",
        hardship=1,
        milder=Milder(loss=1 - Heat.covers_spare),
    ),
    LeverKind(
        id="lower-ground",
        name="Stand {amount} lower",
        short="a place {amount} lower",
        hardship=3,
        amount=Heat.lower_m,
        unit="m",
        milder=Milder(warmer_c=Heat.lower_m * Heat.c_per_m),
    ),
    LeverKind(
        id="heat-hookup",
        name="Plug in and heat by mains",
        short="heating by mains",
        hardship=2,
        milder=Milder(whole=True),
        cautions=(Caution.MAINS,),
    ),
    LeverKind(id="oven-less", name="Cook without the oven", short="no oven", hardship=1),
    LeverKind(
        id="generator-hour",
        name="Generator for an hour a day",
        short="the generator for an hour a day",
        hardship=2,
        brings=True,
        runs="generator",
        cautions=(Caution.GENERATOR_OUTDOORS,),
    ),
    LeverKind(
        id="engine-hour",
        name="Engine for an hour a day",
        short="the engine for an hour a day",
        hardship=3,
        brings=True,
        runs="alternator",
    ),
    LeverKind(
        id="hookup-hour",
        name="Plugged in for an hour a day",
        short="an hour a day plugged in",
        hardship=2,
        brings=True,
        runs="shore",
        cautions=(Caution.MAINS,),
    ),
    LeverKind(id="into-sun", name="Move the panels or the rig into the sun", short="more sun", hardship=1, brings=True),
    LeverKind(
        id="pour-jug",
        name="Pour the reserve in, {amount}",
        short="the reserve poured in",
        hardship=1,
        once=True,
        brings=True,
    ),
    LeverKind(
        id="swap-bottle",
        name="Swap in the spare bottle",
        short="the spare bottle",
        hardship=0,
        once=True,
        brings=True,
        cautions=(Caution.GAS_INDOORS,),
    ),
    LeverKind(
        id="use-spare",
        name="Change {thing} for its {apart}",
        short="its {apart}",
        hardship=0,
        once=True,
        brings=True,
        cautions=(Caution.DUMP_ALLOWED,),
    ),
    LeverKind(
        id="run-over",
        name="Let {thing} run over into its {apart}",
        short="its {apart}",
        hardship=0,
        once=True,
        brings=True,
        cautions=(Caution.DUMP_ALLOWED,),
    ),
    LeverKind(
        id="carry-out",
        name="Empty the {thing} on foot{where}",
        short="the {thing} emptied on foot",
        hardship=2,
        once=True,
        cautions=(Caution.DUMP_ALLOWED,),
    ),
    LeverKind(
        id="jug-trip",
        name="Fetch a jug of {amount} a day{where}",
        short="a jug fetched each day",
        hardship=3,
        brings=True,
        cautions=(Caution.DRINKING_HOSE,),
    ),
    LeverKind(
        id="buy-panel",
        name="Another {amount} of panels",
        short="another {amount} of panels",
        hardship=5,
        bought=True,
        brings=True,
        unit="W",
        cautions=(Caution.LICENSED,),
    ),
    LeverKind(
        id="buy-bank",
        name="Another {amount} of bank",
        short="another {amount} of bank",
        hardship=5,
        bought=True,
        brings=True,
        unit="Ah",
        cautions=(Caution.LICENSED,),
    ),
    LeverKind(
        id="buy-jug", name="A jug more, {amount}", short="a jug more", hardship=5, once=True, bought=True, brings=True
    ),
    LeverKind(
        id="buy-bottle",
        name="A bigger bottle",
        short="a bigger bottle",
        hardship=5,
        once=True,
        bought=True,
        brings=True,
    ),
)

LEVER_KINDS: dict[str, LeverKind] = LeverKind.table
LEVER_KINDS.update({row.id: row for row in _ROWS})
