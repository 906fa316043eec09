"""Commands of an application: declaring them, finding them, their hotkeys, and what they reach outside."""
