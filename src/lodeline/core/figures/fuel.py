"""Bottles, tanks and engines."""

from lodeline.core.figures.table import CHOSEN, COMMON, MEMORY, Figure, Sheet


class Fuel(Sheet):
    """What gas and fuel do beside burning."""

    filled_to = Figure(0.8, "1", f"{MEMORY}: NFPA 58; common practice", "part of a gas tank that is filled")
    propane_kg_per_l = Figure(0.51, "kg/L", f"{MEMORY}: NFPA 58 annex, 4.20 lb/gal", "liquid propane")
    butane_kg_per_l = Figure(0.58, "kg/L", MEMORY, "liquid butane")
    propane_wagner = Figure(
        (369.8, 42.5, -6.72219, 1.33236, -2.13868, -1.38551),
        "K, bar, 1",
        f"{MEMORY}: Reid, Prausnitz and Poling 1987",
        "critical temperature and pressure of propane, and Wagner's constants",
    )
    butane_wagner = Figure(
        (425.2, 38.0, -6.88709, 1.15157, -1.99873, -3.13003),
        "K, bar, 1",
        f"{MEMORY}: Reid, Prausnitz and Poling 1987",
        "the same of n-butane",
    )
    air_bar = Figure(1.01325, "bar", "standard atmosphere", "pressure that vapour has to overcome")
    mix_propane = Figure(0.3, "1", COMMON, "share of propane in a mixed bottle of which nobody said")
    drawn_at_c = Figure(10.0, "degC", CHOSEN, "bottle's temperature at which a mix is taken to have been drawn so far")
    latent_wh_per_kg = Figure(104.0, "Wh/kg", f"{MEMORY}: 375 kJ/kg at 0 degC", "heat that boils propane")
    wall_w_per_m2k = Figure(12.0, "W/(m2 K)", COMMON, "heat from still air through a wetted bottle's wall")
    wall_m2_per_kg = Figure(0.11, "m2/kg^(2/3)", COMMON, "wall of a full bottle over its contents to the two thirds")
    outside_unsaid = Figure(0.4, "1", COMMON, "chance that a bottle of which nobody said stands in the frost")
    frost_bar = Figure(0.2, "bar", COMMON, "pressure over the air's that a regulator needs under flow")
    pick_up = Figure(0.2, "1", COMMON, "level at which a heater's pick-up in a main tank stops: near a quarter")
    pump_margin = Figure(1.25, "1", COMMON, "fuel that is kept for the way to the next pump, over the way itself")
    pump_least = Figure(0.05, "1", CHOSEN, "share of a tank under which nobody drives, whatever the way")
    fast_km_per_h = Figure(75.0, "km/h", CHOSEN, "mean speed of a drive from which it was on fast roads")
    slow_km_per_h = Figure(45.0, "km/h", CHOSEN, "mean speed of a drive up to which it was on slow ones")
    list_apart = Figure(0.15, "1", CHOSEN, "share by which list and log may differ before it is said")
    list_days = Figure(14, "day", CHOSEN, "days over which list and log are held against each other")
    bottle_days_most = Figure(400.0, "day", CHOSEN, "days of a bottle beyond which none are told")
    idle_share = Figure(0.25, "1", COMMON, "what a generator burns at no load, over that at full load")
    oil_hours = Figure(100.0, "h", COMMON, "hours of a generator after which its oil is due")
    season_days = Figure(120, "day", CHOSEN, "days that count as the season, at most")
    more_w = Figure(100.0, "W", CHOSEN, "panel that is held against the generator")
    more_ah = Figure(100.0, "Ah", CHOSEN, "bank that is held against it")
    showers_l = Figure(24.0, "L", CHOSEN, "hot water asked about first: three showers, the tap shut between")
