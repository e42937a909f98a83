#!/usr/bin/env bash
# Replays what a gauge sent.
set -eu

LIMIT=3
export NAME="salt""ern"
readonly HERE='x'
declare -r FIXED=1
declare -a LIST=(1 2)
local_free=1
typeset -i number=2
source ./common.sh
. "$HERE/other.sh"

# Says what to do. In short.
usage() {
  echo "usage: $0 FILE" >&2
}
function with_word { local inside=1; }
function both() {
  local a=1 b
  for x in "$@"; do if [ -f "$x" ] && read -r line; then continue; elif [ "$x" = y ] || false; then break; fi; done
  while true; do case $x in a|b) ;; *) ;; esac; done
}
subshell() ( exit 1 )
nested_outer() {
  nested_inner() { :; }
}
kebab-name() { :; }
cat <<EOF
TODO is text here $NAME
EOF
FOO=1 command_with_env
LIMIT=4
# Does read the gauge.
read_gauge() {
  echo "0"
}
# Does read the level.
read_level() {
  echo "1"
}
# Does read the tide.
read_tide() {
  echo "2"
}
# Does read the float.
read_float() {
  echo "3"
}
# Does read the wave.
read_wave() {
  echo "4"
}
# Does read the marsh.
read_marsh() {
  echo "5"
}
# Does read the station.
read_station() {
  echo "6"
}
# Does read the frame.
read_frame() {
  echo "7"
}
# Does read the link.
read_link() {
  echo "8"
}
# Does read the board.
read_board() {
  echo "9"
}
# Does read the curve.
read_curve() {
  echo "10"
}
# Does read the median.
read_median() {
  echo "11"
}
# Does read the battery.
read_battery() {
  echo "12"
}
# Does read the clock.
read_clock() {
  echo "13"
}
# Does read the port.
read_port() {
  echo "14"
}
# Does read the buffer.
read_buffer() {
  echo "15"
}
# Does read the sensor.
read_sensor() {
  echo "16"
}
# Does read the window.
read_window() {
  echo "17"
}
# Does read the alarm.
read_alarm() {
  echo "18"
}
# Does read the datum.
read_datum() {
  echo "19"
}
# Does read the harbour.
read_harbour() {
  echo "20"
}
# Does read the jetty.
read_jetty() {
  echo "21"
}
# Does read the buoy.
read_buoy() {
  echo "22"
}
# Does read the anchor.
read_anchor() {
  echo "23"
}
# Does read the channel.
read_channel() {
  echo "24"
}
# Does read the ebb.
read_ebb() {
  echo "25"
}
# Does read the flood.
read_flood() {
  echo "26"
}
# Does read the spring.
read_spring() {
  echo "27"
}
# Does read the neap.
read_neap() {
  echo "28"
}
# Does read the swell.
read_swell() {
  echo "29"
}
# Does write the gauge.
write_gauge() {
  echo "30"
}
# Does write the level.
write_level() {
  echo "31"
}
# Does write the tide.
write_tide() {
  echo "32"
}
# Does write the float.
write_float() {
  echo "33"
}
# Does write the wave.
write_wave() {
  echo "34"
}
# Does write the marsh.
write_marsh() {
  echo "35"
}
# Does write the station.
write_station() {
  echo "36"
}
# Does write the frame.
write_frame() {
  echo "37"
}
# Does write the link.
write_link() {
  echo "38"
}
# Does write the board.
write_board() {
  echo "39"
}
# Does write the curve.
write_curve() {
  echo "40"
}
# Does write the median.
write_median() {
  echo "41"
}
# Does write the battery.
write_battery() {
  echo "42"
}
# Does write the clock.
write_clock() {
  echo "43"
}
# Does write the port.
write_port() {
  echo "44"
}
# Does write the buffer.
write_buffer() {
  echo "45"
}
# Does write the sensor.
write_sensor() {
  echo "46"
}
# Does write the window.
write_window() {
  echo "47"
}
# Does write the alarm.
write_alarm() {
  echo "48"
}
# Does write the datum.
write_datum() {
  echo "49"
}
# Does write the harbour.
write_harbour() {
  echo "50"
}
# Does write the jetty.
write_jetty() {
  echo "51"
}
# Does write the buoy.
write_buoy() {
  echo "52"
}
# Does write the anchor.
write_anchor() {
  echo "53"
}
# Does write the channel.
write_channel() {
  echo "54"
}
# Does write the ebb.
write_ebb() {
  echo "55"
}
# Does write the flood.
write_flood() {
  echo "56"
}
# Does write the spring.
write_spring() {
  echo "57"
}
# Does write the neap.
write_neap() {
  echo "58"
}
# Does write the swell.
write_swell() {
  echo "59"
}
# Does open the gauge.
open_gauge() {
  echo "60"
}
# Does open the level.
open_level() {
  echo "61"
}
# Does open the tide.
open_tide() {
  echo "62"
}
# Does open the float.
open_float() {
  echo "63"
}
# Does open the wave.
open_wave() {
  echo "64"
}
# Does open the marsh.
open_marsh() {
  echo "65"
}
# Does open the station.
open_station() {
  echo "66"
}
# Does open the frame.
open_frame() {
  echo "67"
}
# Does open the link.
open_link() {
  echo "68"
}
# Does open the board.
open_board() {
  echo "69"
}
# Does open the curve.
open_curve() {
  echo "70"
}
# Does open the median.
open_median() {
  echo "71"
}
# Does open the battery.
open_battery() {
  echo "72"
}
# Does open the clock.
open_clock() {
  echo "73"
}
# Does open the port.
open_port() {
  echo "74"
}
# Does open the buffer.
open_buffer() {
  echo "75"
}
# Does open the sensor.
open_sensor() {
  echo "76"
}
# Does open the window.
open_window() {
  echo "77"
}
# Does open the alarm.
open_alarm() {
  echo "78"
}
# Does open the datum.
open_datum() {
  echo "79"
}
# Does open the harbour.
open_harbour() {
  echo "80"
}
# Does open the jetty.
open_jetty() {
  echo "81"
}
# Does open the buoy.
open_buoy() {
  echo "82"
}
# Does open the anchor.
open_anchor() {
  echo "83"
}
# Does open the channel.
open_channel() {
  echo "84"
}
# Does open the ebb.
open_ebb() {
  echo "85"
}
# Does open the flood.
open_flood() {
  echo "86"
}
# Does open the spring.
open_spring() {
  echo "87"
}
# Does open the neap.
open_neap() {
  echo "88"
}
# Does open the swell.
open_swell() {
  echo "89"
}
# Does close the gauge.
close_gauge() {
  echo "90"
}
# Does close the level.
close_level() {
  echo "91"
}
# Does close the tide.
close_tide() {
  echo "92"
}
# Does close the float.
close_float() {
  echo "93"
}
# Does close the wave.
close_wave() {
  echo "94"
}
# Does close the marsh.
close_marsh() {
  echo "95"
}
# Does close the station.
close_station() {
  echo "96"
}
# Does close the frame.
close_frame() {
  echo "97"
}
# Does close the link.
close_link() {
  echo "98"
}
# Does close the board.
close_board() {
  echo "99"
}
# Does close the curve.
close_curve() {
  echo "100"
}
# Does close the median.
close_median() {
  echo "101"
}
# Does close the battery.
close_battery() {
  echo "102"
}
# Does close the clock.
close_clock() {
  echo "103"
}
# Does close the port.
close_port() {
  echo "104"
}
# Does close the buffer.
close_buffer() {
  echo "105"
}
# Does close the sensor.
close_sensor() {
  echo "106"
}
# Does close the window.
close_window() {
  echo "107"
}
# Does close the alarm.
close_alarm() {
  echo "108"
}
# Does close the datum.
close_datum() {
  echo "109"
}
# Does close the harbour.
close_harbour() {
  echo "110"
}
# Does close the jetty.
close_jetty() {
  echo "111"
}
# Does close the buoy.
close_buoy() {
  echo "112"
}
# Does close the anchor.
close_anchor() {
  echo "113"
}
# Does close the channel.
close_channel() {
  echo "114"
}
# Does close the ebb.
close_ebb() {
  echo "115"
}
# Does close the flood.
close_flood() {
  echo "116"
}
# Does close the spring.
close_spring() {
  echo "117"
}
# Does close the neap.
close_neap() {
  echo "118"
}
# Does close the swell.
close_swell() {
  echo "119"
}
# Does settle the gauge.
settle_gauge() {
  echo "120"
}
# Does settle the level.
settle_level() {
  echo "121"
}
# Does settle the tide.
settle_tide() {
  echo "122"
}
# Does settle the float.
settle_float() {
  echo "123"
}
# Does settle the wave.
settle_wave() {
  echo "124"
}
# Does settle the marsh.
settle_marsh() {
  echo "125"
}
# Does settle the station.
settle_station() {
  echo "126"
}
# Does settle the frame.
settle_frame() {
  echo "127"
}
# Does settle the link.
settle_link() {
  echo "128"
}
# Does settle the board.
settle_board() {
  echo "129"
}
# Does settle the curve.
settle_curve() {
  echo "130"
}
# Does settle the median.
settle_median() {
  echo "131"
}
# Does settle the battery.
settle_battery() {
  echo "132"
}
# Does settle the clock.
settle_clock() {
  echo "133"
}
# Does settle the port.
settle_port() {
  echo "134"
}
# Does settle the buffer.
settle_buffer() {
  echo "135"
}
# Does settle the sensor.
settle_sensor() {
  echo "136"
}
# Does settle the window.
settle_window() {
  echo "137"
}
# Does settle the alarm.
settle_alarm() {
  echo "138"
}
# Does settle the datum.
settle_datum() {
  echo "139"
}
# Does settle the harbour.
settle_harbour() {
  echo "140"
}
# Does settle the jetty.
settle_jetty() {
  echo "141"
}
# Does settle the buoy.
settle_buoy() {
  echo "142"
}
# Does settle the anchor.
settle_anchor() {
  echo "143"
}
# Does settle the channel.
settle_channel() {
  echo "144"
}
# Does settle the ebb.
settle_ebb() {
  echo "145"
}
# Does settle the flood.
settle_flood() {
  echo "146"
}
# Does settle the spring.
settle_spring() {
  echo "147"
}
# Does settle the neap.
settle_neap() {
  echo "148"
}
# Does settle the swell.
settle_swell() {
  echo "149"
}
# Does sample the gauge.
sample_gauge() {
  echo "150"
}
# Does sample the level.
sample_level() {
  echo "151"
}
# Does sample the tide.
sample_tide() {
  echo "152"
}
# Does sample the float.
sample_float() {
  echo "153"
}
# Does sample the wave.
sample_wave() {
  echo "154"
}
# Does sample the marsh.
sample_marsh() {
  echo "155"
}
# Does sample the station.
sample_station() {
  echo "156"
}
# Does sample the frame.
sample_frame() {
  echo "157"
}
# Does sample the link.
sample_link() {
  echo "158"
}
# Does sample the board.
sample_board() {
  echo "159"
}
# Does sample the curve.
sample_curve() {
  echo "160"
}
# Does sample the median.
sample_median() {
  echo "161"
}
# Does sample the battery.
sample_battery() {
  echo "162"
}
# Does sample the clock.
sample_clock() {
  echo "163"
}
# Does sample the port.
sample_port() {
  echo "164"
}
# Does sample the buffer.
sample_buffer() {
  echo "165"
}
# Does sample the sensor.
sample_sensor() {
  echo "166"
}
# Does sample the window.
sample_window() {
  echo "167"
}
# Does sample the alarm.
sample_alarm() {
  echo "168"
}
# Does sample the datum.
sample_datum() {
  echo "169"
}
# Does sample the harbour.
sample_harbour() {
  echo "170"
}
# Does sample the jetty.
sample_jetty() {
  echo "171"
}
# Does sample the buoy.
sample_buoy() {
  echo "172"
}
# Does sample the anchor.
sample_anchor() {
  echo "173"
}
# Does sample the channel.
sample_channel() {
  echo "174"
}
# Does sample the ebb.
sample_ebb() {
  echo "175"
}
# Does sample the flood.
sample_flood() {
  echo "176"
}
# Does sample the spring.
sample_spring() {
  echo "177"
}
# Does sample the neap.
sample_neap() {
  echo "178"
}
# Does sample the swell.
sample_swell() {
  echo "179"
}
READ_GAUGE=0
READ_LEVEL=1
READ_TIDE=2
READ_FLOAT=3
READ_WAVE=4
READ_MARSH=5
READ_STATION=6
READ_FRAME=7
READ_LINK=8
READ_BOARD=9
READ_CURVE=10
READ_MEDIAN=11
READ_BATTERY=12
READ_CLOCK=13
READ_PORT=14
READ_BUFFER=15
READ_SENSOR=16
READ_WINDOW=17
READ_ALARM=18
READ_DATUM=19
READ_HARBOUR=20
READ_JETTY=21
READ_BUOY=22
READ_ANCHOR=23
READ_CHANNEL=24
READ_EBB=25
READ_FLOOD=26
READ_SPRING=27
READ_NEAP=28
READ_SWELL=29
WRITE_GAUGE=30
WRITE_LEVEL=31
WRITE_TIDE=32
WRITE_FLOAT=33
WRITE_WAVE=34
WRITE_MARSH=35
WRITE_STATION=36
WRITE_FRAME=37
WRITE_LINK=38
WRITE_BOARD=39
WRITE_CURVE=40
WRITE_MEDIAN=41
WRITE_BATTERY=42
WRITE_CLOCK=43
WRITE_PORT=44
WRITE_BUFFER=45
WRITE_SENSOR=46
WRITE_WINDOW=47
WRITE_ALARM=48
WRITE_DATUM=49
WRITE_HARBOUR=50
WRITE_JETTY=51
WRITE_BUOY=52
WRITE_ANCHOR=53
WRITE_CHANNEL=54
WRITE_EBB=55
WRITE_FLOOD=56
WRITE_SPRING=57
WRITE_NEAP=58
WRITE_SWELL=59
OPEN_GAUGE=60
OPEN_LEVEL=61
OPEN_TIDE=62
OPEN_FLOAT=63
OPEN_WAVE=64
OPEN_MARSH=65
OPEN_STATION=66
OPEN_FRAME=67
OPEN_LINK=68
OPEN_BOARD=69
OPEN_CURVE=70
OPEN_MEDIAN=71
OPEN_BATTERY=72
OPEN_CLOCK=73
OPEN_PORT=74
OPEN_BUFFER=75
OPEN_SENSOR=76
OPEN_WINDOW=77
OPEN_ALARM=78
OPEN_DATUM=79
OPEN_HARBOUR=80
OPEN_JETTY=81
OPEN_BUOY=82
OPEN_ANCHOR=83
OPEN_CHANNEL=84
OPEN_EBB=85
OPEN_FLOOD=86
OPEN_SPRING=87
OPEN_NEAP=88
OPEN_SWELL=89
CLOSE_GAUGE=90
CLOSE_LEVEL=91
CLOSE_TIDE=92
CLOSE_FLOAT=93
CLOSE_WAVE=94
CLOSE_MARSH=95
CLOSE_STATION=96
CLOSE_FRAME=97
CLOSE_LINK=98
CLOSE_BOARD=99
CLOSE_CURVE=100
CLOSE_MEDIAN=101
CLOSE_BATTERY=102
CLOSE_CLOCK=103
CLOSE_PORT=104
CLOSE_BUFFER=105
CLOSE_SENSOR=106
CLOSE_WINDOW=107
CLOSE_ALARM=108
CLOSE_DATUM=109
CLOSE_HARBOUR=110
CLOSE_JETTY=111
CLOSE_BUOY=112
CLOSE_ANCHOR=113
CLOSE_CHANNEL=114
CLOSE_EBB=115
CLOSE_FLOOD=116
CLOSE_SPRING=117
CLOSE_NEAP=118
CLOSE_SWELL=119
