"""Acts as buttons: the same in every view that offers them."""

from collections.abc import Callable

from lodeline.api.out import Out
from lodeline.core.acts import Act, Stands, acts, done_most
from lodeline.core.catalogue import Effect
from lodeline.logbook.services.derived import Levels
from lodeline.text import acts as text
from lodeline.text.display import Display

_AMOUNT_DIGITS = 2


class ActOut(Out):
    """A button. ``asks``: what its amount is, or nothing; ``question``: how that is asked; ``whole``: the amount that
    one touch logs, null where a fill is to the brim.

    ``rare``: it is seldom done; ``often``: it is one of the few that are needed most; ``measured``: how it is asked
    what water all of them took; ``far``: the unit of the way that may be given in place of hours.
    """

    label: str
    type: str
    store: str | None
    asks: str
    unit: str | None
    question: str | None
    needs_amount: bool
    source: str | None = None
    target: str | None = None
    rare: bool | None = None
    often: bool | None = None
    measured: str | None = None
    far: str | None = None
    whole: float | None = None


def acts_out(known: Levels, display: Display, wanted: Callable[[Act], bool] = lambda act: True) -> list[ActOut]:
    """The acts of a rig as things stand, those that are wanted."""
    aboard = Stands.of(known.rig, known.log, known.tracked)
    offered = [each for each in acts(known.rig, aboard) if wanted(each)]
    most = done_most(offered, known.log)
    return [act_out(known, each, display, often=each in most) for each in offered]


def act_out(known: Levels, act: Act, display: Display, *, often: bool = False) -> ActOut:
    """An act as a button."""
    return ActOut(
        label=text.label(known.rig, act),
        type=act.type,
        asks=act.asks,
        store=act.store.id if act.store is not None and act.names_store else None,
        unit=display.unit(act.unit).unit if act.unit else None,
        question=text.question(known.rig, act, display),
        needs_amount=act.needs_amount,
        source=act.source,
        target=act.target,
        rare=act.rare,
        often=often,
        measured=text.measured(act, display),
        far=display.unit("km").unit if act.row.effect is Effect.DRIVE else None,
        whole=display.value(act.whole, act.unit, _AMOUNT_DIGITS) if act.whole is not None and act.unit else None,
    )
