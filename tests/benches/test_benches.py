"""Every bench runs to its end, shortened: a bench that crashes measures nothing. What it says is read by people."""

import os
import subprocess
import sys

import pytest

import bench.__main__ as benches
from bench import (
    core_speed,
    evening,
    kept,
    long,
    many,
    mutation,
    phone,
    recipes,
    server,
    server_speed,
    size,
    tests,
    week,
)
from bench.forecast import bank_score, defects, score
from bench.fuel import main as fuel
from bench.safety import again, cold, crowd, guesses, invitations, kills, locks, main, memory, restores, schema, slow
from bench.stops import lives, living
from bench.water import main as water
from bench.water import rations
from bench.worlds import main as worlds
from bench.worlds import priors

# a mean of very few cases may be one over nothing
pytestmark = pytest.mark.filterwarnings("ignore::RuntimeWarning")
IN_PROCESS = {
    "recipes": lambda: recipes.main(),
    "core": lambda: core_speed.main(files=1, n_days=61, runs=1),
    "forecast": lambda: (score.main((1000,), 1), bank_score.main((1000,), 3), defects.main(1000, 1)),
    "worlds": lambda: worlds.main(["--rigs", "1"]),
    "living": lambda: (
        living.main(["--rigs", "1"]),
        living.main(["--rigs", "1", "--world", "diaries", "--places", "sparse"]),
    ),
    "water": lambda: water.main(["--rigs", "1"]),
    "fuel": lambda: fuel.main(["--rigs", "2"]),
}


SERVED = {
    "size": lambda: size.main(),
    "evening": lambda: evening.main(runs=1),
    "server": lambda: server_speed.main(n_days=90, runs=2),
    "kept": lambda: kept.main(kills=1),
    "week": lambda: week.main(evenings=1),
    "phone": lambda: phone.main(runs=1),
    "long": lambda: long.main(n_days=90, rounds=1, loads=1, looks=8),
    "many": lambda: many.main(["2"], turns=2),
}
PARTS = {
    "slow": lambda: slow.rows(),
    "guesses": lambda: guesses.rows(),
    "cold": lambda: cold.rows(days=60, tanks=2),
    "locks": lambda: locks.rows(days=20),
    "crowd": lambda: crowd.rows(seconds=2),
    "invitations": lambda: invitations.rows(),
    "memory": lambda: memory.rows(share=100),
    "restores": lambda: restores.rows(1),
    "again": lambda: again.rows(3),
    "kills": lambda: kills.rows(2),
    "schema": lambda: schema.rows(4),
}


# What takes long though it is shortened: ./lodeline test --benches runs these too.
LONG = {
    "phone",
    "long",
    "many",
    "server",
    "kept",
    "week",
    "size",
    "water",
    "slow",
    "guesses",
    "cold",
    "memory",
    "kills",
    "again",
    "schema",
}


def chosen(names):
    """The benches that are run: the long ones where they were asked for."""
    return [name for name in names if name not in LONG or os.environ.get("LODELINE_BENCHES") == "all"]


@pytest.fixture
def _few(monkeypatch):
    """Few days, stays and ways, for those who have no words for it."""
    monkeypatch.setattr(lives, "WARM_UP", 8)
    monkeypatch.setattr(lives, "DAYS", 2)
    monkeypatch.setattr(rations, "STAYS", (4,))
    for name, one in (("_SEEDS", (1000,)), ("_LOG_DAYS", (7,)), ("DILIGENCE", worlds.DILIGENCE[:1])):  # type: ignore[attr-defined]
        monkeypatch.setattr(worlds, name, one)
    monkeypatch.setattr(week, "RIGS", week.RIGS[:1])


@pytest.mark.usefixtures("_few")
@pytest.mark.parametrize("name", chosen(IN_PROCESS))
def test_a_bench_of_the_core_runs(name, capsys):
    IN_PROCESS[name]()
    assert capsys.readouterr().out.strip()


def test_the_bench_of_priors_runs(tmp_path, capsys):
    priors.main(12, tmp_path / "priors.svg")
    assert "<svg" in (tmp_path / "priors.svg").read_text()


def test_the_table_of_benches_is_whole():
    """Each that can be named is run here, but those that only start other commands."""
    named = {*benches.BENCHES, *benches.ON_REQUEST, "safety", "worlds", "living", "water", "fuel", "many"}
    assert named == {*IN_PROCESS, *SERVED, "priors", "round", "tests", "mutation", "safety", "performance"}
    assert set(main.PARTS) == {*PARTS, "faults"}
    assert all(callable(each.main) for each in (tests, mutation))


@pytest.fixture(scope="session")
def _made(tmp_path_factory):
    """The demo's data, made once for all that serve it."""
    folder = tmp_path_factory.mktemp("demo")
    with server.serving("demo", folder, server_speed.NOW) as address:
        asked = server_speed.Browser(address)
        for rig in asked.call("GET", "/api/account/me")["rigs"]:
            asked.patient("GET", f"/api/rigs/{rig['id']}/horizon")
    server.made = folder
    yield
    server.made = None


@pytest.mark.usefixtures("_made", "_few")
@pytest.mark.parametrize("name", chosen(SERVED))
def test_a_bench_of_the_server_runs(name, capsys):
    SERVED[name]()
    assert capsys.readouterr().out.strip()


@pytest.mark.usefixtures("_made")
@pytest.mark.parametrize("name", chosen(PARTS))
def test_a_part_of_the_safety_bench_runs(name):
    rows = PARTS[name]()
    assert rows
    assert all(row.test and row.outcome for row in rows)


def test_the_bench_of_a_round_runs():
    done = subprocess.run([sys.executable, "-m", "bench", "round"], capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr
    assert "1 derivation;" in done.stdout or "2 derivation;" in done.stdout
