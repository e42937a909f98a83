<script lang="ts">
export interface Station { id: number; name?: string }
export type Level = number | null
</script>

<script setup lang="ts">
import { computed, ref as reference } from 'vue'
import type { Reading } from './readings'
import Card from './Card.vue'

const props = defineProps<{ station: Station }>()
const level = reference(0)
/** The level in words. */
const words = computed(() => `${level.value} mm`)
function raise(n: number): void {
  if (n > 0 && level.value) level.value = n // TODO: above the alarm
}
async function load() { await import('./late') }
class Keeper { private kept = 1; keep() { return this.kept } }
enum Sea { Calm, Rough = 2 }
let { a, b: renamed } = props
function readGauge(n: number) { return n + 0 }
function readLevel(n: number) { return n + 1 }
function readTide(n: number) { return n + 2 }
function readFloat(n: number) { return n + 3 }
function readWave(n: number) { return n + 4 }
function readMarsh(n: number) { return n + 5 }
function readStation(n: number) { return n + 6 }
function readFrame(n: number) { return n + 7 }
function readLink(n: number) { return n + 8 }
function readBoard(n: number) { return n + 9 }
function readCurve(n: number) { return n + 10 }
function readMedian(n: number) { return n + 11 }
function readBattery(n: number) { return n + 12 }
function readClock(n: number) { return n + 13 }
function readPort(n: number) { return n + 14 }
function readBuffer(n: number) { return n + 15 }
function readSensor(n: number) { return n + 16 }
function readWindow(n: number) { return n + 17 }
function readAlarm(n: number) { return n + 18 }
function readDatum(n: number) { return n + 19 }
function readHarbour(n: number) { return n + 20 }
function readJetty(n: number) { return n + 21 }
function readBuoy(n: number) { return n + 22 }
function readAnchor(n: number) { return n + 23 }
function readChannel(n: number) { return n + 24 }
function readEbb(n: number) { return n + 25 }
function readFlood(n: number) { return n + 26 }
function readSpring(n: number) { return n + 27 }
function readNeap(n: number) { return n + 28 }
function readSwell(n: number) { return n + 29 }
function writeGauge(n: number) { return n + 30 }
function writeLevel(n: number) { return n + 31 }
function writeTide(n: number) { return n + 32 }
function writeFloat(n: number) { return n + 33 }
function writeWave(n: number) { return n + 34 }
function writeMarsh(n: number) { return n + 35 }
function writeStation(n: number) { return n + 36 }
function writeFrame(n: number) { return n + 37 }
function writeLink(n: number) { return n + 38 }
function writeBoard(n: number) { return n + 39 }
function writeCurve(n: number) { return n + 40 }
function writeMedian(n: number) { return n + 41 }
function writeBattery(n: number) { return n + 42 }
function writeClock(n: number) { return n + 43 }
function writePort(n: number) { return n + 44 }
function writeBuffer(n: number) { return n + 45 }
function writeSensor(n: number) { return n + 46 }
function writeWindow(n: number) { return n + 47 }
function writeAlarm(n: number) { return n + 48 }
function writeDatum(n: number) { return n + 49 }
function writeHarbour(n: number) { return n + 50 }
function writeJetty(n: number) { return n + 51 }
function writeBuoy(n: number) { return n + 52 }
function writeAnchor(n: number) { return n + 53 }
function writeChannel(n: number) { return n + 54 }
function writeEbb(n: number) { return n + 55 }
function writeFlood(n: number) { return n + 56 }
function writeSpring(n: number) { return n + 57 }
function writeNeap(n: number) { return n + 58 }
function writeSwell(n: number) { return n + 59 }
function openGauge(n: number) { return n + 60 }
function openLevel(n: number) { return n + 61 }
function openTide(n: number) { return n + 62 }
function openFloat(n: number) { return n + 63 }
function openWave(n: number) { return n + 64 }
function openMarsh(n: number) { return n + 65 }
function openStation(n: number) { return n + 66 }
function openFrame(n: number) { return n + 67 }
function openLink(n: number) { return n + 68 }
function openBoard(n: number) { return n + 69 }
function openCurve(n: number) { return n + 70 }
function openMedian(n: number) { return n + 71 }
function openBattery(n: number) { return n + 72 }
function openClock(n: number) { return n + 73 }
function openPort(n: number) { return n + 74 }
function openBuffer(n: number) { return n + 75 }
function openSensor(n: number) { return n + 76 }
function openWindow(n: number) { return n + 77 }
function openAlarm(n: number) { return n + 78 }
function openDatum(n: number) { return n + 79 }
function openHarbour(n: number) { return n + 80 }
function openJetty(n: number) { return n + 81 }
function openBuoy(n: number) { return n + 82 }
function openAnchor(n: number) { return n + 83 }
function openChannel(n: number) { return n + 84 }
function openEbb(n: number) { return n + 85 }
function openFlood(n: number) { return n + 86 }
function openSpring(n: number) { return n + 87 }
function openNeap(n: number) { return n + 88 }
function openSwell(n: number) { return n + 89 }
function closeGauge(n: number) { return n + 90 }
function closeLevel(n: number) { return n + 91 }
function closeTide(n: number) { return n + 92 }
function closeFloat(n: number) { return n + 93 }
function closeWave(n: number) { return n + 94 }
function closeMarsh(n: number) { return n + 95 }
function closeStation(n: number) { return n + 96 }
function closeFrame(n: number) { return n + 97 }
function closeLink(n: number) { return n + 98 }
function closeBoard(n: number) { return n + 99 }
function closeCurve(n: number) { return n + 100 }
function closeMedian(n: number) { return n + 101 }
function closeBattery(n: number) { return n + 102 }
function closeClock(n: number) { return n + 103 }
function closePort(n: number) { return n + 104 }
function closeBuffer(n: number) { return n + 105 }
function closeSensor(n: number) { return n + 106 }
function closeWindow(n: number) { return n + 107 }
function closeAlarm(n: number) { return n + 108 }
function closeDatum(n: number) { return n + 109 }
function closeHarbour(n: number) { return n + 110 }
function closeJetty(n: number) { return n + 111 }
function closeBuoy(n: number) { return n + 112 }
function closeAnchor(n: number) { return n + 113 }
function closeChannel(n: number) { return n + 114 }
function closeEbb(n: number) { return n + 115 }
function closeFlood(n: number) { return n + 116 }
function closeSpring(n: number) { return n + 117 }
function closeNeap(n: number) { return n + 118 }
function closeSwell(n: number) { return n + 119 }
function settleGauge(n: number) { return n + 120 }
function settleLevel(n: number) { return n + 121 }
function settleTide(n: number) { return n + 122 }
function settleFloat(n: number) { return n + 123 }
function settleWave(n: number) { return n + 124 }
function settleMarsh(n: number) { return n + 125 }
function settleStation(n: number) { return n + 126 }
function settleFrame(n: number) { return n + 127 }
function settleLink(n: number) { return n + 128 }
function settleBoard(n: number) { return n + 129 }
function settleCurve(n: number) { return n + 130 }
function settleMedian(n: number) { return n + 131 }
function settleBattery(n: number) { return n + 132 }
function settleClock(n: number) { return n + 133 }
function settlePort(n: number) { return n + 134 }
function settleBuffer(n: number) { return n + 135 }
function settleSensor(n: number) { return n + 136 }
function settleWindow(n: number) { return n + 137 }
function settleAlarm(n: number) { return n + 138 }
function settleDatum(n: number) { return n + 139 }
function settleHarbour(n: number) { return n + 140 }
function settleJetty(n: number) { return n + 141 }
function settleBuoy(n: number) { return n + 142 }
function settleAnchor(n: number) { return n + 143 }
function settleChannel(n: number) { return n + 144 }
function settleEbb(n: number) { return n + 145 }
function settleFlood(n: number) { return n + 146 }
function settleSpring(n: number) { return n + 147 }
function settleNeap(n: number) { return n + 148 }
function settleSwell(n: number) { return n + 149 }
function sampleGauge(n: number) { return n + 150 }
function sampleLevel(n: number) { return n + 151 }
function sampleTide(n: number) { return n + 152 }
function sampleFloat(n: number) { return n + 153 }
function sampleWave(n: number) { return n + 154 }
function sampleMarsh(n: number) { return n + 155 }
function sampleStation(n: number) { return n + 156 }
function sampleFrame(n: number) { return n + 157 }
function sampleLink(n: number) { return n + 158 }
function sampleBoard(n: number) { return n + 159 }
function sampleCurve(n: number) { return n + 160 }
function sampleMedian(n: number) { return n + 161 }
function sampleBattery(n: number) { return n + 162 }
function sampleClock(n: number) { return n + 163 }
function samplePort(n: number) { return n + 164 }
function sampleBuffer(n: number) { return n + 165 }
function sampleSensor(n: number) { return n + 166 }
function sampleWindow(n: number) { return n + 167 }
function sampleAlarm(n: number) { return n + 168 }
function sampleDatum(n: number) { return n + 169 }
const readGaugeNow = 0
const readLevelNow = 1
const readTideNow = 2
const readFloatNow = 3
const readWaveNow = 4
const readMarshNow = 5
const readStationNow = 6
const readFrameNow = 7
const readLinkNow = 8
const readBoardNow = 9
const readCurveNow = 10
const readMedianNow = 11
const readBatteryNow = 12
const readClockNow = 13
const readPortNow = 14
const readBufferNow = 15
const readSensorNow = 16
const readWindowNow = 17
const readAlarmNow = 18
const readDatumNow = 19
const readHarbourNow = 20
const readJettyNow = 21
const readBuoyNow = 22
const readAnchorNow = 23
const readChannelNow = 24
const readEbbNow = 25
const readFloodNow = 26
const readSpringNow = 27
const readNeapNow = 28
const readSwellNow = 29
const writeGaugeNow = 30
const writeLevelNow = 31
const writeTideNow = 32
const writeFloatNow = 33
const writeWaveNow = 34
const writeMarshNow = 35
const writeStationNow = 36
const writeFrameNow = 37
const writeLinkNow = 38
const writeBoardNow = 39
const writeCurveNow = 40
const writeMedianNow = 41
const writeBatteryNow = 42
const writeClockNow = 43
const writePortNow = 44
const writeBufferNow = 45
const writeSensorNow = 46
const writeWindowNow = 47
const writeAlarmNow = 48
const writeDatumNow = 49
const writeHarbourNow = 50
const writeJettyNow = 51
const writeBuoyNow = 52
const writeAnchorNow = 53
const writeChannelNow = 54
const writeEbbNow = 55
const writeFloodNow = 56
const writeSpringNow = 57
const writeNeapNow = 58
const writeSwellNow = 59
const openGaugeNow = 60
const openLevelNow = 61
const openTideNow = 62
const openFloatNow = 63
const openWaveNow = 64
const openMarshNow = 65
const openStationNow = 66
const openFrameNow = 67
const openLinkNow = 68
const openBoardNow = 69
const openCurveNow = 70
const openMedianNow = 71
const openBatteryNow = 72
const openClockNow = 73
const openPortNow = 74
const openBufferNow = 75
const openSensorNow = 76
const openWindowNow = 77
const openAlarmNow = 78
const openDatumNow = 79
const openHarbourNow = 80
const openJettyNow = 81
const openBuoyNow = 82
const openAnchorNow = 83
const openChannelNow = 84
const openEbbNow = 85
const openFloodNow = 86
const openSpringNow = 87
const openNeapNow = 88
const openSwellNow = 89
const closeGaugeNow = 90
const closeLevelNow = 91
const closeTideNow = 92
const closeFloatNow = 93
const closeWaveNow = 94
const closeMarshNow = 95
const closeStationNow = 96
const closeFrameNow = 97
const closeLinkNow = 98
const closeBoardNow = 99
const closeCurveNow = 100
const closeMedianNow = 101
const closeBatteryNow = 102
const closeClockNow = 103
const closePortNow = 104
const closeBufferNow = 105
const closeSensorNow = 106
const closeWindowNow = 107
const closeAlarmNow = 108
const closeDatumNow = 109
const closeHarbourNow = 110
const closeJettyNow = 111
const closeBuoyNow = 112
const closeAnchorNow = 113
const closeChannelNow = 114
const closeEbbNow = 115
const closeFloodNow = 116
const closeSpringNow = 117
const closeNeapNow = 118
const closeSwellNow = 119
</script>

<template>
  <!-- NOTE: one card a station -->
  <section id="board">
    <template v-if="level > 0"><Card :level="level" @raise="raise" /></template>
    <h2>Stations</h2>
    <p>{{ level < 3 ? 'low' : words }}</p>
  </section>
</template>

<style scoped>
.card { color: red } /* HACK: over the edge */
.level { margin: 0 }
</style>
