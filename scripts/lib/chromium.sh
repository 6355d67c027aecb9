#!/bin/sh
# Debian's Chromium without the lists under its address bar: each window loads two pages for them, which nobody sees where there is no
# monitor, and which take ten times the processor of an empty page. Of two lists of features Chromium reads the last one only, so
# they are added to the one that it is started with.
for arg; do
  shift
  case $arg in
    --disable-features=*) arg="$arg,WebUIOmniboxPopup,WebUIOmniboxAimPopup,WebUIOmniboxFullPopup" ;;
  esac
  set -- "$@" "$arg"
done
exec /usr/bin/chromium "$@"
