"""Addresses: the API, and the one page that all views share."""

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseBase
from django.urls import path, re_path

from lodeline.api.calendar import read_feed
from lodeline.api.main import api


def page(request: HttpRequest) -> HttpResponseBase:
    """The page; its script finds the view from the address."""
    index = settings.WEB / "index.html"
    if not index.exists():
        return HttpResponse("The front end is not built. Run ./lodeline demo or ./lodeline serve.", status=503)
    response = FileResponse(index.open("rb"), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


def nothing(request: HttpRequest) -> HttpResponse:
    """An asset or API address that is not there."""
    return HttpResponse("Not found.", status=404, content_type="text/plain")


handler500 = "lodeline.site.answers.failed"
urlpatterns = [
    path("api/", api.urls),
    path("calendar/<str:secret>.ics", read_feed),
    re_path(r"^(?:api|assets|static)/", nothing),
    re_path(r"^", page),
]
