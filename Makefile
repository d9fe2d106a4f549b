# Each chore is one short command; CI calls the same ones.
.PHONY: setup demo serve test deep bench shots schemas mutants soak put-back words lint clean

setup:          ## virtual environment with what the application needs
	@scripts/setup run

demo:           ## set up, open the demo book, print the address
	@scripts/setup run
	@.venv/bin/python -m walkround demo $(ARGS)

serve:          ## set up, open your own book
	@scripts/setup run
	@.venv/bin/python -m walkround serve $(ARGS)

test:           ## set up, Chromium included, run all tests
	@scripts/setup dev
	@scripts/chromium
	@.venv/bin/python -W error::DeprecationWarning:walkround -m tests $(ARGS)

deep:           ## the core's lines counted, and every property with as many cases as it asks for; CI runs it once
	@scripts/setup dev
	@.venv/bin/python -m tests --deep --cover .core. properties test_soak $(ARGS)

bench:          ## measure, print the table, refresh docs/performance.md
	@scripts/setup dev
	@scripts/chromium
	@.venv/bin/python -m scripts.bench $(ARGS)

shots:          ## take the pictures in docs/screenshots anew
	@scripts/setup dev
	@scripts/chromium
	@.venv/bin/python -m scripts.shots $(ARGS)

schemas:        ## write the published schemas in docs/schemas anew
	@scripts/setup run
	@.venv/bin/python -m scripts.schemas

mutants:        ## change a module in small ways, list what its tests do not notice: make mutants MODULE=packs.bands
	@scripts/setup dev
	@.venv/bin/python -m scripts.mutants $(MODULE) $(ARGS)

soak:           ## kills, parallel pilots, imports, clock jumps, backups and restores at random: make soak ARGS="5"
	@scripts/setup dev
	@.venv/bin/python -m scripts.soak $(ARGS)

put-back:       ## put each false clear of 0.4.0 back, list what the properties do not notice
	@scripts/setup dev
	@.venv/bin/python -m scripts.put_back $(ARGS)

words:          ## print every sentence that the program can show: make words, or 60 at random: make words ARGS="60 7"
	@scripts/setup dev
	@.venv/bin/python -m scripts.words $(ARGS)

lint:           ## ruff and mypy
	@scripts/setup dev
	@.venv/bin/ruff format --check walkround tests scripts
	@.venv/bin/ruff check walkround tests scripts
	@.venv/bin/mypy

clean:          ## remove what setup made
	rm -rf .venv .mypy_cache .ruff_cache .hypothesis build
