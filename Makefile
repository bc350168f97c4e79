# Each target does all of its own set-up; see README.md.
.PHONY: demo example test lint stop screenshots sbom

PYTHON := .venv/bin/python

# Where the machine forbids to keep compiled Python, each of hundreds of processes compiles all again.
unexport PYTHONDONTWRITEBYTECODE

demo:
	@bash tools/prepare.sh run
	@$(PYTHON) -m tools.demo

example:
	@bash tools/prepare.sh run
	@$(PYTHON) -m tools.example

test:
	@bash tools/prepare.sh test
	@$(PYTHON) -m tools.check all

lint:
	@bash tools/prepare.sh test
	@$(PYTHON) -m tools.check lint

stop:
	@if [ -x $(PYTHON) ]; then $(PYTHON) -m tools.stop; else echo "stop: nothing was ever started here"; fi

screenshots:
	@bash tools/prepare.sh test
	@$(PYTHON) -m tools.screenshots

sbom:
	@bash tools/prepare.sh run
	@$(PYTHON) -m tools.sbom
