"""Figures with their goals: printed as they are measured, and kept for the table in ``docs/performance.md``."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Measured:
    """A figure; ``goal``: what it must not be over, None where there is none."""

    what: str
    value: float
    unit: str
    goal: float | None

    @property
    def said(self) -> str:
        """The figure with its unit."""
        digits = 0 if abs(self.value) >= 100 else 1 if abs(self.value) >= 10 else 2
        return f"{self.value:.{digits}f} {self.unit}".strip()

    @property
    def verdict(self) -> str:
        """Whether it is reached."""
        return "" if self.goal is None else "reached" if self.value <= self.goal else "not reached"


MEASURED: list[Measured] = []


def note(what: str, value: float, unit: str, goal: float | None = None) -> Measured:
    """Keep a figure that is said in other words."""
    MEASURED.append(each := Measured(what, value, unit, goal))
    return each


def figure(what: str, value: float, unit: str, goal: float | None = None) -> None:
    """Keep a figure, and say it."""
    each = note(what, value, unit, goal)
    goal_said = "" if goal is None else f"   goal {goal:g} {unit}, {each.verdict}"
    print(f"{what}: {each.said}{goal_said}", flush=True)
