# Each target makes its own virtual environment and gets what is missing; nothing else is needed first.
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
# Compiled once: without bytecode each command starts half as slowly again, and there are thousands.
export PYTHONDONTWRITEBYTECODE :=

.PHONY: demo test quick fuzz renew benchmark clean

$(BIN)/urform: pyproject.toml
	$(PYTHON) -m venv $(VENV)
	$(BIN)/python -m pip install --quiet --disable-pip-version-check -e '.[verify]'

$(VENV)/dev: pyproject.toml $(BIN)/urform
	$(BIN)/python -m pip install --quiet --disable-pip-version-check -e '.[dev]'
	touch $(VENV)/dev

demo: $(BIN)/urform
	sh tools/toolchains.sh
	-$(BIN)/urform targets --fetch
	$(BIN)/urform demo demo-output

test: $(VENV)/dev
	sh tools/toolchains.sh
	sh tools/browser.sh
	$(BIN)/urform targets --fetch
	$(BIN)/ruff check src tests benchmarks
	$(BIN)/mypy & typed=$$!; \
	$(BIN)/python -m pytest -n 2 --dist worksteal --durations=30; tested=$$?; \
	wait $$typed && exit $$tested

quick: $(VENV)/dev
	$(BIN)/python -m pytest -n 2 --dist loadgroup -m 'not toolchain and not slow'

# SEED=7 draws other ones. Takes an hour: every identifier of generated code is declared, too, of which a day tries a part.
fuzz: $(VENV)/dev
	$(BIN)/python -m pytest -n 2 tests/test_random.py --declarations 300 --mutations 5000 --seed $(or $(SEED),1000)
	URFORM_TRY_ALL=1 $(BIN)/python -m pytest -n 2 tests/test_identifiers.py

renew: $(VENV)/dev
	$(BIN)/python -m pytest -n 2 --renew -m 'not toolchain'
	$(BIN)/python -m pytest -n 2 --renew -k 'it_runs and fairway' tests/test_examples.py
	$(BIN)/python -m tests.recordings

benchmark: $(VENV)/dev
	$(BIN)/python benchmarks/generating.py
	$(BIN)/python benchmarks/starting.py
	$(BIN)/python benchmarks/generated.py
	PYTHONPATH=. $(BIN)/python benchmarks/reading.py
	$(BIN)/python benchmarks/sharing.py
	$(BIN)/python benchmarks/challenging.py

clean:
	rm -rf $(VENV) demo-output build dist
