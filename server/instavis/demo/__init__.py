"""The sample academy."""
