"""``./lodeline bench water [--rigs N]``: amounts, days left, rations; see the modules."""

from bench.water import amounts, days, rations

_RIGS = 60


def main(words: list[str]) -> None:
    """Print all three."""
    n = int(words[1]) if words[:1] == ["--rigs"] else _RIGS
    amounts.main(n)
    days.main(n)
    rations.main(n)
