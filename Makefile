# Cablux: every command a person or a machine needs. `make help` lists them.
SHELL := /bin/bash
.ONESHELL:
.SHELLFLAGS := -euo pipefail -c
.DEFAULT_GOAL := help
.SILENT:

VENV := .venv
BIN := $(VENV)/bin
PORT ?= 8765
CHROMIUM := /usr/bin/chromium

.PHONY: help setup demo serve phone chromium test tests wander mutants bench lint fold css lock shots clean

help: ## this list
	@grep -E '^[a-z]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:.*## /\t/' | expand -t 10

$(BIN)/python:
	python3 -m venv $(VENV)
	$(BIN)/python -m pip install -q --disable-pip-version-check uv==0.13.9 || true

define install
if [ -x $(BIN)/uv ]; then VIRTUAL_ENV=$(VENV) $(BIN)/uv pip install -q --require-hashes -r $(1); VIRTUAL_ENV=$(VENV) $(BIN)/uv pip install -q --no-deps -e .; \
else $(BIN)/python -m pip install -q --disable-pip-version-check --require-hashes -r $(1); $(BIN)/python -m pip install -q --disable-pip-version-check --no-deps -e .; fi
endef

$(VENV)/.run: $(BIN)/python requirements.txt pyproject.toml
	echo "Installing what Cablux needs into $(VENV) …"
	$(call install,requirements.txt)
	touch $@

$(VENV)/.dev: $(VENV)/.run requirements-dev.txt
	echo "Installing what the tests need …"
	$(call install,requirements-dev.txt)
	touch $@

setup: $(VENV)/.run ## make the environment, nothing else

demo: $(VENV)/.run ## start with demo data; FRESH=1 starts anew; PORT=8765
	$(BIN)/cablux demo --port $(PORT) $(if $(FRESH),--fresh)

serve: $(VENV)/.run ## start without demo data
	$(BIN)/cablux serve --port $(PORT)

phone: $(VENV)/.run ## start without demo data, for phones in the same network too
	$(BIN)/cablux serve --lan --port $(PORT)

chromium:
	@if [ ! -x $(CHROMIUM) ]; then \
	  if [ "$$(id -u)" = 0 ]; then apt-get update -qq; DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium >/dev/null; \
	  else echo "The browser tests need Chromium: sudo apt-get install chromium"; exit 1; fi; fi

test: $(VENV)/.dev chromium ## lint, types, import rules and every test
	$(MAKE) --no-print-directory -j2 lint tests

tests: $(VENV)/.dev chromium
	$(BIN)/python -m pytest -n 2 --dist worksteal

test-fast: $(VENV)/.dev ## what the working day wants: core and service, no browser
	HYPOTHESIS_PROFILE=brief $(BIN)/python -m pytest -n 2 --dist worksteal tests/core tests/service/bench tests/service/exchange tests/service/commands tests/service/projects

wander: $(VENV)/.dev chromium ## the property tests over thirty times as many examples, new ones each time; every pattern, page and choice
	HYPOTHESIS_PROFILE=wander $(BIN)/python -m pytest -n 2 --dist worksteal -m "hypothesis or breadth"

mutants: $(VENV)/.dev ## change the core in 100 places, one at a time, and see whether a test notices (an hour or two)
	$(BIN)/python tools/mutants.py

bench: $(VENV)/.dev ## measure the budgets of the design
	$(BIN)/python tools/bench.py

lint: $(VENV)/.dev ## ruff, mypy, import-linter, templates
	$(BIN)/ruff check -q src tests tools
	$(BIN)/ruff format -q --check src tests tools
	$(BIN)/mypy
	$(BIN)/lint-imports --no-logo
	$(BIN)/python tools/templates.py --check

fold: $(VENV)/.dev ## fold the long lines of the templates
	$(BIN)/python tools/templates.py

css: ## rebuild styles, scripts and fonts from frontend/ (needs node and npm)
	cd frontend
	npm ci --silent
	npm run --silent build

lock: $(BIN)/python ## write requirements*.txt from requirements*.in
	$(BIN)/uv pip compile -q --generate-hashes --no-emit-index-url --no-header --no-annotate --python-version 3.11 requirements.in -o requirements.txt
	$(BIN)/uv pip compile -q --generate-hashes --no-emit-index-url --no-header --no-annotate --python-version 3.11 requirements-dev.in -o requirements-dev.txt

shots: $(VENV)/.dev chromium ## refresh docs/screenshots from the demo data
	$(BIN)/python tools/shots.py

clean: ## remove what make made (never the data folder)
	rm -rf $(VENV) .pytest_cache .mypy_cache .ruff_cache .hypothesis
