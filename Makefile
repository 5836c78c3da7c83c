.PHONY: start test bench screenshots
start:
	scripts/start
test:
	scripts/test
bench:
	.venv/bin/python -m bench
screenshots:
	scripts/screenshots
