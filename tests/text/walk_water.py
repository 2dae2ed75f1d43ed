"""Every sentence about water and waste."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import date, timedelta

from lodeline.core.acts import acts
from lodeline.core.catalogue import ACTIVITIES, System
from lodeline.core.conditions import Conditions
from lodeline.core.levers.lever import Aboard
from lodeline.core.levers.sparing import SparedDays
from lodeline.core.levers.water import water_levers
from lodeline.core.log import Event
from lodeline.core.rig import WaterGear
from lodeline.core.statistics import Range
from lodeline.core.water.balance import Reason, UseThen, Went, balance
from lodeline.core.water.care import Care, Due
from lodeline.core.water.frost import frost
from lodeline.core.water.hot import hot_water
from lodeline.core.water.jugs import by_hose, carried_l, in_jugs, on_foot
from lodeline.core.water.learned import Told, amounts
from lodeline.core.water.ration import Floor, ration
from lodeline.core.water.spans import Estimate
from lodeline.core.water.toilets import Fouled, toilets
from lodeline.text import aboard_water, horizon, water
from lodeline.text import acts as act_words
from lodeline.text import ration as ration_words
from lodeline.text import round as round_words
from lodeline.text.display import Display
from tests.builders import at, forecast, known_at
from tests.water import CASSETTE, DRAIN, NOW, TANK, a_water_rig, ahead_of, known, lived, with_events

GEAR = WaterGear(heater_l=10.0, heater_w=800.0, filter_l=900.0)
LOG = with_events(lived(days=12), *(Event(at(n, 9), "dump", "cassette") for n in range(1, 12, 2)))
THEN = at(12, 7)


def of_water(system: System, shown: Display) -> Iterator[str]:
    """The sentences of a rig with a tank, a drain, a cassette and jugs."""
    rig = a_water_rig(
        replace(TANK, outside=True),
        replace(DRAIN, reserve=20.0, reserve_counts=True),
        replace(CASSETTE, reserve=19.0),
        units=system,
        water=GEAR,
    )
    tracked = known(rig, LOG)
    ahead = forecast(rig, LOG, (), NOW, tracked=tracked)
    learned = amounts(rig, tracked["fresh"])
    for spared in (None, *_spared(rig, tracked)):
        yield from _said(water.headline(rig, ahead, spared, shown))
    yield from _said(water.headline(rig, forecast(rig, replace(LOG, days=()), (), NOW), None, shown))
    yield water.binding(rig, ahead) or ""
    yield water.binding(replace(rig, stores=(rig.stores[0], replace(DRAIN, capacity=900.0))), ahead) or ""
    yield from (water.today(12.0, 24.0, each, shown) for each in (None, 18.0))
    yield from _of_balance(rig, tracked, learned, shown)
    yield from _of_uses(learned, shown)
    yield from (water.floors(2, shown), water.hot(hot_water(rig), shown), water.drained(at(3), shown))
    weeks = tuple(UseThen(first=date(2026, 6, 1 + 7 * n), days=7, per_person=15.0 - 2 * n) for n in range(3))
    yield from (water.trend(each, shown) for each in (weeks, weeks[:1], (weeks[0], weeks[0])))
    yield from (
        words
        for months in (True, False)
        for words in (water.stretch(weeks[0], months, shown), water.stretch_short(weeks[0], months))
    )
    yield from _of_ration(rig, tracked, learned, shown)
    yield from _of_aboard(rig, tracked, ahead, shown)
    yield from (act_words.label(rig, act) + (act_words.question(rig, act, shown) or "") for act in acts(rig))
    carried = Event(at(2), "move", source="reserve", target="outside", store="grey", amount=9.0)
    for event in (carried, Event(at(2), "navy", count=2, amount=11.0), Event(at(2), "filter"), Event(at(2), "drain")):
        yield round_words.event(rig, event, shown)
    yield from horizon.chores(ahead, shown)
    yield horizon.deadline(DRAIN, ahead.of("grey"), ahead, shown)


def _said(sentence: horizon.Sentence) -> tuple[str, str]:
    return sentence.headline, sentence.detail


def _of_balance(rig, tracked, learned, shown) -> Iterator[str]:
    found = balance(rig, LOG, tracked, learned, NOW - timedelta(days=5), NOW)
    open_ = replace(found, closes=False, reasons=tuple(Reason))
    for each in (found, open_, replace(open_, apart=Estimate(-9.0, 0.01))):
        yield from (water.balance_words(each, shown), water.closes(each, shown), water.apart(each, shown) or "")
        yield water.moved(each, shown)
    yield from (water.part_name(replace(found.parts[0], went=went, store=None)) for went in Went)
    yield from (water.part_name(part) for part in found.parts)


def _of_uses(learned, shown) -> Iterator[str]:
    yield from (water.often(n) for n in (0.0, 0.1, 1 / 7, 0.3, 1 / 3, 0.5, 0.8, 1.0, 2.0, 3.4))
    for each in learned:
        yield from (water.activity(each), water.how_often(each), water.each_words(each, shown))
        for told in Told:
            yield water.told(replace(each, told=told, alike=(ACTIVITIES["dishes"],)), shown)
    yield water.cannot_tell(learned) or ""
    yield water.cannot_tell((replace(learned[0], told=Told.ALIKE, alike=(ACTIVITIES["navy"],)),)) or ""
    yield water.cannot_tell(()) or "-"


def _spared(rig, tracked) -> Iterator[SparedDays]:
    aboard = Aboard(known=known_at(rig, LOG, NOW, tracked), ahead=ahead_of(rig, tracked))
    levers = tuple(water_levers(aboard))
    yield SparedDays(days=9.0, levers=levers)
    yield SparedDays(days=None, levers=levers[:1])


def _of_ration(rig, tracked, learned, shown) -> Iterator[str]:
    ahead = ahead_of(rig, tracked, 9)
    for days, sure in ((2, 0.9), (9, 0.85)):
        until = NOW.date() + timedelta(days=days)
        found = ration(known_at(rig, LOG, NOW, tracked), ahead, learned, until, 10.0, sure, 2.0)
        for each in (found, replace(found, left_today_l=0.0), replace(found, usual_l=1.0)):
            yield from (ration_words.headline(each, shown), ration_words.left(each, shown), ration_words.binds(each))
            yield ration_words.agreed(each, shown)
        yield from (ration_words.floor(replace(found, floor=floor), shown) or "" for floor in (None, *Floor))
        shower = replace(found.allowed[0], activity=ACTIVITIES["shower"], per_day=0.3, dates=(until,), instead=True)
        lines = (
            *found.allowed,
            shower,
            replace(shower, each_on_a_date=2),
            replace(shower, per_day=0.0),
            replace(shower, per_day=0.01, dates=()),
        )
        yield from ration_words.allows(replace(found, allowed=lines), shown)


def _of_aboard(rig, tracked, ahead, shown) -> Iterator[str]:
    held = in_jugs(rig, with_events(LOG, Event(at(2), "move", source="jug-1", target="fresh", amount=10.0)))
    yield from (aboard_water.jug(each, shown) for each in held)
    yield aboard_water.jug(
        replace(held[1], jug=replace(held[1].jug, where="in the boot", drinkable=False), litres=4.0), shown
    )
    for last in (None, at(2)):
        yield aboard_water.carried(carried_l(held), ahead.of("fresh"), last, ahead, shown)
    for filling, left in ((by_hose(80.0, None), None), (by_hose(80.0, 6.0), -12.0), (on_foot(rig, 40.0, 0.4), 90.0)):
        yield aboard_water.filling(filling, TANK, left, shown)
    yield aboard_water.fetching(on_foot(rig, 20.0, 0.3), "the church tap", shown)
    for care in Care:
        for share, done in ((0.2, False), (1.3, True)):
            each = Due(
                care=care,
                share=share,
                days=33.0,
                done=done,
                litres=700.0,
                due_on=at(9).date(),
                place="Pond",
                store=DRAIN,
            )
            yield aboard_water.due(each, shown)
    yield from (aboard_water.did(event) or "" for event in (None, "filter"))
    for low in (-1.0, -9.0):
        days = [
            Conditions(date=(NOW + timedelta(days=n)).date(), mean_c=low + 5, min_c=low, air_sd_c=1.5) for n in (0, 1)
        ]
        yield from aboard_water.frost(frost(rig, days, 2), NOW, shown)
    yield from aboard_water.frost((), NOW, shown)
    for left in toilets(rig, tracked, ahead):
        for toilet in (left, replace(left, p50_days=0.0), replace(left, uses=Range(1.0, 1.0, 1.0), p50_days=None)):
            yield from (aboard_water.toilet(toilet, ahead, shown), aboard_water.guest(toilet, shown) or "")
    foul = Fouled(store=DRAIN, dumped_at=at(1), dump_key=1, read_at=at(1, 22), shown=0.33)
    yield from (aboard_water.fouled(foul, shown), aboard_water.read_with_floor(foul), aboard_water.was_left(foul))
    yield from (aboard_water.supply(each, ahead, shown) for each in ahead.stores)
    yield aboard_water.supply(replace(ahead.stores[0], known=False), ahead, shown)
    yield from (aboard_water.habits_of(each) for each in (rig, replace(rig, habits=())))
