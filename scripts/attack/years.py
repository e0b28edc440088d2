"""An academy after years of work: copies of the sample lesson with the most balls, spread over students and days.

Run alone in the server's environment, it fills the database it finds there; `fill` starts it that way.
"""

from __future__ import annotations

import argparse
import os
import subprocess
import sys
from datetime import timedelta

from launcher.application import Running
from launcher.paths import SERVER

STEP = 50
"""Lessons filled by one statement."""
OF_A_STUDENT = 10
DAYS = 3 * 365


def fill(running: Running, balls: int, lessons: int) -> None:
    """Make that many ended lessons with that many balls in total."""
    settings = {**running.loader.environment, "DJANGO_SETTINGS_MODULE": "instavis.project.settings"}
    command = [sys.executable, "-m", "attack.years", str(balls), str(lessons)]
    subprocess.run(command, cwd=SERVER, env={**os.environ, **settings}, stdout=subprocess.DEVNULL, check=True)


def _fill(balls: int, lessons: int) -> None:
    from django.db import connection
    from django.utils import timezone

    from instavis.accounts.models import Student
    from instavis.capture.shots.models import Shot
    from instavis.lessons.models import Block, Lesson
    from instavis.platform.transactions import transactional

    template = max(Lesson.objects.all(), key=lambda lesson: lesson.shots.count())
    of_each, there = balls // lessons, template.shots.count()
    academy, coach, now = template.academy, template.coach, timezone.now()
    learner = template.student
    students = [
        Student(academy=academy, name=f"Sample {i:05}", hand=learner.hand, handicap=learner.handicap)
        for i in range(-(-lessons // OF_A_STUDENT))
    ]
    Student.objects.bulk_create(students, batch_size=1000)
    last = Lesson.objects.latest("pk").pk
    Lesson.objects.bulk_create(
        (
            Lesson(
                academy=academy,
                student=students[i % len(students)],
                coach=coach,
                hand=template.hand,
                club=template.club,
                knowledge_version=template.knowledge_version,
                started_at=now - timedelta(days=1 + DAYS * i / lessons),
                ended_at=now - timedelta(days=DAYS * i / lessons, hours=23),
                station="take-home",
                last_ball=of_each,
            )
            for i in range(lessons)
        ),
        batch_size=1000,
    )
    rows = Lesson.objects.filter(pk__gt=last)
    Block.objects.bulk_create(
        (Block(lesson=lesson, purpose="baseline", opened_at=lesson.started_at) for lesson in rows), batch_size=1000
    )
    made = ("id", "lesson_id", "block_id", "device_id", "device_sequence", "number", "shot_id")
    names = [field.column for field in Shot._meta.fields if field.column not in made]
    blocks = list(Block.objects.filter(lesson__in=rows).order_by("pk").values_list("pk", flat=True))
    turns = " UNION ALL ".join(f"SELECT {i} AS turn" for i in range(-(-of_each // there)))
    into = f"INSERT INTO shots_shot (lesson_id, block_id, number, shot_id, {', '.join(names)}) "  # noqa: S608 (our own names)
    copied = ", ".join(f"s.{name}" for name in names)

    @transactional  # the application runs meanwhile and may take the locks
    def copy_balls(chosen: list[int]) -> None:
        with connection.cursor() as cursor:
            cursor.execute(
                into + f"SELECT b.lesson_id, b.id, s.number + t.turn * {there}, UUID(), {copied} "  # noqa: S608
                f"FROM lessons_block b JOIN ({turns}) t JOIN shots_shot s ON s.lesson_id = %s "
                f"WHERE b.id IN ({','.join(map(str, chosen))}) AND s.number + t.turn * {there} <= %s",
                [template.pk, of_each],
            )

    for start in range(0, len(blocks), STEP):
        copy_balls(blocks[start : start + STEP])


if __name__ == "__main__":
    import django

    django.setup()
    parser = argparse.ArgumentParser()
    parser.add_argument("balls", type=int)
    parser.add_argument("lessons", type=int)
    _fill(**vars(parser.parse_args()))
