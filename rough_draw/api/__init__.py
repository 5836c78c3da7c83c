"""The web: thin routes over core and store, live stream, errors as problem details."""
