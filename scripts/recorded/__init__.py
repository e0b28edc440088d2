"""Answers of a running server, recorded for the component tests of the front end."""
