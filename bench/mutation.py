"""Mutation score of tracking and of the logbook's services: of changes made to the code, how many the tests notice.

By mutmut, on a copy of the project, over a sample of all changes; minutes, so it runs only when it is named.
"""

import json
import math
import random
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

from bench.server import ROOT

SAMPLE, SEED = 120, 11
MUTATED = ("src/lodeline/core/tracking/*", "src/lodeline/logbook/services/*")
# these look at the source as it is written, which mutants are not
LEFT_OUT = ("tests/browser", "tests/core/test_house.py")
_COPIED = ("bench", "docs", "lodeline", "manage.py", "pyproject.toml", "src", "tests", "web/src/api")
_SETTINGS = """
[tool.mutmut]
source_paths = ["src"]
only_mutate = {mutated}
also_copy = ["bench", "docs", "lodeline", "web/src/api"]
pytest_add_cli_args_test_selection = {tests}
"""


class Failed(RuntimeError):
    """The tests do not pass without any change, so that nothing can be said."""


def _copy(folder: Path) -> None:
    for name in _COPIED:
        source, target = ROOT / name, folder / name
        target.parent.mkdir(parents=True, exist_ok=True)
        if source.is_dir():
            shutil.copytree(source, target, ignore=shutil.ignore_patterns("__pycache__"))
        else:
            shutil.copy2(source, target)
    tests = ["tests", *(f"--ignore={name}" for name in LEFT_OUT)]
    with (folder / "pyproject.toml").open("a") as settings:
        settings.write(_SETTINGS.format(mutated=json.dumps(MUTATED), tests=json.dumps(tests)))


def _mutmut(folder: Path, *names: str) -> str:
    command = [str(Path(sys.executable).with_name("mutmut")), "run", *names]
    done = subprocess.run(command, cwd=folder, capture_output=True, text=True, check=False, env=_environment())
    return done.stdout + done.stderr


def _environment() -> dict[str, str]:
    import os

    left_out = ("PYTHONPATH", "DJANGO_SETTINGS_MODULE")
    return {name: value for name, value in os.environ.items() if name not in left_out} | {"OPENBLAS_NUM_THREADS": "1"}


def _results(folder: Path) -> dict[str, int | None]:
    """Exit codes by mutant; None of one that was not tried."""
    results: dict[str, int | None] = {}
    for path in sorted((folder / "mutants").rglob("*.meta")):
        results |= json.loads(path.read_text())["exit_code_by_key"]
    return results


def main() -> None:
    with tempfile.TemporaryDirectory(prefix="lodeline-mutation-") as name:
        folder = Path(name)
        _copy(folder)
        output = _mutmut(folder, "none*")  # makes the mutants and learns which test reaches which function
        names = list(_results(folder))
        if not names or not (folder / "mutants" / "mutmut-stats.json").exists():
            raise Failed(output[-3000:])
        random.Random(SEED).shuffle(names)
        output = _mutmut(folder, *names[:SAMPLE])
        tried = {key: code for key, code in _results(folder).items() if code is not None}
        if not tried:
            raise Failed(output[-3000:])
    survived = sorted(key for key, code in tried.items() if code in (0, 5, 33))  # passed, or reached by no test
    share = 1 - len(survived) / len(tried)
    error = math.sqrt(share * (1 - share) / len(tried))
    print(
        f"mutation score: {100 * share:.0f} ± {100 * error:.0f} % of {len(tried)} changes noticed, "
        f"drawn from {len(names)} in {', '.join(MUTATED)}"
    )
    for key in survived:
        print(f"  not noticed: {key.removeprefix('lodeline.')}")
