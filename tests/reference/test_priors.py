"""Rigs drawn from the priors alone live as practitioners say that rigs live (a prior predictive check)."""

import numpy as np
import pytest

from bench.worlds.priors import FIGURES, draws

DRAWN = draws(1000)


@pytest.mark.parametrize("figure", FIGURES, ids=lambda each: each.name)
def test_what_priors_lead_one_to_expect_lies_where_practice_has_it(figure):
    values = DRAWN[figure.name]
    assert figure.low < np.median(values) < figure.high
    assert np.mean((values >= figure.low) & (values <= figure.high)) > 0.7
