"""The server: translates and stores; what a coach would call the job is in the core."""
