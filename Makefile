# The two that the README names are `make demo` and `make test`; each sets up what is missing.
PY := .venv/bin/python
MINUTES ?= 10
SAMPLE ?= 900

.PHONY: demo test walks compare soak mutants check bench screenshots setup lock format schemas

setup:
	@tools/setup.sh

demo: setup
	@$(PY) -m rimecrest demo

test: setup
	@$(PY) -m pytest -n 2 --dist loadgroup

walks: setup
	@$(PY) -m pytest -q -rP -n 2 walks
	@$(PY) -m pytest -m long -n 2 --dist loadgroup tests

compare: setup
	@$(PY) tools/compare

soak: setup
	@MINUTES=$(MINUTES) tools/soak.sh

mutants: setup
	@tools/mutants.sh $(SAMPLE)

check: setup
	@.venv/bin/ruff format --check .
	@.venv/bin/ruff check .
	@.venv/bin/mypy
	@.venv/bin/lint-imports

format: setup
	@.venv/bin/ruff format .
	@.venv/bin/ruff check --fix .

bench: setup
	@$(PY) benchmarks/run.py

screenshots: setup
	@$(PY) -m rimecrest demo --screenshots docs/screenshots

schemas: setup
	@$(PY) tools/schemas.py

lock: setup
	@$(PY) -m piptools compile -q --extra demo --extra dev --generate-hashes --no-emit-index-url --no-emit-find-links \
	  --no-emit-trusted-host --allow-unsafe --strip-extras -o requirements/dev.lock pyproject.toml
