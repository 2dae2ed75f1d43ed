"""The application as gunicorn serves it: loaded once, before its workers are forked."""

import os
from importlib import import_module

from django.core.wsgi import get_wsgi_application

from lodeline.site.master import keep_shared

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lodeline.site.settings")
application = get_wsgi_application()

# loaded by now, the views are not waited for at the first answer
import_module("lodeline.site.urls")
keep_shared()
