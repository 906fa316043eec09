"""Recording what a colleague does, as the steps of a macro."""
