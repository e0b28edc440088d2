"""The computation of Instavis: no interface, no server, no clock, no global randomness."""
