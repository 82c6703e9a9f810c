"""The WSGI entry point."""

import os
from importlib import import_module

from django.conf import settings
from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jackstaff.site.settings")
application = get_wsgi_application()
# All addresses are built before the workers part: once, and shared, instead of at each one's first request.
import_module(settings.ROOT_URLCONF)
