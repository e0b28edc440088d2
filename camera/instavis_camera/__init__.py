"""From a clip to landmarks: decode the video, find the person, follow the joints.

This package contains no golf rules.
"""
