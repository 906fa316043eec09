"""What a colleague has for themselves: their arrangement, their macros, the news of a release."""
