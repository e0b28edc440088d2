"""Every kind of work there is: loading its part of the server makes it known."""

from instavis.capture.files import services as files

__all__ = ["files"]
