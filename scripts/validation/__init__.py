"""The figures of `docs/method.md`, computed again: each topic gives tables and may draw."""
