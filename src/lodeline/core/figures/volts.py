"""What terminal volts of a bank are worth. Volts are those of a 12 V block."""

from lodeline.core.figures.table import CHOSEN, COMMON, NUMERICAL, Figure, Sheet


class Volts(Sheet):
    """Volts as evidence of a level."""

    cells = Figure(50, "1", NUMERICAL, "bands of contents that volts are weighed in")
    rest_sd_v = Figure(0.07, "V", COMMON, "error of volts at rest from one reading to the next")
    rest_sd_lithium_v = Figure(0.03, "V", COMMON, "the same of lithium, whose curve is flat: 0.02 to 0.03")
    table_sd = Figure(0.07, "1", COMMON, "lasting error of a table of volts, as a share of capacity: tables differ")
    table_lithium_v = Figure(0.02, "V", COMMON, "by which tables of lithium at rest differ")
    sag_v = Figure(0.12, "V", COMMON, "how far a light evening load draws lead down: 0.05 to 0.3")
    sag_lithium_v = Figure(0.06, "V", COMMON, "the same of lithium")
    sag_sd_v = Figure(0.07, "V", COMMON, "how that differs from one reading to the next")
    sag_sd = Figure(0.08, "1", COMMON, "how a rig's sag differs from the usual one, as a share of capacity")
    heavy_chance = Figure(0.1, "1", COMMON, "chance that a load is a heavy one")
    heavy_v = Figure(0.5, "V", COMMON, "how far such a load draws a bank down")
    heavy_sd_v = Figure(0.25, "V", COMMON, "and how that differs")
    surface_chance = Figure(0.5, "1", COMMON, "chance that a charge of the last hours still stands on lead plates")
    surface_v = Figure(0.12, "V", COMMON, "what that adds")
    surface_sd_v = Figure(0.09, "V", COMMON, "and its error")
    charged_h = Figure(6.0, "h", COMMON, "hours for which it may stand there")
    freedom = Figure(4.0, "1", CHOSEN, "degrees of freedom of such errors: heavy tails")
    t_height = Figure(
        0.375, "1", "Student's t at its middle for 4 degrees of freedom", "density there, times the scale"
    )
    not_at_rest = Figure(0.1, "1", COMMON, "chance that volts said to be at rest stand under a small load")
    still = Figure(0.3, "1", COMMON, "chance that a reading of no said state and no charge is at rest")
    still_early = Figure(0.5, "1", COMMON, "the same before the day begins")
    charging_unknown = Figure(0.15, "1", COMMON, "chance of a charge where nothing is known of the hour")
    charging_in_sun = Figure(0.5, "1", COMMON, "the same while the sun is on the array")
    charging_logged = Figure(0.9, "1", COMMON, "the same while a charge that was logged runs")
    charging_else = Figure(0.03, "1", COMMON, "the same otherwise")
    early_until_h = Figure(9.0, "h", COMMON, "hour until which a day has not begun")
    absorption_from_v = Figure(0.1, "V", COMMON, "volts this near absorption are in it")
    charges_under_v = Figure(0.4, "V", COMMON, "volts so far under those that only a charge brings may still be one")
    charge_unlikely = Figure(0.2, "1", COMMON, "weight of a charge at volts under that")
    charged_to = Figure((0.0, 0.5, 0.75, 0.9, 1.0), "1", CHOSEN, "states of charge of the next three rows")
    at_absorption = Figure((0.05, 0.15, 0.6, 1.0, 1.0), "1", COMMON, "chance of volts near absorption while charging")
    at_float = Figure((0.3, 0.5, 0.6, 0.8, 1.0), "1", COMMON, "of volts near float: bulk passes there, float stays")
    under_float = Figure((1.0, 1.0, 0.8, 0.3, 0.1), "1", COMMON, "of volts under float: a bank that is full shows more")
    outlier_span_v = Figure(4.0, "V", CHOSEN, "volts that a mistyped reading may show")
