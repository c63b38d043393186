# The two commands are `make demo` and `make test`; the others are their parts.
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin

# Tests in the browser wait as much as they work, so that there is room for one more than there are processors.
WAITING = $(shell echo $$(($$(getconf _NPROCESSORS_ONLN) + 1)))

.PHONY: setup demo test unit harden check judge bench assets check-assets check-frontend browser docs clean

setup: $(VENV)/.ready

$(VENV)/.ready: requirements.lock pyproject.toml
	@$(PYTHON) -c 'import sys; sys.exit("Basilica needs Python 3.11 or newer." if sys.version_info < (3, 11) else 0)'
	$(PYTHON) -m venv $(VENV)
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements.lock
	$(BIN)/pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation -e .
	@touch $@

demo: setup
	$(BIN)/basilica demo --data instance

# Everything that must hold: style, types, layers, assets, documentation, and all tests, browser included.
test: setup browser check check-assets check-frontend tests/checkers/node_modules/.ready
	$(BIN)/pytest -n auto --ignore tests/browser
	$(BIN)/pytest tests/browser -n $(WAITING)

# For every save: no browser, Java, PHP or Node, and nothing that takes seconds by itself.
unit: setup
	$(BIN)/pytest -n auto --ignore tests/browser --ignore tests/hardening -m "not tools and not long"

# What an attack found, tried for long.
harden: setup
	BASILICA_HARDEN=20 $(BIN)/pytest tests/hardening
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes -r tests/hardening/requirements.txt
	for reader in map page list rows layout content marked; do \
	  $(BIN)/python -m tests.hardening.fuzzing $$reader 60 || exit 1; done

check: setup
	$(BIN)/ruff check .
	$(BIN)/ruff format --check --quiet .
	$(BIN)/mypy
	$(BIN)/lint-imports --no-logo
	$(BIN)/python -m scripts.make_docs --check

browser:
	@scripts/install_browser

frontend/node_modules/.ready: frontend/package-lock.json
	cd frontend && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

# What others recommend of pages and style sheets, and what measures pages.
tests/checkers/node_modules/.ready: tests/checkers/package-lock.json
	cd tests/checkers && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

judge/node_modules/.ready: judge/package-lock.json
	cd judge && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

assets: frontend/node_modules/.ready
	cd frontend && npm run --silent build

check-assets: browser frontend/node_modules/.ready
	@scripts/check_assets

# Style, types and tests of the application's scripts.
check-frontend: browser frontend/node_modules/.ready
	@cd frontend && npm run --silent check

docs: setup
	$(BIN)/python -m scripts.make_docs

# The generated pages, held against everything: all pages of the demo sites, and maps that press hard.
judge: setup browser frontend/node_modules/.ready tests/checkers/node_modules/.ready judge/node_modules/.ready
	$(BIN)/python -m judge

bench: setup
	$(BIN)/python -m bench

clean:
	rm -rf $(VENV) frontend/node_modules frontend/.check
