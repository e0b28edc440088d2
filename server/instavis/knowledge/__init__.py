"""What an academy changed of the shipped knowledge, version by version."""
