"""Closed sets of words in documents: checked strictly, named in the schema, turned into their terms.

The allowed words are looked up when a value is checked, so that a new row of the catalogue is known at once.
"""

from collections.abc import Callable, Mapping
from enum import StrEnum
from typing import Annotated, Any

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import CoreSchema, PydanticCustomError, core_schema

from lodeline.core.catalogue import (
    ACTIVITIES,
    APPLIANCE_KINDS,
    LOAD_KINDS,
    SERVICES,
    SOURCE_KINDS,
    STORE_KINDS,
    AfterStop,
    ApplianceWhen,
    Body,
    Chemistry,
    DayStatus,
    Feed,
    GasHow,
    Insulation,
    Method,
    Outlet,
    Sense,
    Served,
    SkyWord,
    System,
    Via,
    VoltsState,
    When,
)
from lodeline.core.energy.bank import RatingUnit
from lodeline.core.values import dataclass

NOT_ONE_OF = "lodeline_not_one_of"


@dataclass(frozen=True, slots=True)
class Words:
    """A text that must be one of some words. ``table``: the words, and the term that each is turned into, if any."""

    table: Callable[[], Mapping[str, Any]]
    to_term: bool = True

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_before_validator_function(
            self._check, core_schema.any_schema(), serialization=core_schema.to_string_ser_schema()
        )

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return {"type": "string", "enum": list(self.table())}

    def _check(self, value: Any) -> Any:
        table = self.table()
        if not isinstance(value, str) or value not in table:
            raise PydanticCustomError(NOT_ONE_OF, "not one of the known words", {"allowed": tuple(table)})
        return table[value] if self.to_term else str(value)


def terms(kind: type[StrEnum]) -> Words:
    """The members of a closed set, by their words."""
    table = {term.value: term for term in kind}
    return Words(lambda: table)


StoreKindWord = Annotated[str, Words(lambda: STORE_KINDS, to_term=False)]
SourceKindWord = Annotated[str, Words(lambda: SOURCE_KINDS, to_term=False)]
FeedWord = Annotated[Feed, terms(Feed)]
BodyWord = Annotated[Body, terms(Body)]
InsulationWord = Annotated[Insulation, terms(Insulation)]
ApplianceKindWord = Annotated[str, Words(lambda: APPLIANCE_KINDS, to_term=False)]
ApplianceWhenWord = Annotated[ApplianceWhen, terms(ApplianceWhen)]
ServedWord = Annotated[Served, terms(Served)]
ServiceWord = Annotated[str, Words(lambda: SERVICES, to_term=False)]
AfterStopWord = Annotated[AfterStop, terms(AfterStop)]
GasHowWord = Annotated[GasHow, terms(GasHow)]
ActivityWord = Annotated[str, Words(lambda: ACTIVITIES, to_term=False)]
OutletWord = Annotated[Outlet, terms(Outlet)]
LoadKindWord = Annotated[str, Words(lambda: LOAD_KINDS, to_term=False)]
ChemistryWord = Annotated[Chemistry, terms(Chemistry)]
SkyWordText = Annotated[SkyWord, terms(SkyWord)]
StatusWord = Annotated[DayStatus, terms(DayStatus)]
SystemWord = Annotated[System, terms(System)]
SenseWord = Annotated[Sense, terms(Sense)]
MethodWord = Annotated[Method, terms(Method)]
VoltsStateWord = Annotated[VoltsState, terms(VoltsState)]
ViaWord = Annotated[Via, terms(Via)]
WhenWord = Annotated[When, terms(When)]
RatingUnitWord = Annotated[RatingUnit, terms(RatingUnit)]


def _contents() -> dict[str, str]:
    return {each.id: each.id for kind in STORE_KINDS.values() for each in kind.contents}


ContentsWord = Annotated[str, Words(_contents)]
