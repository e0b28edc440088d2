"""The figures of `docs/method.md`, worked out anew: each topic gives tables and may draw."""
