"""All rigs of a server brought up to date: on its own cores and on a cluster, with the same answers to the byte."""

from collections.abc import Iterator
from concurrent.futures import Executor, Future

import pytest
from distributed import LocalCluster
from django.db.models import F

from lodeline.formats.forecast_line import forecast_line
from lodeline.logbook.models import Rig, new_stamp
from lodeline.logbook.services import derived, everybody
from lodeline.logbook.services.shared import forget


def told(rig: Rig) -> bytes:
    """What is known of a rig, and what may come, as bytes."""
    found = derived.derived_here(rig)
    states = b"".join(each.belief.mean.tobytes() + each.belief.cov.tobytes() for each in found.tracked.values())
    return states + forecast_line("rig", found.rig, found.forecast).encode()


@pytest.fixture
def cores() -> Iterator[Executor]:
    with everybody.local() as executor:
        yield executor


@pytest.fixture(scope="module")
def address() -> Iterator[str]:
    with LocalCluster(n_workers=2, threads_per_worker=1, dashboard_address=None, silence_logs=50) as made:
        yield made.scheduler_address


def test_cores_and_a_cluster_come_to_what_a_request_comes_to_byte_by_byte(
    rig: Rig, cores: Executor, address: str
) -> None:
    asked_for = told(rig)
    forget()
    assert everybody.bring_up_to_date(cores) == everybody.Done(1, derived=1)
    assert derived.known_levels(rig) is not None
    assert told(rig) == asked_for
    forget()
    with everybody.cluster(address) as executor:
        assert everybody.bring_up_to_date(executor) == everybody.Done(1, derived=1)
        # who is up to date is left alone
        assert everybody.bring_up_to_date(executor) == everybody.Done(1, up_to_date=1)
    assert told(rig) == asked_for


class Meanwhile(Executor):
    """Works at once, while somebody writes to the rig."""

    def submit(self, fn, /, *args, **kwargs):
        done: Future[object] = Future()
        done.set_result(fn(*args, **kwargs))
        Rig.objects.update(revision=F("revision") + 1, stamp=new_stamp())
        return done


def test_what_was_worked_out_of_a_rig_that_is_written_to_meanwhile_is_not_kept(rig: Rig) -> None:
    forget()
    assert everybody.bring_up_to_date(Meanwhile()).derived == 1
    before = derived.known_levels(rig)
    rig.refresh_from_db()
    assert before is None
    assert derived.known_levels(rig) is None


class Failing(Executor):
    """Whatever it is sent goes wrong."""

    def submit(self, fn, /, *args, **kwargs):
        failed: Future[object] = Future()
        failed.set_exception(MemoryError())
        return failed


def test_a_rig_that_fails_is_named_and_derived_when_it_is_asked_for(rig: Rig) -> None:
    forget()
    assert everybody.bring_up_to_date(Failing()) == everybody.Done(1, failed=[rig.pk])
    assert derived.derived(rig).forecast.stores


def test_a_cluster_that_does_not_answer_is_told_in_a_sentence() -> None:
    with pytest.raises(everybody.NoCluster, match="No Dask scheduler answers"), everybody.cluster("tcp://127.0.0.1:9"):
        pass
