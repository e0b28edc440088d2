"""HTTP and the live channel."""

import os

from channels.auth import AuthMiddlewareStack
from channels.routing import ProtocolTypeRouter, URLRouter
from channels.security.websocket import AllowedHostsOriginValidator
from django.core.asgi import get_asgi_application
from django.urls import path, re_path

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "instavis.project.settings")
http = get_asgi_application()

from instavis.display.lessons.consumers import LessonConsumer, NowhereConsumer  # noqa: E402 (needs the apps loaded)

application = ProtocolTypeRouter(
    {
        "http": http,
        "websocket": AllowedHostsOriginValidator(
            AuthMiddlewareStack(
                URLRouter(
                    [
                        path("ws/lessons/<int:lesson_id>", LessonConsumer.as_asgi()),
                        re_path(r"^.*$", NowhereConsumer.as_asgi()),
                    ]
                )
            )
        ),
    }
)
