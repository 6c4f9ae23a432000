#!/usr/bin/env bash
# Takes a picture of a command in a terminal window of 1280×800: terminal-shot.sh OUT.png "COMMAND" [FONT SIZE] [COLUMNS]
# Needs Debian's xvfb, xterm, imagemagick and fonts-dejavu-core.
set -euo pipefail
out=$1 command=$2 size=${3:-9} columns=${4:-178}
for tool in Xvfb xterm import; do
  command -v "$tool" >/dev/null || { echo "$tool is missing. Install: apt-get install xvfb xterm imagemagick fonts-dejavu-core"; exit 1; }
done

done_file=$(mktemp -u)
Xvfb :77 -screen 0 1280x800x24 >/dev/null 2>&1 &
xvfb=$!
trap 'kill $xvfb 2>/dev/null || true; rm -f "$done_file"' EXIT
sleep 1
DISPLAY=:77 xterm -fa "DejaVu Sans Mono" -fs "$size" -geometry "${columns}x80+0+0" -b 12 -bg "#f4ecdc" -fg "#16323a" \
  -xrm 'XTerm*color1: #9c3b2e' -xrm 'XTerm*color2: #2f6b45' -xrm 'XTerm*cursorColor: #f4ecdc' \
  -e bash -c "$command; touch '$done_file'; sleep 30" 2>/dev/null &
for _ in $(seq 120); do [ -e "$done_file" ] && break; sleep 0.5; done
sleep 1
DISPLAY=:77 import -window root "$out"
