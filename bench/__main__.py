"""``./lodeline bench [NAME]``: measured figures, printed."""

import sys

from bench import core_speed, server_speed, size
from bench.forecast import bank_score, score


def _forecast() -> None:
    score.main()
    bank_score.main()


BENCHES = {"server": server_speed.main, "size": size.main, "core": core_speed.main, "forecast": _forecast}


def main(words: list[str]) -> int:
    names = words or list(BENCHES)
    unknown = [name for name in names if name not in BENCHES]
    if unknown:
        print(f"There is no bench {unknown[0]}; there are: {', '.join(BENCHES)}.", file=sys.stderr)
        return 2
    for name in names:
        BENCHES[name]()
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
