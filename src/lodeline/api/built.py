"""Answers that were built of something derived are kept at hand while it stands: many ask for the same."""

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock

from django.http import HttpResponse

from lodeline.api.out import Out
from lodeline.logbook.services.derived import Levels
from lodeline.text.habits import habits

_MOST = 24


class _Built:
    """The last answer in each place, with what it was built of."""

    def __init__(self) -> None:
        self.answers: OrderedDict[object, tuple[Levels, bytes]] = OrderedDict()
        self.lock = Lock()
        self.building: dict[object, Lock] = {}

    def get(self, place: object, known: Levels) -> bytes | None:
        with self.lock:
            held = self.answers.get(place)
            return held[1] if held is not None and held[0] is known else None

    def alone(self, place: object) -> Lock:
        """What is built once while others wait for it."""
        with self.lock:
            return self.building.setdefault(place, Lock())

    def put(self, place: object, known: Levels, answer: bytes) -> None:
        with self.lock:
            self.answers[place] = (known, answer)
            self.answers.move_to_end(place)
            while len(self.answers) > _MOST:
                old, _ = self.answers.popitem(last=False)
                self.building.pop(old, None)


_BUILT = _Built()


def built(what: str, rig: int, known: Levels, build: Callable[[], Out]) -> HttpResponse:
    """An answer as its reader writes numbers and dates, built once of what is known."""
    place = (what, rig, habits())
    answer = _BUILT.get(place, known)
    if answer is None:
        with _BUILT.alone(place):
            answer = _BUILT.get(place, known)
            if answer is None:
                answer = build().model_dump_json(by_alias=True).encode()
                _BUILT.put(place, known, answer)
    return HttpResponse(answer, content_type="application/json; charset=utf-8")
