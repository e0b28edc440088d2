"""What instruments measured of a correction's movement."""
