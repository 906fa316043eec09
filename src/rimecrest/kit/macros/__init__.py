"""Running macros in an application, and what they ask meanwhile."""
