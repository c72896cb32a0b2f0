"""The web program, for any ASGI server."""

import os

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "menudo.settings")
_django = get_asgi_application()

# What these read is there when Django is.
from menudo.base.body_limit import BodyLimit  # noqa: E402
from menudo.request_limits import body_limit  # noqa: E402

application = BodyLimit(_django, body_limit)
