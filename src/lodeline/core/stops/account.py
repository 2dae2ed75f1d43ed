"""What a plan that was found means: its outings with what is done where and why, and the stores if it is followed."""

from collections.abc import Collection, Iterator, Mapping, Sequence
from datetime import datetime, timedelta

import numpy as np

from lodeline.core.book import Service, act_of
from lodeline.core.figures import Forecasting, Numeric, Stops
from lodeline.core.forecast.forecast import Band, quantiles
from lodeline.core.rig import Store
from lodeline.core.statistics import P10, P50, P90, Floats
from lodeline.core.stops.chance import NOW, BankChance, Chance
from lodeline.core.stops.opening import is_open
from lodeline.core.stops.outings import Call, Outing
from lodeline.core.stops.plan import PlannedLane, PlannedOuting, Stop, StopWork, WhyServed
from lodeline.core.stops.routes import Route, Routes, km_driven
from lodeline.core.stops.search import Found
from lodeline.core.stops.setting import act_minutes, flat_price, is_waste, price_of
from lodeline.core.values import dataclass
from lodeline.core.zone import HOURS, MIN_PER_H

# The order in which acts are done: as the services stand in the catalogue, toilet waste before grey water before fresh.
_ORDER = ("black", "grey", "solids", "water", "gas", "fuel", "supplies", "hookup", "laundry", "shower")


@dataclass(frozen=True, kw_only=True)
class Account:
    """What is said of plans."""

    routes: Routes

    @property
    def chance(self) -> Chance:
        """How each store may fare."""
        return self.routes.chance

    def outings(self, found: Found) -> tuple[PlannedOuting, ...]:
        """The outings of a plan."""
        ahead, setting = self.chance.joint.ahead, self.routes.setting
        made, part = [], self.routes.start()
        for n, outing in enumerate(found.outings):
            why = self._reasons(found, n, part)
            stops = tuple(self._stops(found.outings, n, part, why))
            part = self.routes.add(part, outing)
            origin, to = setting.ends(outing.leave_h)
            made.append(
                PlannedOuting(
                    leave=ahead.at(outing.leave_h),
                    back=None if outing.moves else ahead.at(outing.end_h),
                    stops=stops,
                    km=outing.km,
                    back_km=0.0 if outing.moves else outing.legs[-1][1],
                    cost=sum(each.cost for each in stops) + outing.km * setting.km_price,
                    on_the_way=origin is not to,
                    is_fixed=outing.is_fixed,
                )
            )
        return tuple(made)

    def _reasons(self, found: Found, n: int, part: Route) -> dict[str, WhyServed]:
        """The stores of an outing that made it necessary: those due, and those without which more is lost."""
        outing, lost = found.outings[n], found.lost.bit_count()
        served = [id for id in self.routes.stores if id in outing.at or (outing.plug and id in self.chance.banks)]
        since = dict(zip(self.routes.stores, part.since, strict=True))
        first = [id for id in served if since[id] == NOW and self.chance.every[id].is_due]
        more = {
            id: self.routes.lost(found.outings, without=(n, id)).bit_count() - lost for id in served if id not in first
        }
        needed = [id for id, paths in more.items() if paths >= Stops.stop_saves * self.chance.n_paths]
        if not first and not needed and more and not outing.is_fixed:
            needed = [max(more, key=lambda id: more[id])]
        # each place of the outing has a reason of its own
        for visit in outing.visits:
            mine = visit.stores | (frozenset(self.chance.banks) if visit.plug else frozenset())
            if not outing.is_fixed and not mine & {*first, *needed} and (able := mine & more.keys()):
                needed.append(max(able, key=lambda id: more[id]))
        return {id: self.reason(id, since[id]) for id in (*first, *needed)}

    def reason(self, id: str, since_h: float = NOW) -> WhyServed:
        """When a store would pass its line after its last service, or from now on."""
        each, ahead = self.chance.every[id], self.chance.joint.ahead
        if isinstance(each, BankChance):
            times = each.first_after(None if since_h == NOW else self.routes.night(since_h))
        else:
            times = each.when_passed(since_h, self.chance.end_h)
        due = since_h == NOW and each.is_due
        share = float(np.isfinite(times).mean())
        ordered = np.sort(times)

        def at(p: float) -> datetime | None:
            hours = ordered[min(len(ordered) - 1, int(p * len(ordered)))]
            return ahead.at(float(hours)) if np.isfinite(hours) else None

        return WhyServed(store=each.store, due=due, p=share, p10=at(P10), p50=at(P50), p90=at(P90))

    def _stops(self, chosen: Sequence[Outing], n: int, part: Route, why: Mapping[str, WhyServed]) -> Iterator[Stop]:
        ahead, outing, setting = self.chance.joint.ahead, chosen[n], self.routes.setting
        left_h = outing.leave_h
        for visit, (_, km) in zip(outing.visits, outing.legs, strict=False):
            acts = tuple(sorted(self._acts(chosen[: n + 1], visit, part, why), key=_order))
            minutes = sum(each.minutes for each in acts)
            local = setting.local(visit.arrive_h)
            done_h = visit.depart_h if visit.plug else visit.arrive_h + minutes / MIN_PER_H
            mine = [each.store.id for each in acts]
            yield Stop(
                open_then=is_open(visit.spot, local, local if visit.plug else local + timedelta(minutes=minutes)),
                spot=visit.spot,
                outing=n,
                leave=ahead.at(left_h),
                arrive=ahead.at(visit.arrive_h),
                depart=ahead.at(done_h),
                minutes=minutes,
                km=km,
                cost=(visit.spot.fee or 0.0) + sum(each.cost for each in acts),
                acts=acts,
                is_fixed=outing.is_fixed,
                stores=visit.stores,
                plug=visit.plug,
                reasons=tuple(why[id] for id in mine if id in why),
            )
            left_h = visit.depart_h

    def _acts(
        self, chosen: Sequence[Outing], visit: Call, part: Route, why: Mapping[str, WhyServed]
    ) -> Iterator[StopWork]:
        since = dict(zip(self.routes.stores, part.since, strict=True))
        for store in self.chance.rig.stores:
            service = visit.spot.service_for(store)
            if service is None:
                continue
            if store.id in visit.stores:
                at_h, since_h = chosen[-1].at[store.id], since.get(store.id, NOW)
                if not self.routes.takes(store.id, chosen, since_h, at_h):
                    continue
                contents = self._contents(chosen, store.id, since_h, at_h)
                most = self._carried(chosen, part, store)
                amount = self.chance.plain[store.id].to_do(contents)
                if not is_waste(store):
                    amount = np.minimum(amount, np.maximum(most - contents, 0.0))
                act = _act(store, service, amount, most)
                if store.id in why or service.is_paid or act.p90 > Stops.worth_share * store.capacity:
                    yield act
            elif store.is_bank and visit.plug:
                level = self._bank_at(chosen[:-1], store.id, visit.arrive_h)
                yield _act(store, service, store.capacity - level, store.capacity)

    def _carried(self, chosen: Sequence[Outing], part: Route, store: Store) -> float:
        """What a store may hold so that all aboard is within the payload, once what the outing does is done. [unit]"""
        rig, outing = self.chance.rig, chosen[-1]
        if is_waste(store) or rig.payload_kg is None or store.kg_per_unit <= 0:
            return store.capacity
        since, others = dict(zip(self.routes.stores, part.since, strict=True)), 0.0
        for id, each in self.chance.plain.items():
            if id != store.id:
                served = each.filled_to if id in outing.at else None
                now = float(self._contents(chosen, id, since.get(id, NOW), outing.at[store.id]).mean())
                others += (now if served is None else served) * each.store.kg_per_unit
        return float(np.clip((rig.payload_kg - others) / store.kg_per_unit, 0.0, store.capacity))

    def _contents(self, chosen: Sequence[Outing], store: str, since_h: float, at_h: float) -> Floats:
        each = self.chance.plain[store]
        km = km_driven(chosen, since_h, at_h) if each.km_l is not None else 0.0
        return each.contents(since_h, at_h, km)

    def _bank_at(self, chosen: Sequence[Outing], store: str, at_h: float) -> Floats:
        hourly = self.chance.banks[store].hourly(self.routes.pushes(chosen))
        level: Floats = hourly[min(max(0, int(at_h)), len(hourly) - 1)].astype(float)
        return level

    def lanes(self, chosen: Sequence[Outing], only: Collection[str] | None = None) -> Iterator[PlannedLane]:
        """Contents at each midnight, and before and after each service. ``only``: of these stores."""
        ahead = self.chance.joint.ahead
        midnights = [HOURS * (i + 1) - ahead.hour for i in range(ahead.n_days)]
        served = self._services(chosen)
        for store, each in self.chance.plain.items():
            if only is not None and store not in only:
                continue
            bands, since = [self._band(0.0, self._contents(chosen, store, NOW, 0.0))], NOW
            mine = served.get(store, {})
            for at in sorted({*(h for h in midnights if h <= self.chance.end_h), *mine}):
                bands.append(self._band(mine.get(at, at), self._contents(chosen, store, since, at)))
                if at in mine:
                    since = at
                    bands.append(self._band(mine[at], each.contents(at, at)))
            yield PlannedLane(store=store, bands=tuple(bands))
        for store, bank in self.chance.banks.items():
            if only is not None and store not in only:
                continue
            hourly = bank.hourly(self.routes.pushes(chosen))[: bank.hours]
            rows = range(Forecasting.fan_step_h - 1, len(hourly), Forecasting.fan_step_h)
            levels = quantiles(hourly[list(rows)]) if len(rows) else []
            first = int(ahead.hour) + 1 - ahead.hour
            bands = [self._band(0.0, bank.draws.level)]
            bands += [
                Band(at=ahead.at(first + row), p10=low, p50=middle, p90=high)
                for row, (low, middle, high) in zip(rows, levels, strict=True)
            ]
            yield PlannedLane(store=store, bands=tuple(bands))

    def _services(self, chosen: Sequence[Outing]) -> dict[str, dict[float, float]]:
        """When each store is served: as it is counted, and as it is."""
        found: dict[str, dict[float, float]] = {}
        part = self.routes.start()
        for outing in chosen:
            before, part = part.since, self.routes.add(part, outing)
            arrives = {store: each.arrive_h for each in outing.visits for store in each.stores}
            for store, was, since in zip(self.routes.stores, before, part.since, strict=True):
                if since != was and store in arrives:
                    found.setdefault(store, {})[since] = arrives[store]
        return found

    def _band(self, at_h: float, contents: Floats) -> Band:
        low, middle, high = np.quantile(contents, (P10, P50, P90))
        return Band(at=self.chance.joint.ahead.at(at_h), p10=float(low), p50=float(middle), p90=float(high))

    def helpless(self, limit: int) -> tuple[Store, ...]:
        """The stores that no stop keeps from their line, on more paths than the crew accepts."""
        every = (each for each in self.chance.every.values() if not each.excuse.once)
        return tuple(each.store for each in every if (each.excuse.hopeless | each.excuse.later).bit_count() > limit)

    def once(self) -> tuple[Store, ...]:
        """The stores of which but the next service is planned."""
        return tuple(each.store for each in self.chance.every.values() if each.excuse.once)

    def breaks(self, outings: Sequence[Outing]) -> Store | None:
        """The store that passes its line on the most paths, if a plan is followed."""
        lost = {id: 0 for id in self.routes.stores}
        part = self.routes.start()
        steps = [*outings, None]
        for outing in steps:
            grown = self.routes.add(part, outing) if outing is not None else None
            for n, (id, each) in enumerate(zip(self.routes.stores, self.routes.plain, strict=True)):
                at_h = grown.since[n] if grown is not None else self.chance.end_h
                if grown is None or at_h != part.since[n]:
                    lost[id] |= each.passed(part.since[n], at_h)
            part = grown or part
        worst = max(lost, key=lambda id: lost[id].bit_count(), default=None)
        return self.chance.rig.store(worst)


def _act(store: Store, service: Service, amount: Floats, most: float) -> StopWork:
    low, middle, high = (float(each) for each in np.quantile(amount, (P10, P50, P90)))
    cost = flat_price(service) + price_of(service) * float(amount.mean())
    return StopWork(
        store=store,
        service=service,
        act=act_of(service, store),
        p10=low,
        p50=middle,
        p90=high,
        cost=cost,
        minutes=act_minutes(store, service, middle),
        held_to=most if most < (1 - Numeric.tiny) * store.capacity else None,
    )


def _order(act: StopWork) -> int:
    return _ORDER.index(act.service.kind.id)
