from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("people", "0003_coach_stage_rule")]

    operations = [
        migrations.AddField("academy", "time_zone", models.CharField(default="UTC", max_length=64)),
    ]
