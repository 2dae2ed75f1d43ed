"""The one error of the core: a sentence for a person, and the place that it is about."""


class Refused(ValueError):
    """Input that cannot be accepted.

    Parameters
    ----------
    place : str
        Path of the offending value, such as ``days[3].readings[1].store``.
    problem : str
        What is wrong and what would be right, as a sentence fragment.
    """

    def __init__(self, place: str, problem: str) -> None:
        super().__init__(f"{place}: {problem}" if place else problem)
        self.place = place
        self.problem = problem
