"""Pinball loss and CRPS against scoringrules 0.10 (Gneiting and Raftery 2007)."""

import numpy as np
import pytest
import scoringrules

from lodeline.core.forecast.score import crps, pinball


@pytest.mark.parametrize("share", [0.1, 0.5, 0.9])
@pytest.mark.parametrize(("quantile", "truth"), [(3.0, 4.5), (3.0, 1.2), (3.0, 3.0)])
def test_pinball(share, quantile, truth):
    assert pinball(share, quantile, truth) == pytest.approx(
        float(scoringrules.quantile_score(truth, quantile, share)), abs=1e-12
    )


def test_crps():
    rng = np.random.default_rng(5)
    draws = rng.gamma(3, 1.5, 200)
    for truth in (0.5, 4.0, 15.0):
        theirs = float(scoringrules.crps_ensemble(truth, draws, estimator="nrg", backend="numpy"))
        assert crps(draws, truth) == pytest.approx(theirs, abs=1e-10)
