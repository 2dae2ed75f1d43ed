"""The one place where the clock is read. ``LODELINE_NOW`` fixes it for pictures and tests."""

import os
from datetime import UTC, datetime


def now() -> datetime:
    """The present, in UTC."""
    fixed = os.environ.get("LODELINE_NOW")
    if fixed:
        at = datetime.fromisoformat(fixed)
        return (at if at.tzinfo else at.replace(tzinfo=UTC)).astimezone(UTC)
    return datetime.now(UTC)
