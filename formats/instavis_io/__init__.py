"""Input and output: documents, tables, archives, motion files, checked at the border."""
