"""The calendar: a download, and a feed at a secret address that can be renewed."""

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Router

from lodeline.accounts import feeds
from lodeline.api.out import Out
from lodeline.api.who import display_of, rig_of, user_of
from lodeline.core.catalogue import System
from lodeline.core.zone import Zone
from lodeline.formats.document import Part
from lodeline.logbook import models as m
from lodeline.logbook.services import plans
from lodeline.logbook.services.derived import StillWorking, derived
from lodeline.text.calendar import entries, without_position
from lodeline.text.display import Display

router = Router(tags=["calendar"])
_TYPE = "text/calendar; charset=utf-8"


class FeedIn(Part):
    """``positions``: whether whoever has the address is told where the stops are."""

    positions: bool = False


class FeedOut(Out):
    """Whether there is a feed, and whether it says where the stops are. ``path``: its address, said once, when it was
    just made."""

    exists: bool
    positions: bool
    path: str | None


@router.get("/{rig_id}/calendar", response=FeedOut, operation_id="calendar_feed")
def feed(request: HttpRequest, rig_id: str) -> FeedOut:
    """Whether this account has a feed of the rig's calendar."""
    found = feeds.of(user_of(request), rig_of(request, rig_id))
    return FeedOut(exists=found is not None, positions=found is not None and found.positions, path=None)


@router.post("/{rig_id}/calendar", response=FeedOut, operation_id="renew_calendar_feed")
def renew(request: HttpRequest, rig_id: str, payload: FeedIn) -> FeedOut:
    """Make the feed, or give it a new address; the old one leads nowhere from then on."""
    rig = rig_of(request, rig_id)
    secret = feeds.renew(user_of(request), rig, positions=payload.positions)
    return FeedOut(exists=True, positions=payload.positions, path=f"/calendar/{secret}.ics")


@router.delete("/{rig_id}/calendar", response={204: None}, operation_id="end_calendar_feed")
def end(request: HttpRequest, rig_id: str) -> tuple[int, None]:
    """End the feed."""
    feeds.end(user_of(request), rig_of(request, rig_id))
    return 204, None


@router.get("/{rig_id}/calendar.ics", operation_id="download_calendar")
def download(request: HttpRequest, rig_id: str) -> HttpResponse:
    """The calendar as a file."""
    rig, display = rig_of(request, rig_id), display_of(request)
    answer = HttpResponse(_calendar(rig, display, positions=True), content_type=_TYPE)
    answer["Content-Disposition"] = 'attachment; filename="lodeline.ics"'
    return answer


def read_feed(request: HttpRequest, secret: str) -> HttpResponse:
    """The calendar at its secret address, for a calendar program that has no account."""
    found = feeds.at(secret)
    if found is None or request.method not in ("GET", "HEAD"):
        raise Http404
    rig = found.membership.rig
    try:
        body = _calendar(
            rig, Display(System(rig.units), Zone(rig.timezone), rig.parts.get("currency")), positions=found.positions
        )
    except StillWorking:
        answer = HttpResponse(status=503)
        answer["Retry-After"] = "2"
        return answer
    answer = HttpResponse(body, content_type=_TYPE)
    answer["Cache-Control"] = "private, no-store"
    answer["Referrer-Policy"] = "no-referrer"
    return answer


def _calendar(rig: m.Rig, display: Display, *, positions: bool) -> bytes:
    from lodeline.formats.ical import calendar

    known = derived(rig)
    plan = plans.plan_of(rig) if known.book else None
    found = entries(known.rig, rig.pk, known.forecast, plan, display)
    return calendar(known.rig.name, found if positions else map(without_position, found), known.now)
