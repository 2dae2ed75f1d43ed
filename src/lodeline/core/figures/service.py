"""When people serve their stores, before a rig's own log says."""

from lodeline.core.figures.table import CHOSEN, COMMON, Figure, Sheet


class Serving(Sheet):
    """Services as evidence. Margins and needs are shares of the way from a store's good end to its line."""

    margin = Figure(0.8, "1", COMMON, "how far most stores are let come before they are served")
    margin_sd = Figure(0.15, "1", COMMON, "how rigs differ in that")
    one_cv = Figure(0.15, "1", COMMON, "how one service of a rig differs from another, as a share of its margin")
    least_need = Figure(0.05, "1", CHOSEN, "under which nothing is served for need")
    by_need = Figure(0.7, "1", COMMON, "chance that a service alone was for need, not because a tap or drain was there")
    usual_services = Figure(4.0, "1", CHOSEN, "services of a rig that tell of it as much as what is usual")
    known_need_sd = Figure(0.15, "1", CHOSEN, "error of a need under which a service tells of its people's ways")
    little_need = Figure(0.4, "1", CHOSEN, "need under which a store is served for the occasion")
    near_full = Figure(0.85, "1", COMMON, "the same of what is served on foot, and of bottles")
    together = Figure(0.65, "1", COMMON, "what that chance comes to, times, where other stores were served beside it")
    bottle_margin = Figure(0.95, "1", COMMON, "a bottle is swapped when it is empty")
    bottle_margin_sd = Figure(0.1, "1", COMMON, "how rigs differ in that")
    fuel_margin = Figure(0.75, "1", COMMON, "how far a vehicle's tank is let come")
    fuel_margin_sd = Figure(0.2, "1", COMMON, "how rigs differ in that")
    fuel_by_need = Figure(0.5, "1", COMMON, "one in two passes a pump with room in the tank and fills up")
    beside_h = Figure(4.0, "h", CHOSEN, "services within this time are of one stop")
    widest = Figure(1.05, "1", COMMON, "a service for the occasion finds a store anywhere up to this")
    served_a_day = Figure(0.5, "1/day", COMMON, "chance that a store past its margin is served on a day")
    edge_cv = Figure(0.1, "1", COMMON, "how sharply that sets in, as a share of the margin")
    not_logged = Figure(1.0, "1", COMMON, "services that went unlogged, before the log says")
    logged = Figure(12.0, "1", COMMON, "and services that were logged")
    not_logged_blank = Figure(0.7, "1", COMMON, "chance that a service was not logged on a day without any entry")
    overfull = Figure(
        0.02, "1", COMMON, "what is left of the chance of a level that leaves no room for what was filled"
    )
    to_the_brim = Figure(0.6, "1", COMMON, "chance that an amount that was filled in filled it up, where it was much")
    more_than_a_can = Figure(0.4, "1", CHOSEN, "share of capacity from which an amount is much")
    under_brim = Figure(0.03, "1", COMMON, "how far under the brim such a fill ends, and its error")
    least_trust = Figure(0.25, "1", CHOSEN, "chance of need under which a service teaches nothing of use")
    margin_holds_days = Figure(60.0, "day", CHOSEN, "after which a margin is e times nearer to what is usual")
