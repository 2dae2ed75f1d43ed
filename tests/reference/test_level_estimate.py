"""Level and covariance against filterpy 2.0's Kalman filter; interval updates against scipy's truncated normal."""

import filterpy.kalman
import numpy as np
import pytest
import scipy.integrate
import scipy.stats

from lodeline.core.tracking.belief import (
    Belief,
    band_posterior,
    cut_to_ends,
    held_back,
    kalman_update,
    less_likely_above,
    robust_update,
)
from lodeline.core.tracking.coupling import hear, unusual_days
from lodeline.core.tracking.hypothesis import Hypothesis
from tests.builders import at


def test_linear_updates_equal_filterpy_to_1e_9():
    rng = np.random.default_rng(3)
    theirs = filterpy.kalman.KalmanFilter(dim_x=3, dim_z=1)
    theirs.x = np.array([[80.0], [12.0], [0.0]])
    theirs.P = np.diag([9.0, 16.0, 4.0])
    theirs.H = np.array([[1.0, 0.0, 1.0]])
    theirs.R = np.array([[6.25]])
    theirs.Q = np.diag([3.0, 0.2, 0.01])
    ours = Belief(theirs.x[:, 0].copy(), theirs.P.copy())
    for step in range(40):
        days = float(rng.uniform(0.2, 1.5))
        theirs.F = np.array([[1.0, -days, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]])
        ours = Belief(theirs.F @ ours.mean, theirs.F @ ours.cov @ theirs.F.T + theirs.Q)
        theirs.predict()
        reading = 80.0 - 11.0 * step + float(rng.normal(0, 2.5))
        theirs.update(reading)
        ours = kalman_update(ours, theirs.H[0], reading, 6.25)
        np.testing.assert_allclose(ours.mean, theirs.x[:, 0], atol=1e-9)
        np.testing.assert_allclose(ours.cov, theirs.P, atol=1e-9)


def test_a_hand_worked_update():
    # prior 50 +- 10, reading 60 +- 10: halfway, and the variance halves
    after = kalman_update(Belief(np.array([50.0, 0.0]), np.diag([100.0, 0.0])), np.array([1.0, 0.0]), 60.0, 100.0)
    assert after.mean[0] == pytest.approx(55.0)
    assert after.cov[0, 0] == pytest.approx(50.0)


@pytest.mark.parametrize(("mean", "sd"), [(50.0, 12.0), (30.0, 5.0), (68.0, 3.0), (95.0, 8.0)])
def test_a_mark_gives_the_moments_of_the_integrated_posterior(mean, sd):
    bands = ((0.0, 33.0, 0.025), (33.0, 67.0, 0.95), (67.0, 97.0, 0.025), (97.0, 100.0, 0.004))
    edges = [band[0] for band in bands] + [100.0]

    def integrate(power: int, centre: float = 0.0) -> float:
        def density(x: float, weight: float) -> float:
            return weight * scipy.stats.norm.pdf(x, mean, sd) * (x - centre) ** power

        return sum(
            scipy.integrate.quad(density, low, high, args=(weight,), points=None, limit=200)[0]
            for (low, _, weight), high in zip(bands, edges[1:], strict=True)
        )

    total = integrate(0)
    expected = integrate(1) / total
    variance = integrate(2, expected) / total
    centre, spread, _ = band_posterior(mean, sd, bands)
    assert centre == pytest.approx(expected, abs=0.02 * sd)
    assert spread == pytest.approx(variance, rel=0.04)


@pytest.mark.parametrize(("mean", "sd"), [(97.0, 6.0), (2.0, 3.0), (50.0, 40.0)])
def test_the_ends_of_the_tank_cut_as_a_truncated_normal(mean, sd):
    after = cut_to_ends(Belief(np.array([mean, 1.0, 0.0]), np.diag([sd**2, 1.0, 0.0])), 100.0)
    exact = scipy.stats.truncnorm((0 - mean) / sd, (100 - mean) / sd, loc=mean, scale=sd)
    assert after.level == pytest.approx(exact.mean(), abs=0.01 * sd)
    assert after.sd == pytest.approx(exact.std(), rel=0.01)


def test_a_reading_that_may_be_an_outlier_gives_the_moments_of_the_mixture():
    prior = Belief(np.array([70.0, 0.0]), np.diag([16.0, 0.0]))
    after, trust = robust_update(prior, np.array([1.0, 0.0]), 55.0, 9.0, 100.0, outlier=0.02)

    def posterior(x: float) -> float:
        return scipy.stats.norm.pdf(x, 70, 4) * (0.98 * scipy.stats.norm.pdf(55, x, 3) + 0.02 / 100)

    total = scipy.integrate.quad(posterior, 30, 110)[0]
    mean = scipy.integrate.quad(lambda x: x * posterior(x), 30, 110)[0] / total
    variance = scipy.integrate.quad(lambda x: (x - mean) ** 2 * posterior(x), 30, 110)[0] / total
    assert after.mean[0] == pytest.approx(mean, abs=1e-4)
    assert after.cov[0, 0] == pytest.approx(variance, abs=1e-3)
    assert 0 < trust < 1


def test_a_falling_level_equals_the_state_space_model_of_statsmodels():
    # local linear trend with a fixed slope variance, statsmodels 0.15: level and variance, linear case, to 1e-9
    import statsmodels.api as sm

    rng = np.random.default_rng(8)
    readings = 90.0 - 7.0 * np.arange(25) + rng.normal(0, 2.0, 25)
    model = sm.tsa.UnobservedComponents(readings, "local linear trend")
    model.ssm.initialize_known(np.array([90.0, -6.0]), np.diag([16.0, 4.0]))
    theirs = model.smooth([4.0, 3.0, 0.2])
    ours = Belief(np.array([90.0, -6.0]), np.diag([16.0, 4.0]))
    step, noise = np.array([[1.0, 1.0], [0.0, 1.0]]), np.diag([3.0, 0.2])
    for number, reading in enumerate(readings):
        ours = kalman_update(ours, np.array([1.0, 0.0]), float(reading), 4.0)
        np.testing.assert_allclose(ours.mean, theirs.filtered_state[:, number], atol=1e-9)
        np.testing.assert_allclose(ours.cov, theirs.filtered_state_cov[:, :, number], atol=1e-9)
        ours = Belief(step @ ours.mean, step @ ours.cov @ step.T + noise)


@pytest.mark.parametrize("read_again_after_h", [0.0, 12.0, 40.0])
def test_what_a_fresh_reading_says_of_the_grey_tank_is_the_conditional_normal(read_again_after_h):
    # two days of fresh and grey as one joint normal, split where grey was last read; conditioned by plain algebra
    share = 1 - read_again_after_h / 48
    start_var, fresh_var, grey_var, error_var, correlation = 4.0, 30.0, 20.0, 2.25, 0.7
    together = -correlation * np.sqrt(fresh_var * share * grey_var)
    cov = np.array([[start_var + fresh_var + error_var, together], [together, 1.0 + grey_var]])
    miss = -9.0
    exact_mean = 40.0 + cov[0, 1] / cov[0, 0] * miss
    exact_var = cov[1, 1] - cov[0, 1] ** 2 / cov[0, 0]

    before = Belief(np.array([60.0, 20.0, 0.0]), np.diag([start_var + fresh_var, 1.0, 0.0]))
    after = kalman_update(before, np.array([1.0, 0.0, 0.0]), 60.0 + miss, error_var)
    unusual = unusual_days(at(0), at(2), before, after, fresh_var)
    grey = Belief(np.array([40.0, 17.0, 0.0]), np.diag([1.0 + grey_var, 1.0, 0.0]))
    hypothesis = Hypothesis(belief=grey, x_since=np.zeros(1), process_var=grey_var)
    hear(hypothesis, unusual, at(0, 20.0 + read_again_after_h), correlation, 200.0)
    assert hypothesis.belief.level == pytest.approx(exact_mean)
    assert hypothesis.belief.cov[0, 0] == pytest.approx(exact_var)


@pytest.mark.parametrize(("mean", "sd"), [(-0.5, 0.4), (0.2, 0.3), (1.0, 0.5)])
def test_what_is_less_likely_above_a_bound_has_the_moments_of_the_weighed_normal(mean, sd):
    prior = Belief(np.array([mean, 3.0]), np.array([[sd**2, 0.5 * sd], [0.5 * sd, 1.0]]))
    after = less_likely_above(prior, np.array([1.0, 0.0]), 0.0, 0.0, 0.4)

    def weighed(x: float) -> float:
        return scipy.stats.norm.pdf(x, mean, sd) * (0.4 if x > 0 else 1.0)

    def moment(power: int, centre: float = 0.0) -> float:
        return sum(
            scipy.integrate.quad(lambda x: weighed(x) * (x - centre) ** power, low, high)[0]
            for low, high in ((mean - 9 * sd, 0.0), (0.0, mean + 9 * sd))
        )

    expected = moment(1) / moment(0)
    assert after.mean[0] == pytest.approx(expected, abs=1e-6)
    assert after.cov[0, 0] == pytest.approx(moment(2, expected) / moment(0), rel=1e-6)
    # the rest follows by its regression on what was weighed
    assert after.mean[1] - 3.0 == pytest.approx(0.5 / sd * (expected - mean), abs=1e-6)


@pytest.mark.parametrize("room", [-30.0, -5.0, 8.0, 25.0])
def test_what_a_full_bank_holds_back_leaves_the_moments_of_the_rectified_normal(room):
    """A level of 150 +- 15 after a step, of which all over 150 + room is held back; drawn a million times."""
    rng = np.random.default_rng(5)
    level, use = rng.multivariate_normal([150.0, 2.0], [[225.0, 9.0], [9.0, 1.0]], 1_000_000).T
    kept = np.minimum(level, 150.0 + room)
    belief = Belief(np.array([150.0, 2.0]), np.array([[225.0, 9.0], [9.0, 1.0]]))
    after, chance = held_back(belief, belief.cov[:, 0], -room, 225.0)
    assert chance == pytest.approx(np.mean(level > 150.0 + room), abs=2e-3)
    assert after.level == pytest.approx(np.median(kept), abs=0.1)
    assert after.cov[0, 0] == pytest.approx(kept.var(), rel=0.02)
    assert after.cov[0, 1] == pytest.approx(np.cov(kept, use)[0, 1], abs=0.1)


def test_bands_far_in_a_tail_fall_back_on_the_grid():
    bands = tuple((10.0 * n, 10.0 * n + 10.0, 1.0 if n == 9 else 1e-12) for n in range(10))
    centre, variance, _ = band_posterior(20.0, 3.0, bands)
    assert 10 < centre < 30
    assert variance > 0
