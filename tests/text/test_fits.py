"""*Fits* is said only where the reading, as it is said, overlaps the range that stands beside it; by generated cases."""

import re

from hypothesis import given
from hypothesis import strategies as st

from lodeline.core.catalogue import Chemistry, GaugeKind, Method
from lodeline.core.reading import Understood
from lodeline.core.rig import Gauge
from lodeline.core.tracking.evidence import evidence
from lodeline.text.display import METRIC
from lodeline.text.readings import describe, fit
from tests.builders import a_reading, a_store

PANEL = Gauge(GaugeKind.STEPS, (0.0, 0.33, 0.67, 1.0))
STORES = st.builds(
    lambda kind, capacity, gauge: a_store(kind, capacity, kind, gauge=gauge, tare_kg=7.5 if kind == "gas" else None),
    st.sampled_from(["fresh", "grey", "fuel", "gas", "cassette"]),
    st.floats(8.0, 400.0),
    st.sampled_from([PANEL, Gauge(GaugeKind.SIGHT), Gauge(GaugeKind.SENSOR, (), 0.02), Gauge()]),
) | st.builds(
    lambda capacity: a_store(
        "battery", capacity, "house", chemistry=Chemistry.LFP, nominal_v=12.8, gauge=Gauge(GaugeKind.SHUNT)
    ),
    st.floats(50.0, 800.0),
)
SHARE = st.floats(0.0, 1.0)


def spans(words):
    """The range that a sentence shows first, as a reader sees it."""
    low, high = re.search(r"([\d.,]+)(?: to ([\d.,]+))? (?:L|kg|Ah)", words.replace(",", "")).groups()
    return float(low), float(high or low)


@given(
    store=STORES,
    share=SHARE,
    within=st.none() | st.floats(0.02, 0.3),
    ends=st.tuples(SHARE, SHARE),
    reached=st.booleans(),
)
def test_what_fits_overlaps_the_range_that_is_shown_and_what_does_not_lies_apart(store, share, within, ends, reached):
    method = store.kind.amounts if store.kind.amounts in (Method.VOLUME, Method.MASS) else Method.FRACTION
    if store.gauge.kind is GaugeKind.STEPS:
        method, share, within = Method.STEP, min(PANEL.marks, key=lambda mark: abs(mark - share)), None
    elif within is not None:
        method = Method.FRACTION
    value = share if method in (Method.STEP, Method.FRACTION) else share * store.capacity
    understood = Understood(method=method, value=value, within=within)
    reading = understood.at(a_reading(0, 0.0).at, store.id)
    expected = tuple(sorted(end * store.capacity for end in ends))
    told = fit(store, evidence(store, reading), understood, expected, reached, METRIC)
    says, shown = spans(describe(store, understood, METRIC)), spans(told.words)
    overlap = says[0] <= shown[1] and shown[0] <= says[1]
    assert bool(told.fits) is overlap
    if not overlap:
        assert "Fits" not in told.words
        assert (told.fits is False) is not reached
