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

  demo        everything set up, sample academy, stand-in monitors; prints address and logins
  test        every check, ending with "N passed, N failed"; unit, server or e2e for one lane, then pytest's words
  serve       the application with settings from the environment (see docs/serving.md)
  export      a lesson or a student to a file; --help tells all
  import      an archive, or balls into a lesson, from a file
  backup      the whole academy into one file, read back before it is done
  restore     a backup into an empty academy, or with --replace over the one that is there
  recover     a way back in for a coach who lost password and phone; --help tells all
  prepare     everything that a start would have to fetch, fetched now
  doctor      what is wrong with this installation, in plain words, and how to mend it
  fly         flight of launches or deliveries          standard input to standard output,
  read        reading of a block of balls               one JSON document a line
  cause       ranking of the causes
  prove       proof of a correction, or a proof set
  camera      landmarks and body of a clip; --help tells all
  bridge      the balls of a monitor's own program, from its files or streams; --help tells all
  simulate    shots of a simulated golfer; --help tells all
  bench       the targets of speed and accuracy, measured on this machine
  attack      crash, load, fuzz, tenancy or pages: on an academy of its own, made for it; --help tells all
  audit       the locked packages against advisories that lie here, without a network; --help tells all
  validate    the figures of docs/method.md, worked out anew; --help tells which
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
