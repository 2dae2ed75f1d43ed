"""How much a request may bring, by its address. What is larger is refused by its length, before it is read."""

import re

KIB, MIB = 1024, 1024 * 1024
MOST_BODY = 64 * KIB
# Only for who is signed in: a rig of many parts, and a whole log.
_LARGER = (
    (re.compile(r"/api/rigs/\d{1,15}(?:/checks)?"), 256 * KIB),
    (re.compile(r"/api/rigs/\d{1,15}/places/(?:preview|import)"), 6 * MIB),
    (re.compile(r"/api/(?:imports(?:/preview)?|rigs/\d{1,15}/import(?:/preview)?)"), 64 * MIB),
)
MOST_OF_ALL = max(most for _, most in _LARGER)


# How long a request may take; one that goes over a whole log, also of many years on a small machine, of which there is
# one at a time. A rig's timezone puts each entry on its date. [s]
_PATIENCE_S, _LOG_S = 10.0, 60.0
_OF_A_LOG = re.compile(r"/api/(?:imports(?:/preview)?|rigs/\d{1,15}(?:/(?:import(?:/preview|/undo)?|export|delete))?)")


def patience_s(path: str) -> float:
    """How long a request may take, by its address. [s]"""
    return _LOG_S if _OF_A_LOG.fullmatch(path) else _PATIENCE_S


def most_body(path: str) -> int:
    """The longest body that an address takes. [bytes]"""
    return next((most for address, most in _LARGER if address.fullmatch(path)), MOST_BODY)
