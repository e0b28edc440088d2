"""Prove: verdicts and the running change."""
