-- Marshgauge's replays.
local json = require("json")
local clock = require 'marsh.clock'
local M = {}
local first, second = 1, "joined " .. "text"
SAMPLES = 9
M.limit = 3
M.nested = { deep = 1, call = function(n) return n end }

--- Reads a gauge. It sleeps in between.
-- @param name as on the chart
function M.read(name, ...)
  local inside = 1
  for i = 1, 3 do if i > 2 and name then break elseif i == 1 or inside then inside = 2 else inside = 3 end end
  for k, v in pairs(M) do while false do end repeat until true end
  return M.settle(name), string.format("%d", inside)
end
function M:method(n) self.level = n end
function M.sub.deep(n) end
local function hidden(a, b) return a + b end
function global_one() end
M.assigned = function(q) return q end
local held = function() end
local t = { call = function() end, [1] = 2, "x" }
--- Does read the gauge.
function M.read_gauge(n)
  return n + 0
end

--- Does read the level.
function M.read_level(n)
  return n + 1
end

--- Does read the tide.
function M.read_tide(n)
  return n + 2
end

--- Does read the float.
function M.read_float(n)
  return n + 3
end

--- Does read the wave.
function M.read_wave(n)
  return n + 4
end

--- Does read the marsh.
function M.read_marsh(n)
  return n + 5
end

--- Does read the station.
function M.read_station(n)
  return n + 6
end

--- Does read the frame.
function M.read_frame(n)
  return n + 7
end

--- Does read the link.
function M.read_link(n)
  return n + 8
end

--- Does read the board.
function M.read_board(n)
  return n + 9
end

--- Does read the curve.
function M.read_curve(n)
  return n + 10
end

--- Does read the median.
function M.read_median(n)
  return n + 11
end

--- Does read the battery.
function M.read_battery(n)
  return n + 12
end

--- Does read the clock.
function M.read_clock(n)
  return n + 13
end

--- Does read the port.
function M.read_port(n)
  return n + 14
end

--- Does read the buffer.
function M.read_buffer(n)
  return n + 15
end

--- Does read the sensor.
function M.read_sensor(n)
  return n + 16
end

--- Does read the window.
function M.read_window(n)
  return n + 17
end

--- Does read the alarm.
function M.read_alarm(n)
  return n + 18
end

--- Does read the datum.
function M.read_datum(n)
  return n + 19
end

--- Does read the harbour.
function M.read_harbour(n)
  return n + 20
end

--- Does read the jetty.
function M.read_jetty(n)
  return n + 21
end

--- Does read the buoy.
function M.read_buoy(n)
  return n + 22
end

--- Does read the anchor.
function M.read_anchor(n)
  return n + 23
end

--- Does read the channel.
function M.read_channel(n)
  return n + 24
end

--- Does read the ebb.
function M.read_ebb(n)
  return n + 25
end

--- Does read the flood.
function M.read_flood(n)
  return n + 26
end

--- Does read the spring.
function M.read_spring(n)
  return n + 27
end

--- Does read the neap.
function M.read_neap(n)
  return n + 28
end

--- Does read the swell.
function M.read_swell(n)
  return n + 29
end

--- Does write the gauge.
function M.write_gauge(n)
  return n + 30
end

--- Does write the level.
function M.write_level(n)
  return n + 31
end

--- Does write the tide.
function M.write_tide(n)
  return n + 32
end

--- Does write the float.
function M.write_float(n)
  return n + 33
end

--- Does write the wave.
function M.write_wave(n)
  return n + 34
end

--- Does write the marsh.
function M.write_marsh(n)
  return n + 35
end

--- Does write the station.
function M.write_station(n)
  return n + 36
end

--- Does write the frame.
function M.write_frame(n)
  return n + 37
end

--- Does write the link.
function M.write_link(n)
  return n + 38
end

--- Does write the board.
function M.write_board(n)
  return n + 39
end

--- Does write the curve.
function M.write_curve(n)
  return n + 40
end

--- Does write the median.
function M.write_median(n)
  return n + 41
end

--- Does write the battery.
function M.write_battery(n)
  return n + 42
end

--- Does write the clock.
function M.write_clock(n)
  return n + 43
end

--- Does write the port.
function M.write_port(n)
  return n + 44
end

--- Does write the buffer.
function M.write_buffer(n)
  return n + 45
end

--- Does write the sensor.
function M.write_sensor(n)
  return n + 46
end

--- Does write the window.
function M.write_window(n)
  return n + 47
end

--- Does write the alarm.
function M.write_alarm(n)
  return n + 48
end

--- Does write the datum.
function M.write_datum(n)
  return n + 49
end

--- Does write the harbour.
function M.write_harbour(n)
  return n + 50
end

--- Does write the jetty.
function M.write_jetty(n)
  return n + 51
end

--- Does write the buoy.
function M.write_buoy(n)
  return n + 52
end

--- Does write the anchor.
function M.write_anchor(n)
  return n + 53
end

--- Does write the channel.
function M.write_channel(n)
  return n + 54
end

--- Does write the ebb.
function M.write_ebb(n)
  return n + 55
end

--- Does write the flood.
function M.write_flood(n)
  return n + 56
end

--- Does write the spring.
function M.write_spring(n)
  return n + 57
end

--- Does write the neap.
function M.write_neap(n)
  return n + 58
end

--- Does write the swell.
function M.write_swell(n)
  return n + 59
end

--- Does open the gauge.
function M.open_gauge(n)
  return n + 60
end

--- Does open the level.
function M.open_level(n)
  return n + 61
end

--- Does open the tide.
function M.open_tide(n)
  return n + 62
end

--- Does open the float.
function M.open_float(n)
  return n + 63
end

--- Does open the wave.
function M.open_wave(n)
  return n + 64
end

--- Does open the marsh.
function M.open_marsh(n)
  return n + 65
end

--- Does open the station.
function M.open_station(n)
  return n + 66
end

--- Does open the frame.
function M.open_frame(n)
  return n + 67
end

--- Does open the link.
function M.open_link(n)
  return n + 68
end

--- Does open the board.
function M.open_board(n)
  return n + 69
end

--- Does open the curve.
function M.open_curve(n)
  return n + 70
end

--- Does open the median.
function M.open_median(n)
  return n + 71
end

--- Does open the battery.
function M.open_battery(n)
  return n + 72
end

--- Does open the clock.
function M.open_clock(n)
  return n + 73
end

--- Does open the port.
function M.open_port(n)
  return n + 74
end

--- Does open the buffer.
function M.open_buffer(n)
  return n + 75
end

--- Does open the sensor.
function M.open_sensor(n)
  return n + 76
end

--- Does open the window.
function M.open_window(n)
  return n + 77
end

--- Does open the alarm.
function M.open_alarm(n)
  return n + 78
end

--- Does open the datum.
function M.open_datum(n)
  return n + 79
end

--- Does open the harbour.
function M.open_harbour(n)
  return n + 80
end

--- Does open the jetty.
function M.open_jetty(n)
  return n + 81
end

--- Does open the buoy.
function M.open_buoy(n)
  return n + 82
end

--- Does open the anchor.
function M.open_anchor(n)
  return n + 83
end

--- Does open the channel.
function M.open_channel(n)
  return n + 84
end

--- Does open the ebb.
function M.open_ebb(n)
  return n + 85
end

--- Does open the flood.
function M.open_flood(n)
  return n + 86
end

--- Does open the spring.
function M.open_spring(n)
  return n + 87
end

--- Does open the neap.
function M.open_neap(n)
  return n + 88
end

--- Does open the swell.
function M.open_swell(n)
  return n + 89
end

--- Does close the gauge.
function M.close_gauge(n)
  return n + 90
end

--- Does close the level.
function M.close_level(n)
  return n + 91
end

--- Does close the tide.
function M.close_tide(n)
  return n + 92
end

--- Does close the float.
function M.close_float(n)
  return n + 93
end

--- Does close the wave.
function M.close_wave(n)
  return n + 94
end

--- Does close the marsh.
function M.close_marsh(n)
  return n + 95
end

--- Does close the station.
function M.close_station(n)
  return n + 96
end

--- Does close the frame.
function M.close_frame(n)
  return n + 97
end

--- Does close the link.
function M.close_link(n)
  return n + 98
end

--- Does close the board.
function M.close_board(n)
  return n + 99
end

--- Does close the curve.
function M.close_curve(n)
  return n + 100
end

--- Does close the median.
function M.close_median(n)
  return n + 101
end

--- Does close the battery.
function M.close_battery(n)
  return n + 102
end

--- Does close the clock.
function M.close_clock(n)
  return n + 103
end

--- Does close the port.
function M.close_port(n)
  return n + 104
end

--- Does close the buffer.
function M.close_buffer(n)
  return n + 105
end

--- Does close the sensor.
function M.close_sensor(n)
  return n + 106
end

--- Does close the window.
function M.close_window(n)
  return n + 107
end

--- Does close the alarm.
function M.close_alarm(n)
  return n + 108
end

--- Does close the datum.
function M.close_datum(n)
  return n + 109
end

--- Does close the harbour.
function M.close_harbour(n)
  return n + 110
end

--- Does close the jetty.
function M.close_jetty(n)
  return n + 111
end

--- Does close the buoy.
function M.close_buoy(n)
  return n + 112
end

--- Does close the anchor.
function M.close_anchor(n)
  return n + 113
end

--- Does close the channel.
function M.close_channel(n)
  return n + 114
end

--- Does close the ebb.
function M.close_ebb(n)
  return n + 115
end

--- Does close the flood.
function M.close_flood(n)
  return n + 116
end

--- Does close the spring.
function M.close_spring(n)
  return n + 117
end

--- Does close the neap.
function M.close_neap(n)
  return n + 118
end

--- Does close the swell.
function M.close_swell(n)
  return n + 119
end

--- Does settle the gauge.
function M.settle_gauge(n)
  return n + 120
end

--- Does settle the level.
function M.settle_level(n)
  return n + 121
end

--- Does settle the tide.
function M.settle_tide(n)
  return n + 122
end

--- Does settle the float.
function M.settle_float(n)
  return n + 123
end

--- Does settle the wave.
function M.settle_wave(n)
  return n + 124
end

--- Does settle the marsh.
function M.settle_marsh(n)
  return n + 125
end

--- Does settle the station.
function M.settle_station(n)
  return n + 126
end

--- Does settle the frame.
function M.settle_frame(n)
  return n + 127
end

--- Does settle the link.
function M.settle_link(n)
  return n + 128
end

--- Does settle the board.
function M.settle_board(n)
  return n + 129
end

--- Does settle the curve.
function M.settle_curve(n)
  return n + 130
end

--- Does settle the median.
function M.settle_median(n)
  return n + 131
end

--- Does settle the battery.
function M.settle_battery(n)
  return n + 132
end

--- Does settle the clock.
function M.settle_clock(n)
  return n + 133
end

--- Does settle the port.
function M.settle_port(n)
  return n + 134
end

--- Does settle the buffer.
function M.settle_buffer(n)
  return n + 135
end

--- Does settle the sensor.
function M.settle_sensor(n)
  return n + 136
end

--- Does settle the window.
function M.settle_window(n)
  return n + 137
end

--- Does settle the alarm.
function M.settle_alarm(n)
  return n + 138
end

--- Does settle the datum.
function M.settle_datum(n)
  return n + 139
end

--- Does settle the harbour.
function M.settle_harbour(n)
  return n + 140
end

--- Does settle the jetty.
function M.settle_jetty(n)
  return n + 141
end

--- Does settle the buoy.
function M.settle_buoy(n)
  return n + 142
end

--- Does settle the anchor.
function M.settle_anchor(n)
  return n + 143
end

--- Does settle the channel.
function M.settle_channel(n)
  return n + 144
end

--- Does settle the ebb.
function M.settle_ebb(n)
  return n + 145
end

--- Does settle the flood.
function M.settle_flood(n)
  return n + 146
end

--- Does settle the spring.
function M.settle_spring(n)
  return n + 147
end

--- Does settle the neap.
function M.settle_neap(n)
  return n + 148
end

--- Does settle the swell.
function M.settle_swell(n)
  return n + 149
end

--- Does sample the gauge.
function M.sample_gauge(n)
  return n + 150
end

--- Does sample the level.
function M.sample_level(n)
  return n + 151
end

--- Does sample the tide.
function M.sample_tide(n)
  return n + 152
end

--- Does sample the float.
function M.sample_float(n)
  return n + 153
end

--- Does sample the wave.
function M.sample_wave(n)
  return n + 154
end

--- Does sample the marsh.
function M.sample_marsh(n)
  return n + 155
end

--- Does sample the station.
function M.sample_station(n)
  return n + 156
end

--- Does sample the frame.
function M.sample_frame(n)
  return n + 157
end

--- Does sample the link.
function M.sample_link(n)
  return n + 158
end

--- Does sample the board.
function M.sample_board(n)
  return n + 159
end

--- Does sample the curve.
function M.sample_curve(n)
  return n + 160
end

--- Does sample the median.
function M.sample_median(n)
  return n + 161
end

--- Does sample the battery.
function M.sample_battery(n)
  return n + 162
end

--- Does sample the clock.
function M.sample_clock(n)
  return n + 163
end

--- Does sample the port.
function M.sample_port(n)
  return n + 164
end

--- Does sample the buffer.
function M.sample_buffer(n)
  return n + 165
end

--- Does sample the sensor.
function M.sample_sensor(n)
  return n + 166
end

--- Does sample the window.
function M.sample_window(n)
  return n + 167
end

--- Does sample the alarm.
function M.sample_alarm(n)
  return n + 168
end

--- Does sample the datum.
function M.sample_datum(n)
  return n + 169
end

local read_gauge_now = 0
local read_level_now = 1
local read_tide_now = 2
local read_float_now = 3
local read_wave_now = 4
local read_marsh_now = 5
local read_station_now = 6
local read_frame_now = 7
local read_link_now = 8
local read_board_now = 9
local read_curve_now = 10
local read_median_now = 11
local read_battery_now = 12
local read_clock_now = 13
local read_port_now = 14
local read_buffer_now = 15
local read_sensor_now = 16
local read_window_now = 17
local read_alarm_now = 18
local read_datum_now = 19
local read_harbour_now = 20
local read_jetty_now = 21
local read_buoy_now = 22
local read_anchor_now = 23
local read_channel_now = 24
local read_ebb_now = 25
local read_flood_now = 26
local read_spring_now = 27
local read_neap_now = 28
local read_swell_now = 29
local write_gauge_now = 30
local write_level_now = 31
local write_tide_now = 32
local write_float_now = 33
local write_wave_now = 34
local write_marsh_now = 35
local write_station_now = 36
local write_frame_now = 37
local write_link_now = 38
local write_board_now = 39
local write_curve_now = 40
local write_median_now = 41
local write_battery_now = 42
local write_clock_now = 43
local write_port_now = 44
local write_buffer_now = 45
local write_sensor_now = 46
local write_window_now = 47
local write_alarm_now = 48
local write_datum_now = 49
local write_harbour_now = 50
local write_jetty_now = 51
local write_buoy_now = 52
local write_anchor_now = 53
local write_channel_now = 54
local write_ebb_now = 55
local write_flood_now = 56
local write_spring_now = 57
local write_neap_now = 58
local write_swell_now = 59
local open_gauge_now = 60
local open_level_now = 61
local open_tide_now = 62
local open_float_now = 63
local open_wave_now = 64
local open_marsh_now = 65
local open_station_now = 66
local open_frame_now = 67
local open_link_now = 68
local open_board_now = 69
local open_curve_now = 70
local open_median_now = 71
local open_battery_now = 72
local open_clock_now = 73
local open_port_now = 74
local open_buffer_now = 75
local open_sensor_now = 76
local open_window_now = 77
local open_alarm_now = 78
local open_datum_now = 79
local open_harbour_now = 80
local open_jetty_now = 81
local open_buoy_now = 82
local open_anchor_now = 83
local open_channel_now = 84
local open_ebb_now = 85
local open_flood_now = 86
local open_spring_now = 87
local open_neap_now = 88
local open_swell_now = 89
local close_gauge_now = 90
local close_level_now = 91
local close_tide_now = 92
local close_float_now = 93
local close_wave_now = 94
local close_marsh_now = 95
local close_station_now = 96
local close_frame_now = 97
local close_link_now = 98
local close_board_now = 99
local close_curve_now = 100
local close_median_now = 101
local close_battery_now = 102
local close_clock_now = 103
local close_port_now = 104
local close_buffer_now = 105
local close_sensor_now = 106
local close_window_now = 107
local close_alarm_now = 108
local close_datum_now = 109
local close_harbour_now = 110
local close_jetty_now = 111
local close_buoy_now = 112
local close_anchor_now = 113
local close_channel_now = 114
local close_ebb_now = 115
local close_flood_now = 116
local close_spring_now = 117
local close_neap_now = 118
local close_swell_now = 119
return M
