# Every target does the set-up it needs; a second run skips what is done.
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
# Whatever the shell says: what was compiled once is kept; tests start the program hundreds of times.
unexport PYTHONDONTWRITEBYTECODE

.PHONY: demo run desktop install uninstall package debian others test lint bench mutate attack lock messages shots docs clean setup setup-dev

demo: $(VENV)/.run-ready            ## the program on a fresh copy of the sample shop
	@tools/setup.sh screen && $(BIN)/omnipel --demo

run: $(VENV)/.run-ready             ## the program on your own shop
	@tools/setup.sh screen && $(BIN)/omnipel

desktop: $(VENV)/.run-ready         ## the launcher for this checkout; WHAT=--remove takes it away again
	@$(BIN)/omnipel desktop $(WHAT)

install:                            ## for this person, without root: program, launcher, icon, file types, manual, completion
	@PYTHON=$(PYTHON) tools/install.sh install

uninstall:                          ## all of that away again; your shop stays
	@tools/install.sh uninstall

package: $(VENV)/.dev-ready         ## a wheel and a source archive in dist/
	@$(BIN)/python -m build --no-isolation --outdir dist .

debian: $(VENV)/.dev-ready          ## a Debian package in dist/, for this Python and processor
	@tools/debian.sh

others: $(VENV)/.run-ready          ## does it work on the other Pythons that are here? WHAT="3.12 3.13"
	@tools/others.sh $(WHAT)

setup: $(VENV)/.run-ready
setup-dev: $(VENV)/.dev-ready

test: $(VENV)/.dev-ready            ## all tests, no display needed
	@QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest $(PYTEST_ARGS)

lint: $(VENV)/.dev-ready            ## format, lint, types, import contracts
	@$(BIN)/ruff format --check src tests tools
	@$(BIN)/ruff check src tests tools
	@$(BIN)/mypy
	@$(BIN)/lint-imports

bench: $(VENV)/.dev-ready           ## speed, as ratios and against a reference in the same run
	@QT_QPA_PLATFORM=offscreen $(BIN)/python tools/speed.py

mutate: $(VENV)/.dev-ready          ## change the core a little, 200 times: do the tests notice?
	@$(BIN)/python tools/mutate.py

attack: $(VENV)/.dev-ready          ## absurd jobs, spoilt files, drawings, arguments, lines, as many as N says: WHAT=chains|cloth|drawings|documents|arguments|lines|window
	@QT_QPA_PLATFORM=offscreen $(BIN)/python -m tests.attack $(or $(WHAT),chains) $(or $(N),2000) $(or $(SEED),1)

shots: $(VENV)/.dev-ready           ## the pictures in docs/screenshots, from the sample shop
	@QT_QPA_PLATFORM=offscreen $(BIN)/python tools/shots.py

messages: $(VENV)/.dev-ready        ## every template for translators, build/omnipel.pot, and the catalogues of src/omnipel/tongues brought up to it
	@$(BIN)/python tools/messages.py

docs: $(VENV)/.dev-ready            ## the generated pages in docs/
	@LANGUAGE=en $(BIN)/python tools/pages.py
	@LANGUAGE=en $(BIN)/python tools/manual.py
	@$(BIN)/python tools/icons.py

lock: $(VENV)/.dev-ready            ## pin everything again, with hashes and without addresses
	@for f in requirements requirements-dev; do \
	  $(BIN)/pip-compile --quiet --generate-hashes --allow-unsafe --strip-extras --no-emit-index-url \
	    --no-emit-find-links --no-emit-trusted-host --output-file $$f.txt $$f.in; done

$(VENV)/.run-ready: requirements.txt pyproject.toml tools/setup.sh
	@PYTHON=$(PYTHON) tools/setup.sh run

$(VENV)/.dev-ready: requirements.txt requirements-dev.txt pyproject.toml tools/setup.sh
	@PYTHON=$(PYTHON) tools/setup.sh dev

clean:
	rm -rf $(VENV) build dist .pytest_cache .mypy_cache .ruff_cache .hypothesis .import_linter_cache
