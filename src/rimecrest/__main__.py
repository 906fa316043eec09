"""`python -m rimecrest`."""

from rimecrest.cli import main

main()
