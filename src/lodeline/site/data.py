"""Where the data lies: never in the source tree."""

import os
from pathlib import Path


def data_folder() -> Path:
    """The folder that ``LODELINE_DATA`` names, else one in the user's data folder; made if it is not there."""
    named = os.environ.get("LODELINE_DATA")
    if named:
        folder = Path(named).expanduser()
    else:
        base = Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")
        folder = base / ("lodeline-demo" if os.environ.get("LODELINE_DEMO") == "1" else "lodeline")
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    return folder
