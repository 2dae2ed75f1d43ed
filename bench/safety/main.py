"""``./lodeline bench safety [PART...]``: a server that is slow to hear, hit, full, damaged and guessed at. About 40 minutes.

Each part can be named alone. Faults of the disk need an account that may mount one.
"""

import sys

from bench.safety import again, cold, crowd, faults, guesses, invitations, kills, locks, memory, restores, schema, slow

PARTS = {
    "slow": slow.rows,
    "guesses": guesses.rows,
    "faults": faults.rows,
    "cold": cold.rows,
    "locks": locks.rows,
    "crowd": crowd.rows,
    "invitations": invitations.rows,
    "memory": memory.rows,
    "restores": restores.rows,
    "again": again.rows,
    "kills": kills.rows,
    "schema": schema.rows,
}


def main(words: list[str]) -> int:
    unknown = [word for word in words if word not in PARTS]
    if unknown:
        print(f"There is no part {unknown[0]}; there are: {', '.join(PARTS)}.", file=sys.stderr)
        return 2
    holds = True
    for name in words or PARTS:
        for row in PARTS[name]():
            holds = holds and row.holds
            print(f"{'holds' if row.holds else 'FAILS'}  {row.test}: {row.outcome}", flush=True)
    return 0 if holds else 1
