"""Records: a student across lessons, a coach's day, an academy's outcomes. Read-only."""
