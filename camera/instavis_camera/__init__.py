"""From a clip to landmarks: decode the video, find the person, follow the joints. No golf rules in here."""
