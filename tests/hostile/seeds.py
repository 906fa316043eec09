"""What the variants of these tests are drawn by: one seed in the tests, ever another in `make soak`."""

import os

SEED = int(os.environ.get("SEED", "28"))
SOAKING = "RIMECREST_SOAK" in os.environ
