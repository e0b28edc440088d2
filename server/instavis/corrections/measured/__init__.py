"""What instruments saw of the movement that a correction asks for."""
