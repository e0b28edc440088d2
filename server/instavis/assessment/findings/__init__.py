"""Ask, Baseline, Check, Cause: answers, readings and the ranking."""
