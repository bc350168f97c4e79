"""The service as a WSGI application."""

import os

from django.core.wsgi import get_wsgi_application

from vennpair.service.kernel import tracing

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "vennpair.service.settings")
tracing.begin("web")
application = get_wsgi_application()
