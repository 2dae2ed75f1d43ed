"""The API: one module a view, its schemas beside it."""

from django.http import HttpRequest
from ninja import NinjaAPI
from ninja.security import django_auth

from lodeline import __version__
from lodeline.api import (
    account,
    book,
    calendar,
    energy,
    entries,
    fuel,
    fuel_aboard,
    gazetteer,
    horizon,
    ledger,
    levers,
    next_step,
    plan,
    questions,
    review,
    rigs,
    round,
    search,
    transfer,
    water,
    water_aboard,
    writes,
)
from lodeline.api.errors import StrictParser, install
from lodeline.api.out import Out

api = NinjaAPI(
    title="Lodeline", version=__version__, auth=django_auth, parser=StrictParser(), docs_url=None, openapi_url=None
)
install(api)


class Health(Out):
    ok: bool


@api.get("/health", response=Health, auth=None, operation_id="health")
def health(request: HttpRequest) -> Health:
    """The server answers."""
    return Health(ok=True)


api.add_router("/account", account.router)
api.add_router("/rigs", rigs.router)
api.add_router("/rigs", horizon.router)
api.add_router("/rigs", next_step.router)
api.add_router("/rigs", energy.router)
api.add_router("/rigs", questions.router)
api.add_router("/rigs", round.router)
api.add_router("/rigs", entries.router)
api.add_router("/rigs", writes.router)
api.add_router("/rigs", ledger.router)
api.add_router("/rigs", transfer.router)
api.add_router("/rigs", review.router)
api.add_router("/rigs", search.router)
api.add_router("/rigs", levers.router)
api.add_router("/rigs", book.router)
api.add_router("/rigs", plan.router)
api.add_router("/rigs", calendar.router)
api.add_router("/rigs", water.router)
api.add_router("/rigs", water_aboard.router)
api.add_router("/rigs", fuel.router)
api.add_router("/rigs", fuel_aboard.router)
api.add_router("/places", gazetteer.router)
api.add_router("/imports", transfer.new_router)
