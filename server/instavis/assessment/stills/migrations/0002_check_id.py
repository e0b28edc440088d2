from django.db import migrations


class Migration(migrations.Migration):
    """Rename the check of a picture to ``check_id``, as in the answers of checks."""

    dependencies = [("stills", "0001_initial")]

    operations = [migrations.RenameField("still", "look", "check_id")]
