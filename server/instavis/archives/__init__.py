"""Export lessons and students as open archives, import them without loss, and delete on request."""
