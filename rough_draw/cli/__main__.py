"""Run the command line: ``python -m rough_draw.cli``."""

from rough_draw.cli.main import main

raise SystemExit(main())
