"""``./lodeline bench [NAME]``: measured figures, printed."""

import sys

from bench import (
    core_speed,
    evening,
    kept,
    long,
    many,
    mutation,
    performance,
    phone,
    recipes,
    round,
    server_speed,
    size,
    tests,
    week,
)
from bench.forecast import bank_score, defects, score
from bench.fuel import main as fuel
from bench.safety import main as safety
from bench.stops import living
from bench.water import main as water
from bench.worlds import main as worlds
from bench.worlds import priors


def _forecast() -> None:
    score.main()
    bank_score.main()
    defects.main()


BENCHES = {
    "recipes": recipes.main,
    "size": size.main,
    "evening": evening.main,
    "round": round.main,
    "server": server_speed.main,
    "core": core_speed.main,
    "tests": tests.main,
    "forecast": _forecast,
}
# these take long: only who names them waits
ON_REQUEST = {
    "mutation": mutation.main,
    "kept": kept.main,
    "priors": priors.main,
    "week": week.main,
    "phone": phone.main,
    "long": long.main,
    "performance": performance.main,
}


def main(words: list[str]) -> int:
    if words[:1] == ["safety"]:
        return safety.main(words[1:])
    if words[:1] == ["worlds"]:
        return worlds.main(words[1:])
    if words[:1] == ["living"]:
        living.main(words[1:])
        return 0
    if words[:1] == ["water"]:
        water.main(words[1:])
        return 0
    if words[:1] == ["fuel"]:
        fuel.main(words[1:])
        return 0
    if words[:1] == ["many"]:
        return many.main(words[1:])
    names = words or list(BENCHES)
    benches = BENCHES | ON_REQUEST
    unknown = [name for name in names if name not in benches]
    if unknown:
        print(
            f"There is no bench {unknown[0]}; there are: {', '.join([*benches, 'safety', 'worlds', 'living', 'water', 'fuel', 'many'])}.",
            file=sys.stderr,
        )
        return 2
    for name in names:
        benches[name]()
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
