"""What comes in from outside and goes out: documents described once, checked at the border."""

from instavis_io.archive import FORMAT, LessonDocument, lesson_schema, read_lesson

__all__ = ["FORMAT", "LessonDocument", "lesson_schema", "read_lesson"]
