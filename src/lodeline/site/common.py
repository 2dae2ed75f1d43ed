"""The file cache in which the server's processes share what was derived."""

import pickle
import zlib
from typing import Any

from django.core.cache.backends.filebased import FileBasedCache

_QUICK = 1  # of zlib's levels: a third of the time for a tenth more room


class Common(FileBasedCache):
    """Django's, packed quickly: what is derived is read once or twice, and somebody waits for it."""

    def _write_content(self, file: Any, timeout: Any, value: Any) -> None:
        file.write(pickle.dumps(self.get_backend_timeout(timeout), self.pickle_protocol))
        file.write(zlib.compress(pickle.dumps(value, self.pickle_protocol), _QUICK))
