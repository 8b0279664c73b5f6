# Two commands do everything: `make demo` and `make test`.
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
STATIC := src/rugged_shield/web/static/index.html
PY_SRC := $(shell find src -name '*.py' -o -name '*.json' -path '*demo*')
FRONT_SRC := $(shell find frontend/src frontend/worker frontend/public frontend/index.html frontend/*.json frontend/vite.config.ts -type f -not -name 'schema.d.ts' 2>/dev/null)
export PIP_DISABLE_PIP_VERSION_CHECK := 1
# What was compiled once is kept, whatever was set outside: each start would compile it again.
unexport PYTHONDONTWRITEBYTECODE

# pip stands in where uv finds no index: pip knows mirrors and certificates of its own.
locked = $(BIN)/uv pip install -q --python $(BIN)/python --no-deps --require-hashes -r $(1) || \
	$(BIN)/pip install -q --no-deps --no-compile --require-hashes -r $(1)

.PHONY: demo test test-front hostile fuzz setup lint lint-python lint-front format lock screenshots bench wheel clean

demo: setup ## serve the application with the demo data
	@$(BIN)/shield demo

setup: $(STATIC) ## prepare .venv with `shield` in it and the built front end

test: ## everything that decides whether this is sound
	@$(MAKE) --no-print-directory -j 2 -O setup .stamps/browser lint test-front
	$(BIN)/python -m pytest -n 2 --dist loadfile --no-loadscope-reorder

test-front: frontend/src/api/schema.d.ts ## components on their own
	cd frontend && npm run -s test

lint: lint-python lint-front ## style, types, import rules

# No page is needed for what looks at the sources: it runs beside what builds one.
lint-python: .stamps/dev
	$(BIN)/ruff check src tests scripts
	$(BIN)/ruff format --check src tests scripts
	$(BIN)/mypy
	$(BIN)/lint-imports

lint-front: frontend/src/api/schema.d.ts
	cd frontend && npm run -s lint && npm run -s check

format: .stamps/dev
	$(BIN)/ruff check --fix src tests scripts
	$(BIN)/ruff format src tests scripts
	cd frontend && npm run -s format

lock: ## renew the hashes of what requirements/*.lock pin
	$(PYTHON) scripts/lock.py

screenshots: setup .stamps/dev .stamps/browser ## remake docs/screenshots from the demo data
	$(BIN)/python scripts/screenshots.py

HOSTILE := tests/web/test_hostile.py tests/web/test_doors.py tests/web/test_pairing.py \
	tests/web/test_budget.py tests/web/test_homecoming.py tests/web/test_every_text_goes_out.py \
	tests/web/test_clock.py tests/formats/test_round_trips.py tests/store/test_copies.py \
	tests/store/test_care.py tests/store/test_faults.py tests/store/test_full_disk.py

hostile: setup .stamps/dev ## raw sockets, guessers, greed, every hostile file, 700 kills, full disks
	SHIELD_HOSTILE_EVERY=1 SHIELD_KILLS=100 $(BIN)/python -m pytest -v -n 2 --dist loadfile $(HOSTILE)

fuzz: setup .stamps/dev ## a longer fuzz: SHIELD_FUZZ requests (50 000 unless told)
	SHIELD_FUZZ=$${SHIELD_FUZZ:-50000} $(BIN)/python -m pytest tests/web/test_fuzz.py

bench: setup .stamps/dev .stamps/browser ## figures of speed, size and memory
	$(BIN)/python scripts/bench.py $(if $(KEEP),--keep)

wheel: setup .stamps/dev ## a wheel that needs no Node
	$(BIN)/python -m build --wheel --no-isolation

clean:
	rm -rf $(VENV) .stamps build dist frontend/node_modules src/rugged_shield/web/static frontend/src/api/schema.d.ts

.stamps/prerequisites: scripts/prerequisites.sh
	@mkdir -p .stamps
	@PYTHON="$(PYTHON)" sh scripts/prerequisites.sh
	@touch $@

.stamps/venv: requirements/installer.lock requirements/base.lock pyproject.toml | .stamps/prerequisites
	$(PYTHON) -m venv $(VENV)
	$(BIN)/pip install -q --require-hashes -r requirements/installer.lock
	$(call locked,requirements/base.lock)
	$(BIN)/pip install -q --no-deps --no-build-isolation -e .
	@touch $@

.stamps/dev: requirements/dev.lock .stamps/venv
	$(call locked,requirements/dev.lock)
	@touch $@

.stamps/browser: scripts/browser.sh
	@mkdir -p .stamps
	sh scripts/browser.sh
	@touch $@

.stamps/npm: frontend/package-lock.json | .stamps/prerequisites
	cd frontend && npm ci --prefer-offline --ignore-scripts --no-audit --no-fund --silent
	@touch $@

# The document is only replaced when it differs, so that Python changes alone rebuild no page.
.stamps/openapi: .stamps/venv $(PY_SRC)
	@mkdir -p build
	@$(BIN)/shield openapi > build/openapi.new
	@cmp -s build/openapi.new build/openapi.json && rm build/openapi.new || mv build/openapi.new build/openapi.json
	@touch $@

build/openapi.json: .stamps/openapi ;

frontend/src/api/schema.d.ts: build/openapi.json .stamps/npm
	cd frontend && npm run -s types > /dev/null
	@touch $@

$(STATIC): frontend/src/api/schema.d.ts $(FRONT_SRC)
	cd frontend && npm run -s build
	$(BIN)/python -m whitenoise.compress -q src/rugged_shield/web/static
	@touch $@
