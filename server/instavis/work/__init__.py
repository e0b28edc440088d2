"""Tasks that take longer than a request: requested in the database, done once by a worker on any machine."""
