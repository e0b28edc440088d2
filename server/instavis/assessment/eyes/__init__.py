"""How accurate a coach's answers are, check by check, compared with measured ones."""
