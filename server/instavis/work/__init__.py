"""Work that takes longer than a request: asked for in the database, done by a worker, on any machine, once."""
