"""What comes in from outside and goes out: documents, tables, archives, motion files; checked at the border."""
