"""One rig's plans on one set of paths: the best one, the last one as it stands now, and what else could be done."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from datetime import datetime, timedelta
from functools import cached_property

from lodeline.core.book import Spot, fits, way_h
from lodeline.core.catalogue import AfterStop
from lodeline.core.figures import Numeric, Stops
from lodeline.core.levers.lever import Lever
from lodeline.core.levers.weigh import Joint
from lodeline.core.stops.account import Account
from lodeline.core.stops.chance import Chance, chance_of
from lodeline.core.stops.outings import Outing, Outings, moved
from lodeline.core.stops.plan import Fallback, Moved, NotServed, Plan, PlannedOuting, Remedy, Stop, Unserved, Wanted
from lodeline.core.stops.routes import Route, Routes
from lodeline.core.stops.search import Effort, Found, Search
from lodeline.core.stops.setting import SHORE, Setting, setting_of
from lodeline.core.wishes import FixedStop
from lodeline.core.zone import HOURS, MIN_PER_H


def plan(
    joint: Joint, book: tuple[Spot, ...], wanted: Wanted, tell: Callable[[float], object] = lambda share: None
) -> Plan:
    """The plan with the fewest outings that keeps the risk; of those the fewest stops, the least cost, the least way.

    ``tell`` hears the share that is done, and may raise to end it.
    """
    return Planner(joint, book, wanted, tell).plan()


class Planner:
    """One rig's plans on one set of paths."""

    def __init__(
        self, joint: Joint, book: tuple[Spot, ...], wanted: Wanted, tell: Callable[[float], object] = lambda share: None
    ) -> None:
        self.wanted, self._tell = wanted, tell
        self.chance: Chance = chance_of(joint, wanted.days)
        self.setting: Setting = setting_of(self.chance, book, moves=joint.ahead.rig.after_stop is AfterStop.STAY)
        limit = int(wanted.risk * self.chance.n_paths + Numeric.tiny)
        made = Outings(setting=self.setting)
        self._made = made
        self.routes = Routes(setting=self.setting, options=made.all(), fixed=made.fixed(wanted.wished), limit=limit)
        # what nobody can help is told apart: what counts is the rest
        self.p_before = self.routes.excuse(Stops.due_within_h).bit_count() / self.chance.n_paths
        self.account = Account(routes=self.routes)
        self._needs = self._not_served()

    def search(self, closed: frozenset[str] = frozenset(), effort: Effort = Effort()) -> Search:
        """A search over every outing that may be made, but to places that are taken to be closed."""
        routes = self.routes
        if closed:
            kept = self._made.all(closed)
            routes = Routes(setting=self.setting, options=kept, fixed=routes.fixed, limit=routes.limit, part_of=routes)
        return Search(routes=routes, effort=effort, tell=self._tell)

    @cached_property
    def best(self) -> Found:
        """The best plan, as the search has it."""
        return self.search().best()

    def plan(self) -> Plan:
        """The plan, with what else could be done."""
        found = self.best
        whole = replace(self._plan(found), leave_by=self._leave_by(found))
        own = [each for each in found.outings if not each.is_fixed]
        if not own or not self.wanted.others:
            return whole
        return replace(whole, others=self._others(found, whole), fallback=self._fallback(found, whole))

    def remedied(self, last: Plan, levers: Sequence[Lever]) -> Plan:
        """A plan that does not keep the risk, with the habit that would bring it nearest; of those tried first that
        are least hard."""
        if last.breaks is None or last.feasible:
            return last
        helps = [
            lever
            for lever in levers
            if lever.hardship is not None
            and not lever.kind.bought
            and any(touch.helps and touch.store == last.breaks.id for touch in lever.touches)
        ]
        helps.sort(key=lambda lever: lever.hardship or 0)
        tried = [Remedy(lever=lever, p_crossed=self._p_with(lever)) for lever in helps[: Stops.most_remedies]]
        best = min(tried, key=lambda each: each.p_crossed, default=None)
        is_worth = best is not None and best.p_crossed <= last.p_crossed - Stops.stop_saves
        return replace(last, remedy=best if is_worth else None)

    def _p_with(self, lever: Lever) -> float:
        """The chance that the best plan breaks with a habit changed: the same outings on the paths with it."""
        joint = self.chance.joint
        changes = {**joint.changes, **{store: joint.change_of(store, [lever]) for store in lever.changes}}
        other = Planner(replace(joint, changes=changes, _times={}), self.setting.book, self.wanted)
        whole = other.routes.whole(self.best.outings)
        return other.routes.lost_of(whole).bit_count() / self.chance.n_paths

    def again(self, last: Plan) -> Plan | None:
        """An earlier plan as it stands now, None where it cannot be followed any more or by far does not keep what it
        kept. Whether another is better by now is not looked at."""
        routes, ahead = self.routes, self.chance.joint.ahead
        part = routes.start()
        for each in last.outings:
            option = self._by_when.get(_when(each.leave, _key_of(each), each.is_fixed))
            if option is None:
                return None
            part = routes.add(part, routes.from_last(part, option))
        lost = routes.lost_of(part).bit_count()
        # that no stop is needed is not said of more than the crew accepts
        over = Stops.stands_within * self.chance.n_paths if last.outings else 0
        if (lost <= routes.limit + over) < last.feasible or any(each not in part.outings for each in routes.fixed):
            return None
        found = Found(
            route=part, lost=routes.lost_of(part), kept=last.feasible, exact=False, least_outings=last.least_outings
        )
        whole = replace(self._plan(found), leave_by=self._leave_by(found), feasible=last.feasible)
        others = tuple(each for each in last.others if all(one.leave > ahead.now for one in each.outings))
        instead = last.fallback.outing if last.fallback is not None else None
        fallback = last.fallback if instead is None or instead.leave > ahead.now else None
        return replace(whole, chosen=last.chosen, others=others, fallback=fallback, stands=True)

    def moved(self, last: Plan, stop: FixedStop, instead_of: FixedStop) -> Moved | None:
        """An earlier plan with the outing of a stop at another time, the others as they are; None where it has none."""
        routes, other = self.routes, None
        every, outings = self._by_when, []
        for each in last.outings:
            option = every.get(_when(each.leave, _key_of(each), each.is_fixed))
            if option is None:
                continue
            mine = next((one for one in each.stops if _is_at(one, instead_of)), None)
            if mine is not None:
                by = self.setting.ahead_h(stop.arrive) - self.setting.ahead_h(mine.arrive)
                option = other = moved(option, option.leave_h + by)
            outings.append(option)
        if other is None:
            return None
        whole = routes.whole(sorted(outings, key=lambda each: each.leave_h))
        lost = routes.lost_of(whole).bit_count()
        return Moved(
            p_crossed=lost / self.chance.n_paths,
            feasible=lost <= routes.limit,
            breaks=self.account.breaks(whole.outings) if lost > routes.limit else None,
            lanes=tuple(self.account.lanes(whole.outings, {*other.at, *(self.chance.banks if other.plug else ())})),
        )

    @cached_property
    def _by_when(self) -> dict[tuple[object, ...], Outing]:
        ahead = self.chance.joint.ahead
        return {_when(ahead.at(each.leave_h), each.key, each.is_fixed): each for each in self.routes.every}

    def _others(self, found: Found, whole: Plan) -> tuple[Plan, ...]:
        """Plans that differ in kind: another place first, or cheaper by a fifth with an outing more."""
        near, made = whole.p_crossed + Stops.near_least, []
        first = next(each for each in found.outings if not each.is_fixed)
        n = len([each for each in found.outings if not each.is_fixed])
        search = self.search(frozenset([first.visits[0].spot.id]), Effort().less())
        elsewhere = search.best(most=min(n, Stops.most_outings))
        if (
            elsewhere.outings
            and self._p(elsewhere) <= near
            and elsewhere.route.km <= found.route.km + Stops.fallback_km
        ):
            made.append(elsewhere)
        cheaper = self.search(effort=Effort().less()).best(least=n + 1, most=n + 1)
        if (
            cheaper.outings
            and self._p(cheaper) <= near
            and cheaper.route.cost <= (1 - Stops.cheaper_by) * found.route.cost
        ):
            made.append(cheaper)
        return tuple(self._plan(each) for each in made[: Stops.most_others])

    def _p(self, found: Found) -> float:
        return found.lost.bit_count() / self.chance.n_paths

    def _fallback(self, found: Found, whole: Plan) -> Fallback | None:
        """Where the first place is closed: the next outing that serves what made it necessary."""
        index = next(n for n, each in enumerate(found.outings) if not each.is_fixed)
        outing, planned = found.outings[index], whole.outings[index]
        stop = next((each for each in planned.stops if each.reasons), planned.stops[0])
        wanted = {store for each in planned.stops for store in each.serves}
        chosen = self._instead(found, index, stop.spot, wanted)
        stores = tuple(each.store for each in stop.reasons)
        if chosen is None:
            return Fallback(closed=stop.spot, stores=stores)
        other, route = chosen
        described = self._plan(self._with(route))
        instead = next(each for each in described.outings if each.leave == self.chance.joint.ahead.at(other.leave_h))
        return Fallback(
            closed=stop.spot,
            stores=stores,
            outing=instead,
            p_crossed=described.p_crossed,
            more_km=other.km - outing.km,
            more_cost=described.cost - whole.cost,
        )

    def _with(self, route: Route) -> Found:
        lost = self.routes.lost_of(route)
        return Found(route=route, lost=lost, kept=True, exact=False, least_outings=0)

    def _instead(self, found: Found, index: int, closed: Spot, wanted: set[str]) -> tuple[Outing, Route] | None:
        """The outing of the next day that serves as much without a place, near enough, and the plan with it."""
        routes, first = self.routes, found.outings[index]
        before, after = found.outings[:index], found.outings[index + 1 :]
        most = after[0].leave_h if after else self.chance.end_h
        best: tuple[tuple[float, ...], Outing, Route] | None = None
        for leave_h in sorted({each.leave_h for each in routes.options}):
            if not first.leave_h <= leave_h <= min(most, first.leave_h + HOURS):
                continue
            for each in self._made.leaving(leave_h, leave_h == first.leave_h, frozenset([closed.id])):
                served = {*each.at, *(self.chance.banks if each.plug else ())}
                furthest = max(km for _, km in each.legs)
                if not wanted <= served or furthest > Stops.fallback_km or each.end_h > most:
                    continue
                route = routes.whole([*before, each, *after])
                over = max(0, routes.lost_of(route).bit_count() - found.lost.bit_count())
                worse = over > Stops.near_least * self.chance.n_paths
                key = (worse, over if worse else 0, len(each.visits), route.cost, each.leave_h)
                if best is None or key < best[0]:
                    best = key, each, route
        return (best[1], best[2]) if best is not None else None

    def _plan(self, found: Found) -> Plan:
        account, ahead = self.account, self.chance.joint.ahead
        outings = account.outings(found)
        p = self._p(found)
        return Plan(
            at=ahead.now,
            chosen=ahead.now,
            days=self.wanted.days,
            risk=self.wanted.risk,
            due=self.chance.due,
            p_before=self.p_before,
            p_crossed=p,
            cost=sum(each.cost for each in outings),
            km=found.route.km,
            feasible=found.lost.bit_count() <= self.routes.limit,
            exact=found.exact,
            least_outings=found.least_outings,
            outings=outings,
            lanes=tuple(account.lanes(found.outings)),
            needs=self._needs,
            helpless=account.helpless(self.routes.limit),
            once=account.once(),
            breaks=account.breaks(found.outings) if found.lost.bit_count() > self.routes.limit else None,
            price_assumed=self.setting.price_assumed,
            not_to_drink=self.setting.not_to_drink,
            has_position=self.setting.has_position,
        )

    def _not_served(self) -> tuple[Unserved, ...]:
        """What the days will ask for and no place of the book serves, and why."""
        found = []
        for store in self.chance.rig.stores:
            if store.id not in self.routes.unserved:
                continue
            reason = self.account.reason(store.id)
            if reason.due or reason.p > self.wanted.risk:
                found.append(Unserved(store=store, why=self._why(store.id), reason=reason))
        return tuple(found)

    def _why(self, id: str) -> NotServed:
        store = self.chance.rig.store(id)
        assert store is not None
        if store.is_bank and self.chance.rig.source_amps(SHORE) <= 0:
            return NotServed.NO_PLACE
        offering = [spot for spot in self.setting.book if spot.service_for(store) is not None]
        if not offering:
            return NotServed.NO_PLACE
        let_in = [spot for spot in offering if fits(self.chance.rig, spot)]
        if not let_in:
            tall = self.chance.rig.height_m
            is_high = all(s.max_height_m is not None and tall is not None and tall > s.max_height_m for s in offering)
            return NotServed.TOO_HIGH if is_high else NotServed.TOO_LONG
        services = [each for spot in let_in if (each := spot.service_for(store)) is not None]
        if all(self.setting.is_doubtful(each) for each in services):
            return NotServed.NOT_TO_DRINK
        home = self.setting.ends(0.0)[0]
        far = Stops.latest_h - Stops.earliest_h
        if all(way_h(self.chance.rig, self.setting.way(home, spot.place)) > far for spot in let_in):
            return NotServed.TOO_FAR
        return NotServed.CLOSED

    def outing_at(self, stop: FixedStop) -> PlannedOuting | None:
        """An outing to one place at a time, whatever the plan says; with the stops that are planned before it."""
        before = [each for each in self.routes.fixed if each.arrive_h < self.setting.ahead_h(stop.arrive)]
        mine = [each for each in self._made.fixed([stop]) if each.visits[0].spot.id == stop.spot]
        if not mine:
            return None
        before = [each for each in before if each.visits[0].spot.id != stop.spot]
        return self.account.outings(self._with(self.routes.whole([*before, mine[-1]])))[-1]

    def _leave_by(self, found: Found) -> datetime | None:
        """The latest departure of the first outing that keeps the risk, the others as they are; where something is due,
        the first there may be."""
        routes, at = self.routes, self.chance.joint.ahead.at
        index = next((n for n, each in enumerate(found.outings) if not each.is_fixed), None)
        if index is None:
            return None
        first = found.outings[index]
        served = {*first.at, *(self.chance.banks if first.plug else ())}
        if served & set(self.chance.due):
            return at(first.leave_h)
        lost = found.lost.bit_count()
        limit = max(routes.limit, lost + (0 if lost <= routes.limit else Stops.leave_within * self.chance.n_paths))
        later = found.outings[index + 1 :]
        times = list(self._open_times(first, later[0].leave_h if later else self.chance.end_h))
        low, high = 0, len(times)
        while low < high:  # the risk grows with the wait: the last time that keeps it
            middle = (low + high) // 2
            outings = [moved(first, times[middle]) if each is first else each for each in found.outings]
            if routes.lost(outings).bit_count() <= limit:
                low = middle + 1
            else:
                high = middle
        return at(times[low - 1] if low else first.leave_h)

    def _open_times(self, outing: Outing, until_h: float) -> Iterator[float]:
        """Departures from an outing's own on at which it may be made as well."""
        yield outing.leave_h
        at_h = outing.leave_h + Stops.leave_step_h
        while at_h < until_h:
            local = self.setting.local(at_h)
            hour = local.hour + local.minute / MIN_PER_H
            if Stops.earliest_h <= hour <= Stops.latest_h:
                late = moved(outing, at_h)
                if late.end_h <= until_h and all(self._made.lets_in(each) for each in late.visits):
                    yield at_h
            at_h += Stops.leave_step_h


def _when(leave: datetime, key: object, is_fixed: bool) -> tuple[object, ...]:
    """What makes an outing the same in two plans."""
    return round(leave.timestamp() / _MINUTE_S), key, is_fixed


def _key_of(outing: PlannedOuting) -> tuple[object, ...]:
    return tuple((stop.spot.id, stop.stores, stop.plug) for stop in outing.stops)


def _is_at(stop: Stop, ref: FixedStop) -> bool:
    return stop.spot.id == ref.spot and abs(stop.arrive - ref.arrive) < timedelta(seconds=_MINUTE_S)


_MINUTE_S = 60  # two that are apart by less are the same
