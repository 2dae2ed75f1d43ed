"""What takes too long is given up with an answer and a line in the log; locks are given back."""

import threading
from time import monotonic, sleep

import pytest

from lodeline.logbook.services import background
from lodeline.site import watchdog
from lodeline.site.undisturbed import GivenUp, undisturbed

PATIENCE_S = 30


class Asked:
    """A request in a thread of its own, looked at again and again."""

    def __init__(self, work, method="GET", patience_s=0.0, gone=False):
        self.dog, self.said = watchdog.Watchdog(), []
        application = self.dog.watched(lambda environ, start: work(start))
        environ = {"REQUEST_METHOD": method, "PATH_INFO": "/api/x", "waitress.client_disconnected": lambda: gone}
        self.thread = threading.Thread(target=lambda: self.said.append(application(environ, self.start)))
        self.thread.start()

    def start(self, status, head, error=None):
        self.said.append(status)

    def look_until_done(self):
        until = monotonic() + PATIENCE_S
        while self.thread.is_alive() and monotonic() < until:
            self.dog.look()
            sleep(0.001)
        assert not self.thread.is_alive()
        assert not self.dog._at
        return self.said


@pytest.fixture
def no_patience(monkeypatch):
    monkeypatch.setattr(watchdog, "patience_s", lambda path: 0.0)


def for_ever(start):
    try:
        while True:
            pass
    except Exception:  # what handles errors on the way does not keep it
        return [b"kept on"]


def test_what_takes_too_long_is_answered_503_and_said(no_patience, caplog):
    said = Asked(for_ever, "POST").look_until_done()
    assert said[0].startswith("503")
    assert b"took too long" in said[1][0]
    assert [each.message for each in caplog.records] == ["given up"]
    assert caplog.records[0].path == "/api/x"


def test_a_reader_who_has_gone_is_given_up_and_a_writer_is_finished():
    assert Asked(for_ever, gone=True).look_until_done()[0].startswith("503")
    ready = threading.Event()
    writer = Asked(lambda start: ready.wait(PATIENCE_S) and [b"kept"], "POST", gone=True)
    for _ in range(100):
        writer.dog.look()
    ready.set()
    assert writer.look_until_done() == [[b"kept"]]


def test_nothing_is_raised_where_a_lock_is_taken(no_patience):
    """Raised at every step that there is, a thousand times: a lock that is taken is given back."""
    lock, taken = threading.Lock(), [0]

    def work(start):
        while True:
            with undisturbed():
                lock.acquire()
                taken[0] += 1
                lock.release()

    for _ in range(300):
        assert Asked(work).look_until_done()[0].startswith("503")
        assert not lock.locked()
    assert taken[0] > 0


def test_a_thread_that_is_done_hears_nothing_more(no_patience):
    for _ in range(300):
        asked = Asked(lambda start: [b"soon"])
        said = asked.look_until_done()
        assert said in ([[b"soon"]], [said[0], said[-1]])
    assert issubclass(GivenUp, BaseException)
    assert not issubclass(GivenUp, Exception)


def test_a_process_that_has_grown_knows_it(monkeypatch):
    monkeypatch.setattr(background, "MOST_MIB", 1)
    monkeypatch.setattr(background, "_OLD_S", 0.0)
    assert background.has_grown()
    monkeypatch.setattr(background, "_OLD_S", 1e9)
    assert not background.has_grown()
    monkeypatch.setattr(background, "_OLD_S", 0.0)
    monkeypatch.setattr(background, "MOST_MIB", 1_000_000)
    assert not background.has_grown()
