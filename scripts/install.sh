# Sourced by start.sh and test.sh: makes sure that what the product runs on is installed.

# What reads office decks, and free fonts that are as wide as those that decks usually ask for.
OFFICE="libreoffice-impress-nogui fonts-liberation2 fonts-crosextra-carlito fonts-crosextra-caladea fonts-noto-core"

need() { # PROGRAM:PACKAGE
  command -v "${1%%:*}" >/dev/null || { echo "${1%%:*} is missing. Install ${1##*:} first." >&2; exit 1; }
}

installed() { dpkg-query -W -f='${Status}' "$1" 2>/dev/null | grep -q 'install ok installed'; }

need_debian() { # PACKAGE...
  local missing=()
  for package in "$@"; do
    case "$package" in
      ffmpeg) command -v ffmpeg >/dev/null && command -v ffprobe >/dev/null || missing+=("$package") ;;
      chromium) command -v chromium >/dev/null || missing+=("$package") ;;
      postgresql) compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null || missing+=("$package") ;;
      *) installed "$package" || missing+=("$package") ;;
    esac
  done
  [ "${#missing[@]}" -eq 0 ] && return
  local root=()
  if [ "$(id -u)" -ne 0 ]; then
    if command -v sudo >/dev/null && sudo -n true 2>/dev/null; then root=(sudo -n); else
      echo "These Debian packages are missing: ${missing[*]}" >&2
      echo "Install them, for example with: sudo apt-get install ${missing[*]}" >&2
      exit 1
    fi
  fi
  echo "Installing ${missing[*]} …"
  "${root[@]}" apt-get update -q >/dev/null
  # Debian would start a server of its own; ours is private.
  "${root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends "${missing[@]}" >/dev/null
}

need_npm() {
  local stamp=node_modules/.installed-from
  if [ ! -f "$stamp" ] || ! cmp -s package-lock.json "$stamp"; then
    echo 'Installing npm packages …'
    npm ci --no-fund --no-audit --loglevel=error
    cp package-lock.json "$stamp"
  fi
}
