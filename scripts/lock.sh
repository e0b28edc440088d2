#!/bin/sh
# One resolution for everything that is installed, written as one file of versions and hashes an environment.
# Versions that are there stay; `scripts/lock.sh --upgrade` asks for newer ones.
set -eu
cd "$(dirname "$0")/.."
uv=${INSTAVIS_STATE:-.instavis}/venv-tools/bin/uv
ours="--no-emit-package instavis --no-emit-package instavis-core --no-emit-package instavis-report
--no-emit-package instavis-io --no-emit-package instavis-camera --no-emit-package instavis-bridge
--no-emit-package instavis-standins"

lock() { # FILE WHAT...
    file=$1
    shift
    # Word splitting is wanted.
    "$uv" pip compile -q --python-version 3.11 --generate-hashes --no-header --no-annotate $ours \
        -o "$file" "$@" $options
}

options=$*
lock requirements.txt server/pyproject.toml
lock requirements-core.txt -c requirements.txt formats/pyproject.toml
lock requirements-camera.txt -c requirements.txt camera/pyproject.toml
lock requirements-bridge.txt -c requirements.txt bridge/pyproject.toml
lock requirements-test.txt -c requirements.txt server/pyproject.toml bridge/pyproject.toml --group test
lock requirements-tools.txt --group tools
lock requirements-node.txt --group node
