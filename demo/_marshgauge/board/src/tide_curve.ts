import { hoursShown } from './chart.js'
import type { Reading } from './stations.js'

export interface Point {
  x: number
  y: number
}

/** The gap after which a curve is broken, in minutes. */
export const gapMinutes = 20

/**
 * Cuts readings into runs without gaps: a line across missing hours would show
 * water that nobody measured.
 */
export function runs(readings: Reading[]): Reading[][] {
  const out: Reading[][] = []
  let last = Number.NEGATIVE_INFINITY
  for (const r of readings) {
    const t = Date.parse(r.at)
    if (t - last > gapMinutes * 60_000 || out.length === 0) out.push([])
    out[out.length - 1].push(r)
    last = t
  }
  return out
}

/** Places readings in a box of width × height; the highest level is at the top. */
export function place(readings: Reading[], from: number, to: number, low: number, high: number, width: number, height: number): Point[] {
  const spanX = Math.max(1, to - from)
  const spanY = Math.max(1, high - low)
  return readings.map((r) => ({
    x: ((Date.parse(r.at) - from) / spanX) * width,
    y: height - ((r.level_mm - low) / spanY) * height,
  }))
}

// FIXME: the scale jumps at midnight when yesterday's high water leaves the view (#71)
export function range(readings: Reading[], margin = 200): [number, number] {
  let low = Number.POSITIVE_INFINITY
  let high = Number.NEGATIVE_INFINITY
  for (const r of readings) {
    low = Math.min(low, r.level_mm)
    high = Math.max(high, r.level_mm)
  }
  return Number.isFinite(low) ? [low - margin, high + margin] : [0, 1000]
}

/** What the board still shows of some readings at a moment. */
export function recent(readings: Reading[], now: number): Reading[] {
  return readings.filter((r) => now - Date.parse(r.at) <= hoursShown * 3_600_000)
}

/** An SVG path through points: "M x y L x y …". */
export function path(points: Point[]): string {
  return points.map((p, i) => `${i === 0 ? 'M' : 'L'} ${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join(' ')
}
