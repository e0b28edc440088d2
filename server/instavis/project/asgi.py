"""HTTP through its gate, and the live channel."""

import os
from typing import cast

from channels.auth import AuthMiddlewareStack
from channels.routing import ProtocolTypeRouter, URLRouter
from django.core.asgi import get_asgi_application
from django.urls import path, re_path

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "instavis.project.settings")
http = get_asgi_application()

from django.conf import settings  # noqa: E402 (needs the apps loaded)

from instavis.display.lessons.consumers import LessonConsumer, NowhereConsumer  # noqa: E402
from instavis.platform import statements as statements  # noqa: E402 (slow ones make themselves known)
from instavis.platform.gate import App, Gate  # noqa: E402
from instavis.project import worker as worker  # noqa: E402 (works are called through its queue)
from instavis.project.origins import SameOrigin  # noqa: E402

application = ProtocolTypeRouter(
    {
        "http": Gate(cast(App, http), most_bytes=settings.MOST_UPLOAD_BYTES),
        "websocket": SameOrigin(
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
