"""Settings for the tests: a data folder that is thrown away, a fast hasher."""

import atexit
import os
import shutil
import tempfile

os.environ["LODELINE_DATA"] = tempfile.mkdtemp(prefix="lodeline-test-")
atexit.register(shutil.rmtree, os.environ["LODELINE_DATA"], ignore_errors=True)

from lodeline.site.settings import *  # noqa: E402, F403

DEMO = True
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
# in memory: nobody else writes there
DATABASES["default"]["ENGINE"] = "django.db.backends.sqlite3"  # noqa: F405
