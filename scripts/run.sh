# Finds out what a verb needs, prepares it, and hands over. Called by ./instavis with its folder first.
set -eu
root=$1
shift
verb=${1:-help}
state=${INSTAVIS_STATE:-$root/.instavis}
export INSTAVIS_ROOT="$root" INSTAVIS_STATE="$state"
export PYTHONPATH="$root/core:$root/report:$root/formats:$root/camera:$root/bridge:$root/server:$root/standins:$root/scripts"
export PYTHONPYCACHEPREFIX="$state/pycache"
unset PYTHONDONTWRITEBYTECODE
. "$root/scripts/prepare.sh"

usage() {
    cat <<'TEXT'
./instavis VERB

  demo        sets up everything, starts a sample academy with stand-in monitors, prints address and logins
  test        runs every check and prints "N passed, N failed"; add unit, server or e2e for one lane
  serve       runs the application with settings from the environment (see docs/serving.md)
  export      writes a lesson or a student to a file
  import      reads an archive, or balls into a lesson, from a file
  backup      writes the whole academy to one file and reads it back to check it
  restore     restores a backup into an empty academy, or over the present one with --replace
  recover     makes a password link for a coach who lost password and phone
  prepare     downloads and installs everything that a start needs
  doctor      checks this installation and says how to fix what is wrong
  fly         computes the flight of launches or deliveries
  read        reads a block of balls
  cause       ranks the causes
  prove       proves a correction, or evaluates a proof set
  camera      finds landmarks and measures the body in a film
  bridge      sends the balls of a monitor's own program, from its files or streams
  simulate    simulates a golfer's shots
  bench       measures speed and accuracy on this machine
  attack      tests crashes, load, bad input, tenancy and pages on an academy made for it
  audit       compares the locked packages with advisories on this disk, without a network
  validate    computes the figures of docs/method.md

  fly, read, cause and prove read one JSON document per line from standard input and answer with one line each.
  VERB --help explains most verbs.
TEXT
}

case $verb in
simulate)
    case " $* " in
    *" --server"* | *" --as"*)
        # As a device, or as another monitor's program: the stand-in monitor speaks the protocol and takes the same golfer.
        ensure_packages
        ensure_venv app requirements.txt
        shift
        exec "$state/venv-app/bin/python" -m instavis_standins.monitor "$@"
        ;;
    esac
    any_venv
    exec "$state/venv-$use/bin/python" -m instavis_cli simulate "$@"
    ;;
camera)
    ensure_venv camera requirements-camera.txt
    ensure_model
    shift
    exec "$state/venv-camera/bin/python" -m instavis_camera "$@"
    ;;
bridge)
    ensure_venv bridge requirements-bridge.txt
    shift
    exec "$state/venv-bridge/bin/python" -m instavis_bridge "$@"
    ;;
fly | read | cause | prove)
    # No database, no server, no Node: only numbers.
    any_venv
    exec "$state/venv-$use/bin/python" -m instavis_cli "$@"
    ;;
backup | restore)
    ensure_packages
    ensure_dump
    ensure_venv app requirements.txt
    exec "$state/venv-app/bin/python" -m launcher "$@"
    ;;
export | import | doctor | recover)
    ensure_packages
    ensure_venv app requirements.txt
    exec "$state/venv-app/bin/python" -m launcher "$@"
    ;;
demo | serve)
    ensure_packages
    ensure_venv app requirements.txt
    ensure_front_end
    ensure_model
    exec "$state/venv-app/bin/python" -m launcher "$@"
    ;;
prepare)
    # Everything that a start would have to fetch, before it: for images and technicians.
    ensure_packages
    ensure_dump
    ensure_venv app requirements.txt
    ensure_front_end
    ensure_model
    ;;
test)
    ensure_packages
    ensure_dump
    ensure_browser
    ensure_proxy
    ensure_node
    { ensure_front_end && ensure_model; } &
    front_end=$!
    # The product's own programs run without what only the checks need.
    ensure_venv app requirements.txt
    ensure_venv test requirements-test.txt
    wait "$front_end" || exit 1
    exec "$state/venv-test/bin/python" -m launcher "$@"
    ;;
validate)
    ensure_packages
    ensure_venv test requirements-test.txt
    case " $* " in *" camera "*) ensure_model ;; esac
    shift
    exec "$state/venv-test/bin/python" -m validation "$@"
    ;;
audit)
    ensure_venv test requirements-test.txt
    shift
    exec "$state/venv-test/bin/python" -m audit "$@"
    ;;
bench | attack)
    ensure_packages
    [ "$verb" = attack ] || ensure_browser
    ensure_venv test requirements-test.txt
    ensure_front_end
    ensure_model
    shift
    exec "$state/venv-test/bin/python" -m "$verb" "$@"
    ;;
help | -h | --help)
    usage
    ;;
*)
    echo "instavis: there is no verb '$verb'." >&2
    usage >&2
    exit 64
    ;;
esac
