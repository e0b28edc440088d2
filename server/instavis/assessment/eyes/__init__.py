"""How good a coach's eye is, look by look: grades by eye beside measured grades of the same lesson."""
