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
	.venv/bin/python -m bench.soak --minutes $${SOAK_MINUTES:-60}
	ROUGH_DRAW_TESTS=deep .venv/bin/python -m pytest --timeout 7200 tests/api/test_kill.py tests/api/test_any_rig.py tests/store/test_killed_within.py tests/browser/test_odd_worlds.py
