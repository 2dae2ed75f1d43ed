"""What an account, its name or who may see a rig can be refused for, and the sentence for each."""

from enum import Enum

from lodeline.core.problems import Detailed
from lodeline.core.values import dataclass
from lodeline.text.display import Display
from lodeline.text.problems import words


class Wrong(Enum):
    """Reasons that say all there is to say by their name."""

    NAME = "name"
    CODE = "code"
    PASSWORD = "password"


@dataclass(frozen=True, slots=True)
class NotAccepted(Detailed):
    """What was typed is not what it has to be."""

    wrong: Wrong


@dataclass(frozen=True, slots=True)
class OwnsRig(Detailed):
    """An account that is the only owner of a rig."""

    rig: str


@dataclass(frozen=True, slots=True)
class NameTaken(Detailed):
    """A name that an account has already."""

    name: str


@dataclass(frozen=True, slots=True)
class NotItsName(Detailed):
    """Another text than the name that has to be typed."""

    name: str


@dataclass(frozen=True, slots=True)
class OnlyOwner(Detailed):
    """The only owner of a rig, who cannot leave it."""

    username: str


@dataclass(frozen=True, slots=True)
class TooManyInvitations(Detailed):
    """A rig with so many open invitations that no more are made."""

    most: int


@dataclass(frozen=True, slots=True)
class WeakPassword(Detailed):
    """A password that the server does not take; ``reasons`` are the checker's sentences."""

    reasons: tuple[str, ...]


_WRONG = {
    Wrong.NAME: "may hold letters and digits of any script and the marks @.+-_, at most 150 of them",
    Wrong.CODE: "this is not the code that the server's terminal shows",
    Wrong.PASSWORD: "account and password do not fit",
}


@words.register
def _not_accepted(problem: NotAccepted, _display: Display) -> str:
    return _WRONG[problem.wrong]


@words.register
def _owns_rig(problem: OwnsRig, _display: Display) -> str:
    return f"you are the only owner of {problem.rig}; make somebody else its owner, or delete it first"


@words.register
def _name_taken(problem: NameTaken, _display: Display) -> str:
    return f"there is an account {problem.name} already; choose another name, or sign in with it first"


@words.register
def _not_its_name(problem: NotItsName, _display: Display) -> str:
    return f"write the name as it stands: {problem.name}"


@words.register
def _only_owner(problem: OnlyOwner, _display: Display) -> str:
    return f"{problem.username} is the only owner; a rig needs one"


@words.register
def _too_many_invitations(problem: TooManyInvitations, _display: Display) -> str:
    return f"{problem.most} invitations are open already; end some first"


@words.register
def _weak_password(problem: WeakPassword, _display: Display) -> str:
    return " ".join(problem.reasons)
