"""The bridge: rows of a monitor's own program, found wherever it writes them, sent once each."""
