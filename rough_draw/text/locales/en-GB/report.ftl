## Where British English differs.

report-licensed = { $name }, licence { $licence }
