"""Stops and levers: what is tried, what an act takes, how far a plan is searched."""

from lodeline.core.figures.table import CHOSEN, COMMON, Figure, Sheet


class Stops(Sheet):
    """Places, ways, the plan and the ticket."""

    road_factor = Figure(1.3, "1", "the file contract", "way by road over the great circle")
    road_km_per_h = Figure(50.0, "km/h", "the file contract", "speed on the way to a stop")
    most_days = Figure(28, "day", CHOSEN, "how far a plan looks at most")
    risk = Figure(0.1, "1", CHOSEN, "chance of passing a line that a crew accepts until it says otherwise")
    arrivals_h = Figure((9.0, 12.0, 15.0, 18.0), "h", CHOSEN, "hours at which a plan has somebody arrive")
    earliest_h = Figure(7.0, "h", COMMON, "hour before which nobody sets out")
    latest_h = Figure(20.0, "h", COMMON, "hour after which nobody arrives")
    soonest_h = Figure(0.5, "h", CHOSEN, "hours from now before which nobody is under way")
    leave_step_h = Figure(0.25, "h", CHOSEN, "step in which the latest departure is looked for")
    hookup_until_h = Figure(10.0, "h", COMMON, "hour at which a site is left after a night plugged in")
    most_stops = Figure(14, "1", CHOSEN, "most stops of a plan")
    most_nodes = Figure(9000, "1", CHOSEN, "plans in part that are looked at before the search ends")
    most_walks = Figure(24, "1", CHOSEN, "ways of charging whose bank is walked hour by hour in one search")
    stands_within = Figure(0.05, "1", CHOSEN, "chance over the risk up to which a last plan stands for a while")
    stop_saves = Figure(0.01, "1", CHOSEN, "chance that a stop more has to save where the risk cannot be kept")
    relaxed = Figure(
        (1.0, 1.25, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.5, 8.0),
        "1",
        CHOSEN,
        "times the risk that are then looked at in turn",
    )
    late_h = Figure(60.0, "h", CHOSEN, "hours before a line within which a stop is then looked for")
    beam = Figure(12, "1", CHOSEN, "plans in part that are kept where none keeps the risk")
    serve_sd = Figure(0.02, "1", COMMON, "error of full and empty after a service, as a share of capacity")
    l_per_min = Figure(8.0, "L/min", COMMON, "flow of a tap until its own is known")
    rinse_min = Figure(4.0, "min", COMMON, "rinsing until it runs clear")
    km_per_l = Figure(9.0, "km/L", COMMON, "way on a litre of fuel where the rig has none that is logged")
    walk_km = Figure(1.0, "km", COMMON, "as far as water or a cassette is carried")
    old_days = Figure(365.0, "day", CHOSEN, "after so many days what is known of a place is old")
    near_km = Figure(0.3, "km", CHOSEN, "a night logged so near a place of the book was spent there")
    due_within_h = Figure(30.0, "h", CHOSEN, "hours in which a line that is passed already is to be served")
    charger_share = Figure(0.85, "1", COMMON, "part of what a charger takes from a post that reaches the bank")
    post_v = Figure(230.0, "V", COMMON, "volts of a post until its own are known")
    post_north_america_v = Figure(120.0, "V", COMMON, "the same of a post of 15 to 30 A in North America")
    north_america_lat = Figure(7.0, "deg", CHOSEN, "latitude of the Americas over which posts are of that")
    usual_days = Figure(2.0, "day", CHOSEN, "days between stops, where it is asked whether driving empties its tank")
    worth_share = Figure(0.05, "1", CHOSEN, "share of capacity from which a free act is worth doing")
    others_share = Figure(4, "1", CHOSEN, "how many times less another plan is searched for than the first")
    most_others = Figure(2, "1", CHOSEN, "other plans that are shown")


class Levers(Sheet):
    """What habits take and what sparing brings."""

    dishes_l = Figure(7.0, "L/day", COMMON, "dishes of a crew, by hand")
    navy_spares = Figure(0.5, "1", COMMON, "part of a shower that a navy shower spares: 6 to 10 L for 15 to 25")
    wipe_spares = Figure(0.45, "1", COMMON, "part of the dishes' water that wiping and paper plates spare")
    wash_spares = Figure(0.4, "1", COMMON, "part of the water for hands and face that a cloth and a bowl spare")
    flush_spares = Figure(0.35, "1", COMMON, "part of a flush that flushing less spares")
    toilet_flush = Figure(0.5, "1", COMMON, "part of what a toilet with water takes that is flush")
    jug_l = Figure(20.0, "L", COMMON, "a jug")
    bottle_share = Figure(1.0, "1", CHOSEN, "how much larger a bigger bottle is")
    usual_place = Figure(-0.05, "1", CHOSEN, "sun at a place, over others, under which it is worth moving")
    believed = Figure(0.4, "1", CHOSEN, "share of what is common that a shower must take by the log to be believed")
    most_spared = Figure(0.85, "1", CHOSEN, "largest share of a driver's use that levers spare together")
    before_days = Figure(14, "day", CHOSEN, "days before an agreement that its use is held against")
    judged_days = Figure(2, "day", CHOSEN, "whole days from which an agreement is judged")
    kept_from = Figure(0.5, "1", CHOSEN, "share of what was expected from which an agreement was kept")
    seen_from = Figure(0.2, "1", CHOSEN, "and from which it was kept in part")
    most_together = Figure(3, "1", CHOSEN, "levers of which every set is tried")
    most_set = Figure(6, "1", CHOSEN, "levers of the largest set")
    most_hardship = Figure(5, "1", CHOSEN, "the hardest that a lever may be")
