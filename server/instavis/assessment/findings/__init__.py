"""Ask, Baseline, Check, Cause: what was said, read, seen and concluded."""
