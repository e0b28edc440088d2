from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("shots", "0001_initial")]

    operations = [
        migrations.AlterField(
            "shot", "shot_id", models.CharField(db_collation="utf8mb4_nopad_bin", max_length=64)
        ),
    ]
