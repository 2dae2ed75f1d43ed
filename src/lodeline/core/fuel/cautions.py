"""What is always said beside gas, heat and fuel, by what is aboard."""

from lodeline.core.catalogue import Caution
from lodeline.core.rig import Rig


def cautions_of(rig: Rig) -> tuple[Caution, ...]:
    """Each once, in the order in which they are said."""
    by_rig = (
        ((Caution.GAS_AT_PUMP, Caution.GAS_LICENSED), any(store.is_gas for store in rig.stores)),
        ((Caution.FUEL_OUTSIDE,), any(store.is_fuel for store in rig.stores)),
        ((Caution.EXHAUST_SNOW,), bool(rig.heaters)),
        (
            (Caution.GENERATOR_OUTDOORS,),
            any(Caution.GENERATOR_OUTDOORS in source.kind.cautions for source in rig.sources),
        ),
    )
    said = [each for cautions, holds in by_rig if holds for each in cautions]
    return (Caution.CARBON_MONOXIDE, Caution.NO_COOKER_HEAT, *said, Caution.ESTIMATE)
