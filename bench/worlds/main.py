"""``./lodeline bench worlds [--rigs N] [FOLDER ...]``: how far forecasts are believed on rigs that nobody tuned to.

World A is this project's simulator, the diaries are its third world. A folder holds another's rigs: ``*.logbook.json`` as
the file contract has them, and ``truth.json``, a list of ``{"file", "at", "stores": {id: {"level", "days", "known"}}}``.
"""

import json
from dataclasses import dataclass
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Any

from bench.forecast.world import Maker as Invented
from bench.worlds import lengths, score
from bench.worlds.diary import DILIGENCE, Diary

_SEEDS, _RIGS = (1000, 2000, 3000), 200
_SEEDS_A_LENGTH = 12
_LOG_DAYS = (3, 7, 14, 28, 60, 120, 300)
_LONG_DAYS = (30, 60, 120, 300)


def world_a(seed: int, n_days: int | None = None) -> score.Rig:
    """A rig of the project's own simulator."""
    made = Invented(seed, n_days).make()
    return score.Rig(made.document, made.now, made.level, made.days_left)


def diary(seed: int, n_days: int | None = None, diligence: str | None = None) -> score.Rig:
    """A rig of the third world."""
    made = Diary(seed, n_days, diligence).live()
    return score.Rig(made.document, made.now, made.level, made.days_left)


@dataclass(frozen=True)
class Folder:
    """Rigs by another hand."""

    path: Path

    def __len__(self) -> int:
        return len(self._truths())

    def __call__(self, index: int) -> score.Rig:
        """Its rig of a number."""
        truth = self._truths()[index]
        document = json.loads((self.path / truth["file"]).read_text())
        known = {id: each for id, each in truth["stores"].items() if each.get("known", True)}
        days = {id: float("inf") if each["days"] is None else each["days"] for id, each in known.items()}
        level = {id: each["level"] for id, each in known.items()}
        return score.Rig(document, datetime.fromisoformat(truth["at"]), level, days)

    def _truths(self) -> list[dict[str, Any]]:
        truths: Any = json.loads((self.path / "truth.json").read_text())
        rigs: list[dict[str, Any]] = truths if isinstance(truths, list) else truths["rigs"]
        return rigs


def main(words: list[str]) -> int:
    n, words = (int(words[1]), words[2:]) if words[:1] == ["--rigs"] else (_RIGS, words)
    # of one rig only whether all of it runs is asked
    most = 1 if n == 1 else None
    for seed in _SEEDS[:most]:
        score.table(f"world A, seed {seed}", score.scored(world_a, range(seed, seed + n)))
        score.table(f"diaries under measured skies, seed {seed}", score.scored(diary, range(seed, seed + n)))
    for path in words:
        folder = Folder(Path(path))
        score.table(path, score.scored(folder, range(len(folder))))
    seed = _SEEDS[0]
    for log_days in _LOG_DAYS[:most]:
        made = score.scored(partial(diary, n_days=log_days), range(seed, seed + n))
        score.table(f"diaries with {log_days} days of log", made)
    for log_days in _LONG_DAYS[:most]:
        made = score.scored(partial(world_a, n_days=log_days), range(seed, seed + n))
        score.table(f"world A with {log_days} days of log", made)
    lengths.table(min(n, _SEEDS_A_LENGTH), lengths.LENGTHS[:most])
    for how in DILIGENCE[:most]:
        made = score.scored(partial(diary, diligence=how), range(seed, seed + n))
        score.table(f"diaries read {how}", made)
    return 0
