"""The application as gunicorn serves it: loaded once, before its workers are forked."""

import gc
import os
from importlib import import_module

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lodeline.site.settings")
application = get_wsgi_application()

# loaded by now, the views are not waited for at the first answer
import_module("lodeline.site.urls")
# and what is loaded is shared by all processes as long as nobody writes to it, which looking for rubbish does: it was
# not looked for while loading
gc.collect()
gc.freeze()
gc.enable()
