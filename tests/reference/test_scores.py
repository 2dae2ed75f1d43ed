"""Against scoringrules 0.10: CRPS and the ranked probability score."""

import numpy as np
import pytest
import scoringrules

from lodeline.core.forecast.seen import normal_crps, ranked_probability_score


@pytest.mark.parametrize("z", [-3.0, -0.4, 0.0, 1.0, 2.7])
@pytest.mark.parametrize("sd", [0.5, 4.0])
def test_crps_of_a_normal(z, sd):
    assert sd * normal_crps(z) == pytest.approx(scoringrules.crps_normal(z * sd, 0.0, sd), rel=1e-9)


@pytest.mark.parametrize("shown", [0, 1, 2, 3])
def test_the_ranked_probability_score_of_a_mark(shown):
    chances = np.array([0.1, 0.25, 0.5, 0.15])
    # the library adds the squares up; ours is their mean, over all categories but the last
    theirs = scoringrules.rps_score(shown + 1, chances)
    assert ranked_probability_score(np.cumsum(chances)[:-1], shown) == pytest.approx(theirs / 3, rel=1e-6)
