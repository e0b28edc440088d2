"""Sample clips of made-up people whose motion is known; run in an environment of its own."""
