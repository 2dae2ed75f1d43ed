"""What each lever on water cuts: a share of the litres of some activities, or how often they are done."""

from collections.abc import Mapping

from lodeline.core.figures import Levers

# By lever and activity: the share that is spared, 1 where it is not done at all; None: it is done once a day at most.
CUTS: Mapping[str, Mapping[str, float | None]] = {
    "wipe-plates": {"dishes": Levers.wipe_spares},
    "navy-showers": {"shower": Levers.navy_spares},
    "laundry-ashore": {"laundry": 1.0},
    "flush-less": {"flush": Levers.flush_spares},
    "dishes-once": {"dishes": None, "wiped": None},
    "showers-ashore": {"shower": 1.0, "navy": 1.0},
    "skip-showers": {"shower": 1.0, "navy": 1.0},
    "no-cleaning": {"cleaning": 1.0},
    "wash-less": {"hands": Levers.wash_spares},
}
