"""From a clip to landmarks: video decoded, the person found, their joints followed. No rule of the job is in here."""
