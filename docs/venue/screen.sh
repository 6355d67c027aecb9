#!/bin/sh
# An output full screen: its address, where the screen begins (x,y), a number for each screen.
while :; do
  chromium --kiosk --app="$1" --window-position="$2" --user-data-dir="$HOME/.foothill-screen-$3" \
    --no-first-run --noerrdialogs --disable-session-crashed-bubble --disable-infobars --hide-scrollbars \
    --overscroll-history-navigation=0 --autoplay-policy=no-user-gesture-required \
    --disable-background-timer-throttling --disable-renderer-backgrounding --disable-backgrounding-occluded-windows
  sleep 1
done
