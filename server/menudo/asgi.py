"""The web program, for any ASGI server."""

import os

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "menudo.settings")
django.setup(set_prefix=False)

# What these read is there when Django is.
from menudo.base.body_limit import BodyLimit  # noqa: E402
from menudo.base.handler import Handler  # noqa: E402
from menudo.request_limits import body_limit  # noqa: E402

application = BodyLimit(Handler(), body_limit)
