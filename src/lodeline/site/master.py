"""What the master does before it forks a worker, as gunicorn asks (``--config python:lodeline.site.master``).

The first worker serves as soon as the application is loaded. What takes longest to load, and is needed by whoever
derives, is loaded before the second; the first gives way to one that shares it.
"""

import gc
import sys
from importlib import import_module
from typing import Any

_SLOW = "pvlib.irradiance"


def pre_fork(_server: Any, worker: Any) -> None:
    """Load what the worker is to share."""
    if worker.age > 1 and _SLOW not in sys.modules:
        import_module(_SLOW)
        keep_shared()


def keep_shared() -> None:
    """What is loaded is shared by all processes as long as nobody writes to it, and looking for rubbish writes."""
    gc.collect()
    gc.freeze()
