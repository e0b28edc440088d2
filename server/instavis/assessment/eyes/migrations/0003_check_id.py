from django.db import migrations, models


class Migration(migrations.Migration):
    """Rename the check of a comparison and of a practice swing to ``check_id``, as in the answers of checks.

    The database renames the column within its indexes by itself, so the constraints change only in Django's state.
    """

    dependencies = [("eyes", "0002_eyepractice")]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.RemoveConstraint("eyepair", "eye_of_a_look_once"),
                migrations.RemoveConstraint("eyepractice", "practised_swing_once"),
            ]
        ),
        migrations.RenameField("eyepair", "look", "check_id"),
        migrations.RenameField("eyepractice", "look", "check_id"),
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AddConstraint(
                    "eyepair",
                    models.UniqueConstraint(fields=("lesson", "coach", "check_id"), name="eye_of_a_look_once"),
                ),
                migrations.AddConstraint(
                    "eyepractice",
                    models.UniqueConstraint(
                        fields=("coach", "check_id", "seed", "number"), name="practised_swing_once"
                    ),
                ),
            ]
        ),
    ]
