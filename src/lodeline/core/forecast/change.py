"""What may be changed about the days ahead of one store: by a lever that is tried out or agreed."""

from collections.abc import Iterable
from dataclasses import replace
from functools import reduce

from lodeline.core.rig import Store
from lodeline.core.statistics import Floats
from lodeline.core.values import dataclass


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Change:
    """A change of one store's coming days; what is None stays as it is.

    ``less``: the share of each driver's use that is spared on each date, shape (n_dates, k); ``brought``: what is
    brought back on each date, at most what is used, shape (n_dates,); ``room``: what comes on top once, as a jug does.
    ``flow``: what else goes in (+) or out (-) in each hour of each date, shape (n_dates, 24).
    Of a bank: ``audit``: what the list of loads draws more or less in each day hour, shape (n_dates, 24); ``sun``: what
    a clear sky yields more, same shape; ``push``: other charging, and ``draw``: what is drawn on top. [Ah]
    ``store``: the store as it then would be, of another size.
    """

    less: Floats | None = None
    brought: Floats | None = None
    room: float = 0.0
    flow: Floats | None = None
    audit: Floats | None = None
    sun: Floats | None = None
    push: Floats | None = None
    draw: Floats | None = None
    store: Store | None = None


NO_CHANGE = Change()


def _sum(a: Floats | None, b: Floats | None) -> Floats | None:
    return b if a is None else a if b is None else a + b


def _both(a: Change, b: Change) -> Change:
    return Change(
        less=_sum(a.less, b.less),
        brought=_sum(a.brought, b.brought),
        room=a.room + b.room,
        flow=_sum(a.flow, b.flow),
        audit=_sum(a.audit, b.audit),
        sun=_sum(a.sun, b.sun),
        push=_sum(a.push, b.push),
        draw=_sum(a.draw, b.draw),
        store=b.store or a.store,
    )


def together(changes: Iterable[Change]) -> Change:
    """Several changes at once: what they spare adds up."""
    return reduce(_both, changes, NO_CHANGE)


def within(change: Change, in_force: Floats) -> Change:
    """A change on some dates alone. ``in_force``: 1 where it holds, 0 where not, shape (n_dates,)."""
    rows = in_force[:, None]
    held = {
        name: value * rows
        for name in ("less", "flow", "audit", "sun", "push", "draw")
        if (value := getattr(change, name)) is not None
    }
    brought = None if change.brought is None else change.brought * in_force
    return replace(change, **held, brought=brought)
