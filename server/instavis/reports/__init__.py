"""Record: a student across lessons, a coach's day, an academy's corrections by outcome. Reads only."""
