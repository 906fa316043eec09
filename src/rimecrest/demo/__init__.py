"""The demo: an invented office, most of it data (`vessry/`), and the story told through real windows."""
