# Shared by start and test: install what is missing, build what has changed. Sourced, not run.
cd "$(dirname "${BASH_SOURCE[0]}")/.."
ROOT=$PWD
PY="$ROOT/.venv/bin/python"
export PIP_DISABLE_PIP_VERSION_CHECK=1
# What Python compiles is kept, or each of many processes would compile it all again.
unset PYTHONDONTWRITEBYTECODE

say() { printf '%s\n' "$*" >&2; }

need() {
    command -v "$1" >/dev/null 2>&1 && return 0
    say "'$1' is missing: install $2, then run this again."
    exit 1
}

# stamp NAME FILES...: true if the files have changed since the stamp was last set.
stamp_of() { cat "$@" 2>/dev/null | sha256sum | cut -c1-16; }
changed() { [ "$(cat ".venv/stamp-$1" 2>/dev/null)" != "$2" ]; }
set_stamp() { printf '%s' "$2" >".venv/stamp-$1"; }

# The environment's place, where what has been installed and built is noted too.
python_place() {
    need python3 "Python 3.11 or later"
    if [ ! -x "$PY" ]; then
        say "Making the Python environment"
        if ! python3 -m venv .venv; then
            rm -rf .venv
            if [ "$(id -u)" = 0 ]; then
                apt-get update -qq && apt-get install -y -qq python3-venv
                python3 -m venv .venv
            else
                say "python3 cannot make environments here: install the package python3-venv, then run this again."
                exit 1
            fi
        fi
    fi
}

python_packages() {
    python_place
    local want
    want=$(stamp_of requirements/app.txt pyproject.toml)
    if changed app "$want"; then
        say "Installing the Python packages"
        "$PY" -m pip install -q --no-compile -r requirements/app.txt
        "$PY" -m pip install -q --no-compile --no-deps -e .
        set_stamp app "$want"
    fi
}

# It knows itself what is compiled from what, and does nothing where that has not changed.
engine() {
    "$PY" -m rough_draw.cli.warm
}

python_env() {
    python_packages
    engine
}

test_packages() {
    local want
    want=$(stamp_of requirements/test.txt)
    if changed test "$want"; then
        say "Installing the packages for the tests"
        "$PY" -m pip install -q --no-compile -r requirements/test.txt
        set_stamp test "$want"
    fi
}

front_packages() {
    need node "Node.js 20"
    need npm "npm"
    local want
    want=$(stamp_of frontend/package-lock.json)
    if [ ! -d frontend/node_modules ] || changed npm "$want"; then
        say "Installing the front end's packages"
        (cd frontend && npm ci --no-audit --no-fund --loglevel=error >&2)
        set_stamp npm "$want"
    fi
}

front_build() {
    front_packages
    local want
    want=$(find frontend/src frontend/public frontend/index.html frontend/vite.config.ts frontend/package-lock.json -type f | LC_ALL=C sort | xargs cat | sha256sum | cut -c1-16)
    if [ ! -f rough_draw/api/static/index.html ] || changed front "$want"; then
        say "Building the front end"
        # Built beside and put in its place whole: a server that runs goes on answering with one or the other.
        local static=rough_draw/api/static
        rm -rf "$static.new" "$static.old"
        (cd frontend && npx --no-install vite build --logLevel warn --outDir "../$static.new" --emptyOutDir >&2)
        [ ! -d "$static" ] || mv "$static" "$static.old"
        mv "$static.new" "$static"
        rm -rf "$static.old"
        set_stamp front "$want"
    fi
}
