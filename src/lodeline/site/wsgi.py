"""The application as gunicorn serves it."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lodeline.site.settings")
application = get_wsgi_application()
