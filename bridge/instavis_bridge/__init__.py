"""The bridge finds rows of a monitor's own program wherever it writes them, and sends each once."""
