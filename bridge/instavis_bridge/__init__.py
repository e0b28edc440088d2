"""The bridge finds the rows that a monitor's program writes, and sends each once."""
