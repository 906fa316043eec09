"""What a keystroke costs in seconds, and where a finger slips: strokes, slips, constants with sources."""
