# Every command of the project. `make demo` and `make test` set up what they need.
.PHONY: wheel deb image docs help setup demo serve test lint check unit installed anyday broad languages web bench bench-ear format api screenshots clean words

API_PAGES = $(VENV)/bin/pdoc --no-show-source -o build/docs orexis

VENV := .venv
PY := $(VENV)/bin/python
PORT ?= 8722

help:
	@echo "make demo        start Orexis with demo data and print its address"
	@echo "make test        every test, lint and type check"
	@echo "make setup       install into .venv and build the front end"
	@echo "make serve       start Orexis on your own data"
	@echo "make docs        build the API pages from docstrings, in build/docs"
	@echo "make wheel       build dist/orexis-*.whl, which needs no Node where it is installed"
	@echo "make deb         build dist/orexis_*.deb for Debian and its relatives, from the wheel"
	@echo "make image       build the container image orexis, where podman or docker runs"
	@echo "make broad       the tests that make test leaves out: more horns, seeds, kinds of players"
	@echo "make languages   what five people came for, in German, French, Spanish and a made-up language"
	@echo "make anyday      the tests of the record, the API and the pages at other moments: each weekday, 23:59, clock changes"
	@echo "make bench       print speed, starts, live streams, and pages with five years of record"
	@echo "make bench-ear   the ear beside other pitch libraries on sampled and synthetic brass (two hours)"
	@echo "make format      format all code"
	@echo "make api         write docs/api/openapi.json and the front end's types from it"
	@echo "make screenshots renew docs/screenshots from the demo data"

setup:
	@bash scripts/setup

demo: setup
	@$(VENV)/bin/orexis demo --port $(PORT)

serve: setup
	@$(VENV)/bin/orexis serve --port $(PORT)

test: setup
	@bash scripts/setup-browser
	@$(MAKE) --no-print-directory -j2 --output-sync=target lint check web installed
	@$(MAKE) --no-print-directory unit

lint:
	$(VENV)/bin/ruff check src tests scripts benchmarks
	$(VENV)/bin/ruff format --check src tests scripts benchmarks
	$(VENV)/bin/lint-imports
	cd frontend && npm run -s lint

check:
	$(VENV)/bin/mypy
	$(API_PAGES)
	cd frontend && npm run -s check

web:
	cd frontend && npm run -s test

# Four at a time on two cores: page tests mostly wait. Sound that goes through the browser's microphone path in real
# time has the machine to itself.
unit:
	$(PY) -m pytest -n 4 --dist worksteal -m "not realtime and not broad" --durations=15
	$(PY) -m pytest -m realtime tests/web

# What is installed from the wheel and from the package: it mostly waits, beside the checks.
installed:
	bash scripts/try-wheel
	bash scripts/try-deb

docs: setup
	$(API_PAGES)

wheel: setup
	rm -rf dist
	$(VENV)/bin/uv build -q --wheel -o dist

deb: wheel
	@scripts/make-deb

image: setup
	@scripts/make-image

# The same tests on more horns, seeds and kinds of players: a quarter of an hour.
broad: setup
	$(PY) -m pytest -n 2 -m broad

languages: setup
	@for language in de fr es qps; do echo "== $$language"; \
	OREXIS_TEST_LANGUAGE=$$language $(PY) -m pytest -n 2 -m "not broad" tests/web/test_people.py || exit 1; done

# Seven weekdays, a minute before midnight, and the two nights on which the clocks change.
ANYDAY := 2026-11-02T10:00 2026-11-03T10:00 2026-11-04T10:00 2026-11-05T10:00 2026-11-06T10:00 2026-11-07T10:00 \
	2026-11-08T10:00 2026-11-10T23:59 2026-03-29T01:58 2026-10-25T02:58
anyday: setup
	@for at in $(ANYDAY); do echo "== $$at"; \
	TZ=Europe/Berlin OREXIS_TEST_AT=$$at $(PY) -m pytest -n 3 --dist worksteal -m "not realtime and not broad" \
	tests/store tests/api tests/files tests/cli tests/web || exit 1; done

bench: setup
	$(PY) -m benchmarks.speed
	$(PY) -m benchmarks.starts
	$(PY) -m benchmarks.scale
	$(PY) -m benchmarks.live

# Needs Debian's fluidsynth and its sound fonts; the other libraries go into an environment of their own.
bench-ear: setup
	@bash scripts/setup-peers
	$(PY) -m benchmarks.ear --peers .bench/peers/bin/python

format:
	$(VENV)/bin/ruff check --fix src tests scripts benchmarks
	$(VENV)/bin/ruff format src tests scripts benchmarks
	cd frontend && npm run -s format

# The catalogues of everything that is said, brought up to what the code says.
words:
	$(PY) -m scripts.catalogue
	cd frontend && npm run -s words

api:
	$(PY) scripts/write_openapi.py
	$(PY) -m scripts.write_judged
	$(PY) -m scripts.write_export
	$(PY) scripts/write_fixtures.py
	cd frontend && npm run -s types

screenshots: setup
	$(PY) -m scripts.screenshots

clean:
	rm -rf $(VENV) .setup .demo frontend/node_modules src/orexis/web
