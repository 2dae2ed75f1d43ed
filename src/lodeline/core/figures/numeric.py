"""Guards of floating-point arithmetic: small enough to change no answer."""

from lodeline.core.figures.table import NUMERICAL, Figure, Sheet


class Numeric(Sheet):
    """Guards of floating-point arithmetic."""

    tiny = Figure(1e-9, "1", NUMERICAL, "least divisor of amounts and shares")
    tiny_variance = Figure(1e-12, "1", NUMERICAL, "least divisor of variances and of single-precision sums")
    tiny_square = Figure(1e-18, "1", NUMERICAL, "least variance of which a root is taken")
    small = Figure(1e-6, "1", NUMERICAL, "least standard deviation that a likelihood is taken with")
    log_floor = Figure(1e-300, "1", NUMERICAL, "least number of which a logarithm is taken")
    most_exponent = Figure(200.0, "1", NUMERICAL, "exponent over which a likelihood is not reckoned")
    least_variance_share = Figure(1e-6, "1", NUMERICAL, "share of a variance that cutting a normal leaves at least")
    least_mass = Figure(1e-5, "1", NUMERICAL, "chance within the ends under which a grid is used instead of a formula")
    density_ends_sd = Figure(38.0, "1", NUMERICAL, "standard deviations beyond which a normal density is 0")
    grid_points = Figure(241, "1", NUMERICAL, "points of the grid on which a banded posterior is integrated")
    grid_sd = Figure(6.0, "1", NUMERICAL, "standard deviations that this grid reaches to each side")
    grid_edge_sd = Figure(3.0, "1", NUMERICAL, "the same where the level lies outside the bands")
    wide = Figure(1e3, "1", NUMERICAL, "widest standard deviation on that grid, in spans of the bands")
    clear_of_ends_sd = Figure(2.5, "1", NUMERICAL, "standard deviations from an end at which cutting changes nothing")
    clear_of_clipping_sd = Figure(3.0, "1", NUMERICAL, "the same where a level piles up at its ends")
    bound_far_sd = Figure(
        4.0, "1", NUMERICAL, "standard deviations by which a lower bound must be missed to say nothing"
    )
    bound_near_sd = Figure(2.2, "1", NUMERICAL, "the same of what is less likely over a bound")
    bound_kept = Figure(1e-3, "1", NUMERICAL, "least share of a variance that a lower bound leaves")
    bound_most = Figure(1.5, "1", NUMERICAL, "largest share, where what lies over a bound becomes likelier")
    trusted = Figure(1e-3, "1", NUMERICAL, "chance of an outlier under which a measurement is taken as good")
    sure_word = Figure(0.999, "1", NUMERICAL, "chance of a sky word above which it is sure")
    sun_block_days = Figure(16, "day", NUMERICAL, "dates whose sun is worked out at once")
    cache_entries = Figure(1024, "1", NUMERICAL, "blocks of dates whose sun is kept ready")
    cache_days = Figure(4096, "1", NUMERICAL, "days of yield kept ready")
    most_cv = Figure(1.5, "1", NUMERICAL, "largest day-to-day spread that a path draws")
    most_state_cv = Figure(2.0, "1", NUMERICAL, "largest relative error of a coefficient that a path draws")
