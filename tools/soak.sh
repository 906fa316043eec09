#!/usr/bin/env bash
# `make soak MINUTES=60`: until time is up or something is found: the property tests with ever other random examples;
# hostile files, messages, peers and edits drawn by another seed; keys pressed, and keys and clicks over the four
# programs, drawn by it too. What is found is printed whole, with its seed: SEED=… draws it again.
set -euo pipefail
cd "$(dirname "$0")/.."
end=$((SECONDS + ${MINUTES:-10} * 60))
rounds=0
test() { .venv/bin/python -m pytest "$@"; }
while ((SECONDS < end)); do
  export RIMECREST_SOAK=1 SEED=$RANDOM GESTURES=${GESTURES:-1000}
  echo "seed $SEED"
  test -n 2 --dist loadgroup -m hypothesis tests
  test -n 2 tests/hostile tests/standins/test_{csv_formulas,letters_bounds,own_surfaces,place,reckon,reckoner}.py \
    tests/kit/test_{link_answers,file_dialogs}.py
  test -m long -s tests/screen/test_pressed_keys.py tests/screen/test_random_gestures.py
  rounds=$((rounds + 1))
done
echo "$rounds rounds, nothing found."
