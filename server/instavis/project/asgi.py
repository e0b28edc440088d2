"""HTTP through its gate, and the live connection."""

import os

import django
from channels.auth import AuthMiddlewareStack
from channels.routing import ProtocolTypeRouter, URLRouter
from django.urls import path, re_path

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "instavis.project.settings")
django.setup(set_prefix=False)

from django.conf import settings  # noqa: E402 (needs the apps loaded)

from instavis.display.lessons.consumers import LessonConsumer, NowhereConsumer  # noqa: E402
from instavis.platform import statements as statements  # noqa: E402 (slow ones make themselves known)
from instavis.platform.gate import ALWAYS, AT_ONCE, Gate  # noqa: E402
from instavis.platform.threads import Threads  # noqa: E402
from instavis.project import worker as worker  # noqa: E402 (works are called through its queue)
from instavis.project.origins import SameOrigin  # noqa: E402

line_routes = [
    path("ws/lessons/<int:lesson_id>", LessonConsumer.as_asgi()),
    re_path(r"^.*$", NowhereConsumer.as_asgi()),
]

application = ProtocolTypeRouter(
    {
        "http": Gate(Threads(AT_ONCE + len(ALWAYS)), most_bytes=settings.MAX_UPLOAD_BYTES),
        "websocket": SameOrigin(AuthMiddlewareStack(URLRouter(line_routes))),
    }
)
