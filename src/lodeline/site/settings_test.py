"""Settings for the tests: a data folder that is thrown away, a fast hasher."""

import os
import tempfile

os.environ["LODELINE_DATA"] = tempfile.mkdtemp(prefix="lodeline-test-")

from lodeline.site.settings import *  # noqa: F403

DEMO = True
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
# in memory: nobody else writes there
DATABASES["default"]["ENGINE"] = "django.db.backends.sqlite3"  # noqa: F405
