from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("practice", "0002_takehome_moves_takehome_paused_at_and_more")]

    operations = [
        migrations.AlterField(
            "practice", "entry_id", models.CharField(db_collation="utf8mb4_nopad_bin", max_length=64)
        ),
    ]
