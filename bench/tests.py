"""How long the tests take."""

import subprocess
import time

from bench.server import ROOT


def main() -> None:
    for words in (["check"], ["test", "--fast"]):
        start = time.perf_counter()
        done = subprocess.run(["./lodeline", *words], cwd=ROOT, capture_output=True, text=True, check=False)
        if done.returncode:
            raise RuntimeError(done.stdout[-3000:] + done.stderr[-1000:])
        print(f"./lodeline {' '.join(words)}: {time.perf_counter() - start:.0f} s")
