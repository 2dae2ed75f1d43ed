"""The one error of the core: a typed problem, and the place that it is about. Words are made of it elsewhere."""

from lodeline.core.problems import Problem


class Refused(ValueError):
    """Input that cannot be accepted.

    Parameters
    ----------
    place : str
        Path of the offending value, such as ``days[3].readings[1].store``.
    problem : Problem
        What is wrong, as facts.
    """

    def __init__(self, place: str, problem: Problem) -> None:
        super().__init__(place, problem)
        self.place = place
        self.problem = problem
