"""Chances as people say them: a word where there is no doubt, never a bare 0 or 100."""

from lodeline.text.display import percent
from lodeline.text.habits import exact

LEAST, _ALL = 0.005, 0.995


def chance(p: float) -> str:
    """A chance in per cent; a word where it would read 0 or 100: ``no longer``, ``43 %``, ``certainly``."""
    if p >= _ALL:
        return "certainly"
    return percent(p) if p >= LEAST else "no longer"


def in_ten(p: float) -> str:
    """A chance as people say it: ``9 in 10``, ``1 in 20``."""
    if p >= _CERTAIN:
        return "as good as certain"
    if p > _MOST_IN_TEN:
        return "more than 9 in 10"
    if p < _FEW:
        return f"1 in {exact(min(_FEWEST, max(11, round(1 / p))))}" if p > 0 else "hardly ever"
    return f"{exact(max(1, round(p * 10)))} in 10"


_CERTAIN, _MOST_IN_TEN, _FEW, _FEWEST = 0.985, 0.949, 0.095, 100
