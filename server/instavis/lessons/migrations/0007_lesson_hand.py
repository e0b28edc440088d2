from django.db import migrations, models
from django.db.models import OuterRef, Subquery


def from_the_student(apps, schema_editor):
    lesson, student = apps.get_model("lessons", "Lesson"), apps.get_model("people", "Student")
    hand = Subquery(student.objects.filter(pk=OuterRef("student_id")).values("hand")[:1])
    lesson.objects.update(hand=hand)


class Migration(migrations.Migration):
    dependencies = [("lessons", "0006_lesson_school"), ("people", "0004_academy_time_zone")]

    operations = [
        migrations.AddField(
            "lesson",
            "hand",
            models.CharField(choices=[("right", "right"), ("left", "left")], default="right", max_length=5),
        ),
        migrations.RunPython(from_the_student, migrations.RunPython.noop),
    ]
