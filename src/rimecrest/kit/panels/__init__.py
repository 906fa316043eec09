"""Panels in an application: their fields, and what macros read of them."""
