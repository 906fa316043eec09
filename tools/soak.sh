#!/usr/bin/env bash
# `make soak MINUTES=60`: the property tests with ever other random examples, and key presses drawn by another
# seed, until time is up or one fails. What it finds is printed whole; hand it to the test as an @example. The
# seed of the presses is in the message: SEED=… draws them again.
set -euo pipefail
cd "$(dirname "$0")/.."
end=$((SECONDS + ${MINUTES:-10} * 60))
rounds=0
while ((SECONDS < end)); do
  RIMECREST_SOAK=1 .venv/bin/python -m pytest -n 2 --dist loadgroup -m hypothesis tests
  SEED=$RANDOM .venv/bin/python -m pytest -m long tests/screen/test_pressed_keys.py
  rounds=$((rounds + 1))
done
echo "$rounds rounds, nothing found."
