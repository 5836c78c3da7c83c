"""The draw read while it runs: fitted live, its faults weighed, the next telling test, alarms."""
