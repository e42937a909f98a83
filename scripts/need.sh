#!/bin/sh
# Installs Debian packages that are missing: need.sh postgresql|chromium ...
# As root by apt-get itself, else through sudo where there is one.
set -eu

have() {
    case $1 in
    postgresql) ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || command -v initdb >/dev/null 2>&1 ;;
    chromium) command -v chromium >/dev/null 2>&1 ;;
    esac
}

package() {
    case $1 in
    postgresql) echo postgresql-15 ;;
    *) echo "$1" ;;
    esac
}

missing=""
for what in "$@"; do
    have "$what" || missing="$missing $(package "$what")"
done
[ -n "$missing" ] || exit 0
command -v apt-get >/dev/null 2>&1 || { echo "Install these and try again:$missing" >&2; exit 1; }
as_root=""
[ "$(id -u)" = 0 ] || as_root=sudo
echo "Installing$missing"
export DEBIAN_FRONTEND=noninteractive
# the package would start a cluster of its own; nobody asked for one
if [ ! -d /etc/postgresql-common ]; then
    $as_root mkdir -p /etc/postgresql-common
    echo "create_main_cluster = false" | $as_root tee /etc/postgresql-common/createcluster.conf >/dev/null
fi
$as_root apt-get update -qq
# shellcheck disable=SC2086
$as_root apt-get install -y -qq --no-install-recommends $missing >/dev/null
