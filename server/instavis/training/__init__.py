"""Practice lessons: a coach teaches a made-up golfer and sees at the end what was hidden."""
