"""Where the data lies: never in the source tree, and readable by its owner only."""

import contextlib
import os
from pathlib import Path

DATABASE = "lodeline.sqlite3"
_FOLDERS = ("exports", "backups", "locks", "cache")
_OURS = ("secret_key", DATABASE, f"{DATABASE}-wal", f"{DATABASE}-shm", f"{DATABASE}-turn")
_OTHERS_MAY = 0o077


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


def close_to_others(folder: Path) -> None:
    """Take from everybody else what they may do with our folder and files, also where these were found, not made.

    A folder that holds other things as well is left as it is: it is somebody's. What cannot be changed stays.
    """
    names = {each.name for each in folder.iterdir()}
    files = [folder / name for name in names if name in _OURS or name.startswith("before-restore-")]
    inner = [folder / name for name in names if name in _FOLDERS]
    files += [each for sub in inner if sub.name in ("exports", "backups") for each in sub.iterdir()]
    whole = [folder] if files or not names else []
    for path in (*whole, *inner, *files):
        with contextlib.suppress(OSError):
            if (mode := path.stat().st_mode) & _OTHERS_MAY:
                path.chmod(mode & ~_OTHERS_MAY)
