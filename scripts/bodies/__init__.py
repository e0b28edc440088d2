"""Sample clips of made-up people whose motion is known; runs in an environment of its own."""
