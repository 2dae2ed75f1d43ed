"""Every lever that a rig has: of habits with water, of energy and heat, of what is carried and bought."""

from collections.abc import Iterable

from lodeline.core.levers.carried import carried_levers
from lodeline.core.levers.energy import energy_levers
from lodeline.core.levers.heat import heat_levers
from lodeline.core.levers.lever import Aboard, Lever
from lodeline.core.levers.water import water_levers


def levers_aboard(aboard: Aboard) -> list[Lever]:
    """Every lever of a rig, each from now on for good. Those that change nothing that is known are left out."""
    every: Iterable[Lever] = (
        *water_levers(aboard),
        *energy_levers(aboard),
        *heat_levers(aboard),
        *carried_levers(aboard),
    )
    return [lever for lever in every if lever.changes]
