"""What is kept of forecasts and receipts stays bounded, and keeps what Looking back and doubles need."""

from datetime import UTC, datetime, timedelta
from uuid import uuid4

from lodeline.logbook import clock
from lodeline.logbook import models as m
from lodeline.logbook.services import derived, issued


def test_of_settled_forecasts_the_last_of_a_day_stays_and_after_a_year_of_a_week(rig):
    store, now = m.Store.objects.filter(rig=rig).first(), clock.now()

    def shown(at: datetime, settled: bool = True) -> int:
        outcome = {"outcome": "beyond", "outcome_days": 14.0, "seen": []} if settled else {}
        return m.IssuedForecast.objects.create(store=store, hour=at, at=at, levels=[], **outcome).pk

    noon = now.astimezone(UTC).replace(hour=12, minute=0, second=0, microsecond=0)
    month = [shown(noon - timedelta(days=30, hours=back)) for back in (2, 1, 0)]
    open_ = [shown(noon - timedelta(days=1, hours=back), settled=False) for back in (1, 0)]
    monday = noon - timedelta(days=500)
    monday -= timedelta(days=monday.weekday())
    week = [shown(monday + timedelta(days=day)) for day in range(7)]
    old, young = (
        m.Receipt.objects.create(rig=rig, sent=uuid4(), at=now - timedelta(days=days), digest="", kind="day")
        for days in (366, 364)
    )
    known = derived.derived(rig)
    before = {id: each.settled for id, each in issued_record(rig, known).items()}
    issued.keep(rig, known.forecast, known.tracked, known.log)
    left = set(m.IssuedForecast.objects.filter(at__lt=now).values_list("pk", flat=True))
    assert left & {*month, *open_, *week} == {month[-1], *open_, week[-1]}
    assert not m.Receipt.objects.filter(pk=old.pk).exists()
    assert m.Receipt.objects.filter(pk=young.pk).exists()
    # what Looking back shows of the last year is what it showed
    after = {id: each.settled for id, each in issued_record(rig, known).items()}
    assert [each for each, _ in after[store.slug]][-2:] == [each for each, _ in before[store.slug]][-2:]


def issued_record(rig, known):
    from lodeline.core.forecast.record import record

    return record(issued.shown(rig), known.tracked, known.now, known.log)
