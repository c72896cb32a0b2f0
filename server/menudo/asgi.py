"""The web program, for any ASGI server."""

import os

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "menudo.settings")
application = get_asgi_application()
