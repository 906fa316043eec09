"""Whole jobs in the studio by mouse and by keys alone, with their gestures counted (`make walks`)."""
