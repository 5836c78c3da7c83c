"""The solver: volumes joined by elements, run in time. Only `simulate` and what it calls import the compiler."""
