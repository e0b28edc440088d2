"""Practice lessons: a coach teaches a made-up golfer, and hears at the end what was hidden."""
