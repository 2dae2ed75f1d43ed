"""What the air is taken to be like where nobody wrote it down."""

from lodeline.core.figures.table import CHOSEN, COMMON, INVENTED, Figure, Sheet


class Climate(Sheet):
    """Temperatures that nobody logged."""

    equator_c = Figure(27.0, "degC", COMMON, "mean of a year at the equator, near the sea")
    pole_c = Figure(-2.0, "degC", INVENTED, "what the same comes to at a pole, for places that people live at")
    wave_c_per_deg_north = Figure(0.22, "degC/deg", INVENTED, "half of the yearly wave a degree of latitude, north")
    wave_c_per_deg_south = Figure(0.15, "degC/deg", INVENTED, "the same, south: more sea")
    warmest_day = Figure(205.0, "day", COMMON, "warmest day of a northern year")
    half_swing_c = Figure(5.0, "degC", INVENTED, "half of a day's swing")
    sd_c = Figure(6.0, "degC", COMMON, "error of all that: height, sea, the year")
    kept_a_day = Figure(0.97, "1/day", CHOSEN, "what a day leaves of how far the last logged one was from usual")
    day_sd_c = Figure(2.5, "degC", COMMON, "how one day's mean differs from the next")
