"""Commands of the sample academy."""
