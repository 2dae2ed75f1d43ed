"""Looking back: how the forecasts did."""

from datetime import timedelta

from django.http import HttpRequest
from ninja import Router

from lodeline.api.moments import Moment, moment
from lodeline.api.out import Out
from lodeline.api.who import display_of, rig_of
from lodeline.core.forecast.record import StoreRecord
from lodeline.core.forecast.record import record as record_of
from lodeline.core.forecast.score import Issued, Outcome, by_notice, held, summed
from lodeline.core.forecast.seen import Seen, by_notice_seen
from lodeline.core.ledger import ledger
from lodeline.core.levers.kept import how_kept
from lodeline.core.rig import Store
from lodeline.logbook.models import Rig
from lodeline.logbook.services import issued, wishes
from lodeline.logbook.services.derived import Derived, derived
from lodeline.text import levers as lever_text
from lodeline.text import review as text
from lodeline.text.display import Display

router = Router(tags=["review"])
_RECENT = 24
_AGREED_DAYS = 60
_DOTS, _PLACE_DIGITS = 120, 3


class NoticeOut(Out):
    """How far off the days were at about so many days' notice, where the line was reached."""

    notice: str
    n: int
    off: str
    baseline_off: str


class SeenOut(Out):
    """Readings at one notice: how many lay in the range of 8 in 10, how many should have."""

    notice: str
    n: int
    held: int
    should: int
    words: str


class SeenDot(Out):
    """A reading against a forecast of ``days`` before: where it lay, 0 under all that was expected, 1 over it."""

    days: int
    place: float
    held: bool


class StoreReview(Out):
    """A store's record. ``dots``: its readings; ``words`` says what they show."""

    store: str
    name: str
    hue: str
    shown: int
    decided: int
    held: str
    spread: str
    seen: list[SeenOut]
    dots: list[SeenDot]
    words: str


class Case(Out):
    """One forecast and what came true, in days from when it was shown."""

    store: str
    name: str
    hue: str
    at: Moment
    p10: float | None
    p50: float | None
    p90: float | None
    days: float
    held: bool | None
    words: str


class ReviewOut(Out):
    rig: str
    headline: str
    detail: str
    horizon_days: int
    seen: list[SeenOut]
    stores: list[StoreReview]
    notices: list[NoticeOut]
    agreed: list[str]
    recent: list[Case]


@router.get("/{rig_id}/review", response=ReviewOut, operation_id="review")
def review(request: HttpRequest, rig_id: str) -> ReviewOut:
    """How often the ranges held, and how far off the days were."""
    rig, display = rig_of(request, rig_id), display_of(request)
    known = derived(rig)
    records = record_of(issued.shown(rig), known.tracked, known.now, known.log)
    stores = {store.id: store for store in known.rig.stores}
    everything = [pair for id, record in records.items() if id in stores for pair in record.settled]
    every_seen = [one for id, record in records.items() if id in stores for one in record.seen]
    lines = summed(everything, sum(record.still_open for record in records.values()))
    sentence = text.headline(by_notice_seen(every_seen), lines)
    settled = (pair for pair in everything if held(*pair) is not None)
    recent = sorted(settled, key=lambda pair: pair[0].at, reverse=True)
    return ReviewOut(
        rig=known.rig.name,
        headline=sentence.headline,
        detail=sentence.detail,
        horizon_days=known.forecast.horizon_days,
        seen=_seen(every_seen),
        stores=[
            _store(store, records.get(store.id, StoreRecord()), known.scale_of(store.id)) for store in stores.values()
        ],
        notices=[
            NoticeOut(
                notice=text.notice(each),
                n=each.n,
                off=text.off(each.off_days),
                baseline_off=text.off(each.baseline_off_days),
            )
            for each in by_notice(everything)
        ],
        agreed=_agreed(rig, known, display),
        recent=[_case(stores[each.store], each, outcome, display) for each, outcome in recent[:_RECENT]],
    )


def _agreed(rig: Rig, known: Derived, display: Display) -> list[str]:
    """What was agreed on of late, whether it was kept and what it brought."""
    today = known.rig.zone.date(known.now)
    made = wishes.agreements(rig, today - timedelta(days=_AGREED_DAYS))
    rows = ledger(known.tracked, known.rig.zone) if made else {}
    return [
        lever_text.how_kept(each.words, how_kept(each.agreed, each.expected, rows, today), display)
        for each in reversed(made)
    ]


def _store(store: Store, record: StoreRecord, scale: float) -> StoreReview:
    counts = summed(record.settled, record.still_open)
    return StoreReview(
        store=store.id,
        name=store.name,
        hue=store.kind.hue,
        shown=record.shown,
        decided=counts.decided,
        held=text.held_of(counts),
        spread=text.spread(scale),
        seen=_seen(record.seen),
        dots=[
            SeenDot(days=e.notice_days, place=round(e.pit, _PLACE_DIGITS), held=e.held) for e in record.seen[-_DOTS:]
        ],
        words=text.seen_words(by_notice_seen(record.seen)),
    )


def _seen(record: list[Seen]) -> list[SeenOut]:
    return [
        SeenOut(notice=text.notice_of(e.notice_days), n=e.n, held=e.held, should=e.should, words=text.seen(e))
        for e in by_notice_seen(record)
    ]


def _case(store: Store, issued: Issued, outcome: Outcome, display: Display) -> Case:
    return Case(
        store=store.id,
        name=store.name,
        hue=store.kind.hue,
        at=moment(issued.at, display),
        p10=issued.p10_days,
        p50=issued.p50_days,
        p90=issued.p90_days,
        days=outcome.days,
        held=held(issued, outcome),
        words=text.case(issued, outcome),
    )
