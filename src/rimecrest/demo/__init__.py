"""The demo: an invented organisation, and the story told through real windows and real processes."""
