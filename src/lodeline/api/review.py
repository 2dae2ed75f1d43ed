"""Looking back: how the forecasts did."""

from statistics import mean

from django.http import HttpRequest
from ninja import Router, Schema

from lodeline.api.present import Eyes
from lodeline.api.who import rig_of
from lodeline.core.forecast.score import Outcome, Shown, held, spread_factor
from lodeline.logbook.services import review as kept
from lodeline.logbook.services.derived import derived

router = Router(tags=["review"])
_NOTICE = ((1, 0.0, 1.8), (3, 1.8, 4.5), (7, 4.5, 10.0))
_RECENT = 24


class NoticeOut(Schema):
    """How far off the days were at about so many days' notice, where the line was reached. [day]"""

    notice_days: int
    n: int
    off_days: float | None
    pencil_off_days: float | None


class StoreReview(Schema):
    store: str
    name: str
    kind: str
    shown: int
    still_open: int
    decided: int
    held: int
    widen: float


class Case(Schema):
    """One forecast and what came true, in days from when it was shown."""

    store: str
    name: str
    kind: str
    at: str
    p10: float | None
    p50: float | None
    p90: float | None
    outcome: str
    days: float
    held: bool | None


class ReviewOut(Schema):
    rig: str
    headline: str
    detail: str
    stores: list[StoreReview]
    notices: list[NoticeOut]
    recent: list[Case]


@router.get("/{rig_id}/review", response=ReviewOut, operation_id="review")
def review(request: HttpRequest, rig_id: str) -> ReviewOut:
    """How often the ranges held, and how far off the days were."""
    rig = rig_of(request, rig_id)
    found = derived(rig)
    kept.settle(rig, found.tracked, found.now)
    settled, still_open = kept.record(rig)
    eyes = Eyes(found.rig)
    everything = [pair for pairs in settled.values() for pair in pairs]
    decided = [each for pair in everything if (each := held(*pair)) is not None]
    stores = [_store(s.id, s.name, s.kind, settled.get(s.id, []), still_open.get(s.id, 0)) for s in found.rig.stores]
    names = {store.id: store for store in found.rig.stores}
    recent = sorted((pair for pair in everything if held(*pair) is not None), key=lambda pair: pair[0].at, reverse=True)
    headline, detail = _words(len(decided), sum(decided), sum(still_open.values()))
    return ReviewOut(
        rig=found.rig.name, headline=headline, detail=detail, stores=stores,
        notices=[_notice(n, everything) for n in _NOTICE],
        recent=[
            Case(
                store=shown.store, name=names[shown.store].name, kind=names[shown.store].kind, at=eyes.local(shown.at),
                p10=shown.p10_days, p50=shown.p50_days, p90=shown.p90_days, outcome=outcome.kind, days=outcome.days,
                held=held(shown, outcome),
            )
            for shown, outcome in recent[:_RECENT]
        ],
    )  # fmt: skip


def _words(decided: int, kept_: int, still_open: int) -> tuple[str, str]:
    waits = f"{still_open} more forecasts are still open."
    if decided < 5:
        return "Too little has come true to judge.", f"{decided} ranges are decided so far. {waits}"
    share = kept_ / decided * 10
    judged = "as they should" if 7 <= share <= 9 else "too narrow" if share < 7 else "wider than they need be"
    return (
        f"Of {decided} ranges whose end is known, {kept_} held: about {share:.0f} in 10.",
        f"8 in 10 should; these ranges are {judged}. {waits}",
    )


def _store(store: str, name: str, kind: str, pairs: kept.Record, still_open: int) -> StoreReview:
    decided = [each for pair in pairs if (each := held(*pair)) is not None]
    return StoreReview(
        store=store, name=name, kind=kind, shown=len(pairs) + still_open, still_open=still_open, decided=len(decided),
        held=sum(decided), widen=round(spread_factor(pairs), 3),
    )  # fmt: skip


def _notice(bucket: tuple[int, float, float], pairs: list[tuple[Shown, Outcome]]) -> NoticeOut:
    days, low, high = bucket
    reached = [(s, o) for s, o in pairs if o.kind == "reached" and low < o.days <= high]
    ours = [abs((s.p50_days if s.p50_days is not None else 14.0) - o.days) for s, o in reached]
    pencil = [abs(min(14.0, s.pencil_days) - o.days) for s, o in reached if s.pencil_days is not None]
    return NoticeOut(
        notice_days=days, n=len(ours), off_days=round(mean(ours), 2) if ours else None,
        pencil_off_days=round(mean(pencil), 2) if pencil else None,
    )  # fmt: skip
