"""The application as gunicorn serves it."""

import os
from importlib import import_module
from threading import Thread

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lodeline.site.settings")
application = get_wsgi_application()

# the sun's library takes a second to load: it comes in while the first page is read
Thread(target=import_module, args=("pvlib.irradiance",), daemon=True).start()
