"""A kind of store that nobody thought of: added to the catalogue, it is in the file, the forecast, and on screen."""

import json
from datetime import datetime
from uuid import uuid4

import pytest

from lodeline.api.catalogue import catalogue
from lodeline.core.catalogue import (
    STORE_KINDS,
    Caution,
    Driver,
    Effect,
    Hue,
    Method,
    Prior,
    Role,
    Sense,
    StoreKind,
    UseSpec,
)
from lodeline.core.errors import Refused
from lodeline.formats.logbook import json_schema, read_logbook, write_document
from tests.api.conftest import EXAMPLE
from tests.builders import forecast

# Hot water from a boiler that pellets heat: so many kilograms a degree-day.
PELLETS = StoreKind(
    id="pellets",
    name="Pellets",
    hue=Hue.UMBER,
    sense=Sense.DRAINS,
    unit="kg",
    line=0.1,
    amounts=Method.MASS,
    usual_capacity=30.0,
    accepts=(Effect.FILL, Effect.MOVE),
    offers=(Effect.FILL,),
    kg_per_unit=1.0,
    role=Role.PLAIN,
    cautions=(Caution.FUEL_OUTSIDE,),
    use=UseSpec(priors=(Prior(driver=Driver.DEGREE_DAYS, mean=0.5, sd=0.2, day_cv=0.3, source="made up"),)),
)


@pytest.fixture
def pellets(monkeypatch):
    monkeypatch.setitem(STORE_KINDS, PELLETS.id, PELLETS)
    return PELLETS


@pytest.fixture
def book(pellets):
    """The example with a sack of pellets, two cold days and three readings of it."""
    document = json.loads(EXAMPLE)
    document["rig"]["stores"].append(
        {"id": "sack", "kind": "pellets", "name": "Pellets", "capacity": 30, "gauge": {"kind": "sight"}}
    )
    for day, value in zip(document["days"], (27.0, 21.0), strict=True):
        day |= {"temp_min_c": 2, "temp_max_c": 10}
        day["readings"].append(
            {"at": f"{day['date']}T20:30:00+01:00", "store": "sack", "method": "mass", "value": value}
        )
    return document


def test_the_file_knows_it_and_checks_it(pellets, book):
    read = read_logbook(json.dumps(book).encode())
    assert read.rig.store("sack").kind is PELLETS
    assert read_logbook(write_document(read.doc)) == read
    assert '"pellets"' in json_schema()
    for broken, says in (({"fuel": "diesel"}, "fuel"), ({"chemistry": "agm"}, "chemistry")):
        hurt = json.loads(json.dumps(book))
        hurt["rig"]["stores"][-1] |= broken
        with pytest.raises(Refused) as refused:
            read_logbook(json.dumps(hurt).encode())
        assert refused.value.place == f"rig.stores[6].{says}"


def test_the_forecast_burns_it_by_the_cold(book):
    read = read_logbook(json.dumps(book).encode())
    now = datetime.fromisoformat("2026-09-04T21:00:00+01:00")
    # 18 - 6 degrees are 12 degree-days, 6 kg a day expected and 6 kg a day read: 18 kg over the line are three days
    sack = forecast(read.rig, read.log, (), now).of("sack")
    assert sack.rate_per_day == pytest.approx(6.0, rel=0.2)
    assert sack.p50_days == pytest.approx(3.0, abs=0.5)


def test_the_round_and_the_horizon_have_it(owner, book):
    rig = owner.post("/imports", json.dumps(book).encode()).body["rig"]
    round_ = owner.get(f"/rigs/{rig}/round").body
    (store,) = [each for each in round_["stores"] if each["id"] == "sack"]
    assert "kg" in store["hint"]
    assert store["last"] == "21 kg, 70 %"
    (act,) = [each for each in round_["acts"] if each["store"] == "sack"]
    assert (act["label"], act["type"], act["unit"]) == ("Filled Pellets", "fill", "kg")
    assert owner.post(f"/rigs/{rig}/understand", {"store": "sack", "text": "1/2"}).body["words"] == "15 kg, 50 %"
    body = {"writes": [{"id": str(uuid4()), "add": {"event": {"type": "fill", "store": "sack"}}}]}
    assert owner.post(f"/rigs/{rig}/writes", body).body["writes"][0]["state"] == "kept"
    strip = owner.get(f"/rigs/{rig}/horizon").body
    (lane,) = [each for each in strip["lanes"] if each["id"] == "sack"]
    assert lane["hue"] == "umber"
    assert lane["events"][0]["words"] == "Pellets filled to the brim"
    assert "kg a degree-day under 18 °C" in " ".join(lane["why"])


def test_the_web_is_told_of_it(pellets):
    (row,) = [each for each in catalogue()["storeKinds"] if each["id"] == "pellets"]
    assert (row["name"], row["hue"], row["unit"]) == ("Pellets", "umber", "kg")
