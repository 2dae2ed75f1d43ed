"""A ration in words: so many litres a day, what that allows, which published floor it lies under."""

from datetime import date

from lodeline.core.figures import Water
from lodeline.core.water.ration import Allowed, Floor, Ration
from lodeline.text.display import Display, capital, listed
from lodeline.text.horizon import first
from lodeline.text.times import date_words, day_name
from lodeline.text.water import often


def sure_words(sure: float) -> str:
    """How sure it is to last: ``nine times in ten``."""
    return _TIMES.get(round(sure * 20), f"{round(sure * 100)} times in a hundred")


_TIMES = {16: "eight times in ten", 18: "nine times in ten", 19: "nineteen times in twenty"}


def headline(ration: Ration, display: Display) -> str:
    """The ration itself: ``To last until the morning of Sunday, nine times in ten: 14 L a day``."""
    until = f"To last until the morning of {date_words(ration.until)}, {sure_words(ration.sure)}"
    if ration.enough:
        return (
            f"{until}: as usual, {display.amount(ration.usual_l, 'L')} a day; up to {_a_day(ration, display)} would do."
        )
    return f"{until}: {_a_day(ration, display)}, in place of {display.amount(ration.usual_l, 'L')}."


def _a_day(ration: Ration, display: Display) -> str:
    return f"{display.amount(ration.a_day_l, 'L')} a day"


def binds(ration: Ration) -> str:
    """Which tank sets it."""
    return f"{ration.binds.name} {first(ration.binds)}, and sets it."


def left(ration: Ration, display: Display) -> str:
    """What is left of today's."""
    if ration.left_today_l <= 0:
        return f"Today's ration of {display.amount(ration.a_day_l, 'L')} is used up."
    return (
        f"Left of today's ration: {display.amount(ration.left_today_l, 'L')} of {display.amount(ration.a_day_l, 'L')}."
    )


def floor(ration: Ration, display: Display) -> str | None:
    """The published floor that it lies under, None above all of them."""
    if ration.floor is None:
        return None
    a_person = display.amount(ration.per_person_l, "L")
    match ration.floor:
        case Floor.SURVIVAL:
            least = display.span(Water.survival_l, Water.survival_most_l, "L")
            return (
                f"That is {a_person} a person: under the published floor of {least} to drink and eat. "
                f"Fetch water, or leave sooner."
            )
        case Floor.EMERGENCY:
            return (
                f"That is {a_person} a person: under the published floor of {display.amount(Water.emergency_l, 'L')} "
                f"for an emergency. Drinking comes first."
            )
        case Floor.BASIC:
            least = display.span(Water.basic_l, Water.basic_most_l, "L")
            return f"That is {a_person} a person: under the published floor of {least} for all basic needs."


def allows(ration: Ration, display: Display) -> list[str]:
    """What the ration allows, a line for each use."""
    today = ration.path[0][0] if ration.path else ration.until
    told = [one for one in ration.allowed if one.activity.event or one.cut or one.activity.need]
    lines = [_line(one, today, display) for one in told]
    if ration.allowed and ration.short_l > _SHORT_SHARE * ration.a_day_l:
        lines.append(f"Even so {display.amount(ration.short_l, 'L')} a day are missing: it does not last until then")
    return lines


def _line(one: Allowed, today: date, display: Display) -> str:
    name = capital(one.activity.name)
    if one.activity.need:
        return f"{name}: as usual, {display.amount(one.per_day * one.each_l, 'L')} a day"
    if one.instead and one.per_day > 0:
        name = _INSTEAD.get(one.activity.id, name)
    takes = f"about {display.amount(one.each_l, 'L')}"
    if one.activity.event is None:
        return f"{name}: with less, {takes} a person a day"
    if one.per_day <= 0:
        return f"{name}: none aboard"
    if one.dates:
        names = [day_name(on, today) for on in one.dates]
        on = "" if names[0] in _WITHOUT_ON else "on "
        who = "each " if one.each_on_a_date > 1 else ""
        return f"{name}, {takes}: one {who}{on}{listed(names)}"
    if one.per_day < _SELDOM:
        return f"{name}: none until then"
    return f"{name}, {takes}: {often(one.per_day)}"


_INSTEAD = {"dishes": "Dishes, wiped first or on paper", "shower": "Navy shower"}
_SELDOM, _SHORT_SHARE = 0.05, 0.02
_WITHOUT_ON = ("today", "tomorrow")


def agreed(ration: Ration, display: Display) -> str:
    """What a ration is called once it is agreed on."""
    return f"Water ration, {display.amount(ration.a_day_l, 'L')} a day"
