"""What the API answers where a request is not about a field: nobody signed in, nothing there, a defect."""

NOT_THERE = "There is no such thing here."
NOT_SIGNED_IN = "Sign in first."
NOT_YOURS = "Only the rig's owner can do this."
ONLY_READS = "You can see this rig, but not change it; ask its owner."
NOT_A_REQUEST = "This is not a request that can be read."
STALE_PAGE = "This page is out of date. Load it again."


def too_large(most_kib: int) -> str:
    """A body over the limit of its address."""
    most = f"{most_kib} kB" if most_kib < 1024 else f"{most_kib // 1024} MB"
    return f"This is too large: at most {most} can be sent here. Nothing was kept."


def defect(request_number: str) -> str:
    """A defect, with the number under which the server's log has it."""
    where = f"In the server's log: request {request_number}."
    return f"Lodeline failed here. Load the page again to see what was saved. {where}"
