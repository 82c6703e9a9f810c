# Jackstaff: make demo starts it, make test proves it. README.md has the tour.
SHELL := /bin/bash
.SHELLFLAGS := -euo pipefail -c
.DELETE_ON_ERROR:
.DEFAULT_GOAL := help

PYTHON ?= python3
PORT ?= 8000
export PYTHON PORT
# The demo never lies among people's own records.
DEMO_DATA := $(or $(JACKSTAFF_DATA_DIR),$(CURDIR)/var/demo)
export JACKSTAFF_DATA_DIR ?= $(CURDIR)/var
# Compiled once, beside what is built, and not between the sources.
export PYTHONPYCACHEPREFIX := $(CURDIR)/build/pycache
unexport PYTHONDONTWRITEBYTECODE

VENV := .venv
BIN := $(CURDIR)/$(VENV)/bin
MANAGE := $(BIN)/python server/manage.py
PIP := $(BIN)/pip --disable-pip-version-check install --quiet --require-hashes -r
CORE_SOURCES := $(shell find core -name '*.py')
PYODIDE := web/node_modules/pyodide
WEB_SOURCES := $(shell find web -path web/node_modules -prune -o -path web/dist -prune -o -type f -print)

.PHONY: help demo serve backup restore dev check check-web test coverage test-slow test-postgres lint lint-python lint-web lint-types test-web test-python types bench bench-long bench-watching bench-years bench-load hostile care mutants shots build account lock format clean

help: ## what can be made
	@grep -E '^[a-z-]+:.*## ' Makefile | sed -E 's/:.*## /\t/' | expand -t 12

demo: build/run.stamp build/web.stamp ## install, build, load demo data, serve at http://127.0.0.1:$PORT
	@export JACKSTAFF_DEMO=1 JACKSTAFF_DATA_DIR="$(DEMO_DATA)"; \
	  $(MANAGE) bring_up && $(MANAGE) load_demo && \
	  exec $(BIN)/gunicorn -c server/gunicorn.conf.py

serve: build/run.stamp build/web.stamp ## serve phones and others over TLS: make serve HOST=192.168.0.20 (docs/phone.md)
	@HOST="$(HOST)" CERT="$(CERT)" KEY="$(KEY)" PROXIES="$(PROXIES)" PORT="$(if $(filter file,$(origin PORT)),,$(PORT))" \
	  exec $(BIN)/python server/serve.py

backup: build/run.stamp ## copy everything that is kept, checked, while the server runs (INTO=folder KEEP=14)
	@$(MANAGE) backup $(if $(INTO),--into "$(INTO)") $(if $(KEEP),--keep $(KEEP))

restore: build/run.stamp ## put a copy back with the server stopped; what was there is set aside (FROM=folder, default the newest)
	@$(MANAGE) restore $(if $(FROM),"$(FROM)")

dev: build/run.stamp build/node.stamp ## the same, reloading server and interface on every change
	@export JACKSTAFF_DEMO=1 JACKSTAFF_DATA_DIR="$(DEMO_DATA)"; \
	  $(MANAGE) bring_up && $(MANAGE) load_demo && trap 'kill 0' EXIT; \
	  JACKSTAFF_DEV=1 $(MANAGE) runserver 127.0.0.1:$$((PORT + 1)) & \
	  cd web && JACKSTAFF_API=http://127.0.0.1:$$((PORT + 1)) npx --no-install vite --host 127.0.0.1 --port $(PORT)

check: build/dev.stamp build/node.stamp ## while working: linters, types, layers, and the tests of what has changed
	@$(MAKE) --no-print-directory --jobs=2 --output-sync=target lint-python check-web
	@$(BIN)/python -m tools.checked

# What another file's types change is found by the whole linter, before anything lands.
check-web: build/node.stamp
	cd web && npx --no-install eslint --cache --cache-location ../build/eslint-cache . --max-warnings 0
	cd web && npx --no-install prettier --cache --cache-location ../build/prettier-cache --check --log-level warn .
	cd web && npx --no-install tsc -b && npx --no-install vitest run --changed --passWithNoTests

test: build/dev.stamp build/node.stamp build/web.stamp ## every check and test, the browser included
	@tools/preflight.sh chromium
	@$(MAKE) --no-print-directory --jobs=3 --output-sync=target lint-web test-python
	@$(BIN)/python tools/test_share.py

coverage: build/dev.stamp build/web.stamp ## which lines of core, imaging and server their own tests reach
	@mkdir -p build/coverage && rm -f build/coverage/data*
	JACKSTAFF_EXAMPLES=coverage $(BIN)/python -m pytest tests/core tests/imaging tests/api -n 2 --dist worksteal --cov --cov-report=
	@$(BIN)/coverage report

# The interface's linter takes longest and by itself: these begin beside it. The "+" shows them as they go.
test-python: lint-python lint-types test-web
	+$(BIN)/python -m pytest -n 4 --dist worksteal

lint: build/dev.stamp build/node.stamp ## formatters, linters, types, layers, generated types up to date
	@$(MAKE) --no-print-directory --jobs=2 --output-sync=target lint-web lint-python lint-types

lint-python: build/dev.stamp
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports
	@mkdir -p build
	@$(MANAGE) export_openapi_schema --api jackstaff.api.api.api --sorted --indent 2 --output build/openapi.json
	@cmp -s build/openapi.json web/src/api/openapi.json || { echo "The API changed: run 'make types'."; exit 1; }

# What was found sound in the interface is not looked at again until something of it changes.
lint-web: build/lint-web.stamp
lint-types: build/lint-types.stamp
test-web: build/test-web.stamp

build/lint-web.stamp: build/node.stamp $(WEB_SOURCES)
	cd web && npx --no-install eslint . --max-warnings 0
	@touch $@

build/lint-types.stamp: build/node.stamp $(WEB_SOURCES)
	cd web && npx --no-install prettier --check --log-level warn . && npx --no-install tsc -b
	@touch $@

build/test-web.stamp: build/node.stamp $(WEB_SOURCES)
	cd web && npx --no-install vitest run
	@touch $@

types: build/dev.stamp build/node.stamp ## regenerate the interface types and the published schemas
	$(MANAGE) export_openapi_schema --api jackstaff.api.api.api --sorted --indent 2 --output web/src/api/openapi.json
	cd web && npx --no-install openapi-typescript src/api/openapi.json -o src/api/schema.d.ts
	$(BIN)/python -m tools.formats

test-postgres: build/dev.stamp ## what asks a server, with the records in PostgreSQL, which they start and end themselves (docs/scale.md)
	@$(PIP) requirements/postgres.txt
	$(BIN)/python -m tools.postgres pytest tests/api tests/browser -n 3 --dist worksteal -m "not database_file"

test-slow: build/dev.stamp build/web.stamp ## the browser tests with every page six times slower than the machine lets it be
	@tools/preflight.sh chromium
	JACKSTAFF_SLOWER=6 $(BIN)/python -m pytest tests/browser -n 2 --dist worksteal

bench: build/dev.stamp build/web.stamp ## speeds as ratios against a reference in the same run
	@tools/preflight.sh chromium
	@$(BIN)/python -m bench.run

bench-long: build/dev.stamp build/web.stamp ## the browser's core against the server's, some thousands of questions
	@tools/preflight.sh chromium
	@JACKSTAFF_PARITY=60 $(BIN)/python -m pytest tests/browser/test_offline.py -k core_answers

bench-watching: build/dev.stamp build/web.stamp ## frames under ten kinds of sky by what is known of the light, and what watching costs
	@tools/preflight.sh chromium
	@$(BIN)/python -m bench.watching

bench-years: build/dev.stamp ## 100,000 frames and 2,000 outings of one person against 1,000 and 20 (docs/scale.md)
	@$(BIN)/python -m bench.years

bench-load: build/dev.stamp build/web.stamp ## one to 32 clients a while each, then eight for ten minutes
	@$(BIN)/python -m bench.load

hostile: build/dev.stamp build/web.stamp ## slow senders, dear questions, a held lock, kills: whether others are still served (docs/security.md)
	@$(BIN)/python -m bench.hostile

care: build/dev.stamp build/node.stamp ## what nobody uses: dead code, unexported names, packages; known faults of packages (asks the registries)
	@$(PIP) requirements/care.txt
	-$(BIN)/vulture core imaging server tools bench tests --exclude '*/migrations/*' \
	  --ignore-decorators '@router.*,@api.*,@pytest.*,@given*,@*.exception_handler' \
	  --ignore-names 'Meta,Command,handle,add_arguments,RecordsConfig,ready,WHITENOISE_*,on_starting,when_ready' \
	  | grep -v 'unused variable\|unused attribute\|site/faults\|site/asgi\|site/headers'
	-cd web && npx --no-install knip --no-progress
	-$(BIN)/pip-audit -r requirements/run.txt --disable-pip --require-hashes
	-cd web && npm audit --omit=dev

mutants: build/dev.stamp ## would the tests notice? small changes to core and permissions, sampled (COUNT=60 SEED=1)
	@$(PIP) requirements/mutants.txt
	@$(BIN)/python -m bench.mutants

shots: build/dev.stamp build/web.stamp ## retake docs/screenshots from demo data
	@tools/preflight.sh chromium
	@$(BIN)/python -m tools.shots

build: build/run.stamp build/web.stamp ## install and build without starting

account: build/run.stamp ## make an account: make account NAME=somebody
	@$(MANAGE) bring_up
	@$(MANAGE) add_account "$(NAME)"

format: build/dev.stamp build/node.stamp ## format everything
	$(BIN)/ruff check --fix --quiet . || true
	$(BIN)/ruff format --quiet .
	cd web && npx --no-install prettier --write --log-level warn .

lock: build/dev.stamp ## lock the Python requirements anew
	$(BIN)/pip install --quiet pip-tools==7.6.2
	for part in run dev mutants postgres care; do $(BIN)/pip-compile --quiet --generate-hashes --allow-unsafe --no-header --strip-extras \
	  --no-emit-find-links --no-emit-index-url -o requirements/$$part.txt requirements/$$part.in; done

clean: ## forget what was built and installed, keep the data
	rm -rf build $(VENV) web/node_modules web/dist

$(VENV)/bin/python:
	@tools/preflight.sh python
	@echo "Installing Python packages ..."
	@$(PYTHON) -m venv $(VENV)

build/run.stamp: requirements/run.txt | $(VENV)/bin/python
	@mkdir -p build
	@$(PIP) requirements/run.txt
	@printf '%s\n' $(CURDIR)/core $(CURDIR)/imaging $(CURDIR)/server \
	  > $$($(BIN)/python -c 'import site; print(site.getsitepackages()[0])')/jackstaff.pth
	@touch $@

build/dev.stamp: requirements/dev.txt build/run.stamp
	@echo "Installing what the tests need ..."
	@$(PIP) requirements/dev.txt
	@touch $@

build/node.stamp: web/package-lock.json
	@tools/preflight.sh node
	@echo "Installing the interface's packages ..."
	@mkdir -p build
	@cd web && npm ci --no-audit --no-fund --loglevel error
	@touch $@

build/py/python_stdlib.zip: build/node.stamp tools/bytecode.mjs
	@mkdir -p build/py
	@node tools/bytecode.mjs $(PYODIDE) $(PYODIDE)/python_stdlib.zip $@ 2

build/web.stamp: build/node.stamp build/run.stamp build/py/python_stdlib.zip $(WEB_SOURCES) $(CORE_SOURCES)
	@echo "Building the interface ..."
	@PYTHONPATH=core $(BIN)/python -m tools.engine build/core.zip
	@node tools/bytecode.mjs $(PYODIDE) build/core.zip build/py/core.zip
	@cd web && npx --no-install vite build --logLevel warn
	@$(BIN)/python -m tools.compress web/dist
	@touch $@
