"""An academy's changes to the shipped knowledge, version by version."""
