.PHONY: start test bench soak screenshots
start:
	scripts/start
test:
	scripts/test
bench:
	.venv/bin/python -m bench
screenshots:
	scripts/screenshots
soak:
	ROUGH_DRAW_KILLS=50 .venv/bin/python -m pytest tests/api/test_kill.py
