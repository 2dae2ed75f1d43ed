"""The file cache in which the server's processes share what was derived."""

import pickle
import random
import zlib
from pathlib import Path
from typing import Any

from django.core.cache.backends.filebased import FileBasedCache

_QUICK = 1  # of zlib's levels: a third of the time for a tenth more room
_COUNTED = 0.005  # share of writes at which it is counted how many values there are


class Common(FileBasedCache):
    """Django's, packed quickly: what is derived is read once or twice, and somebody waits for it."""

    def _write_content(self, file: Any, timeout: Any, value: Any) -> None:
        file.write(pickle.dumps(self.get_backend_timeout(timeout), self.pickle_protocol))
        file.write(zlib.compress(pickle.dumps(value, self.pickle_protocol), _QUICK))

    def _cull(self) -> None:
        # a rig has a handful of values, each in one place: to count them all at each write costs more than to write
        if random.random() < _COUNTED:
            super()._cull()  # type: ignore[misc]

    def written(self, key: str) -> int:
        """When a value was last written, 0 where it was not: another number after each write. [ns]"""
        try:
            return Path(self._key_to_file(key)).stat().st_mtime_ns  # type: ignore[attr-defined]
        except OSError:
            return 0
