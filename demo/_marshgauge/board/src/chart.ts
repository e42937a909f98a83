import { path, place, range, runs } from './tide_curve.js'
import type { Reading } from './stations.js'

/** How far back the board looks. */
export const hoursShown = 48

const ns = 'http://www.w3.org/2000/svg'

/** Draws a station's curve into an SVG element. */
export function draw(svg: SVGSVGElement, readings: Reading[], now: Date, hours: number): void {
  const to = now.getTime()
  const from = to - hours * 3_600_000
  const [low, high] = range(readings)
  const { width, height } = svg.viewBox.baseVal
  svg.replaceChildren()
  for (const run of runs(readings)) {
    const line = document.createElementNS(ns, 'path')
    line.setAttribute('class', 'measured')
    line.setAttribute('d', path(place(run, from, to, low, high, width, height)))
    svg.append(line)
  }
}
