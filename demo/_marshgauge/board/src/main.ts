import * as api from './api.js'
import { draw, hoursShown } from './chart.js'
import { ago, metres } from './format.js'
import { inOrder, type Station } from './stations.js'

const refreshMs = 60_000

/** One station's card: name, level, how old it is, and the curve. */
async function card(station: Station): Promise<HTMLElement> {
  const section = document.createElement('section')
  section.className = 'station'
  const title = document.createElement('h2')
  title.textContent = `${station.name}: ${metres(station.level_mm)}, ${ago(station.at, new Date())}`
  const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg')
  svg.setAttribute('viewBox', '0 0 960 240')
  svg.setAttribute('class', 'curve')
  section.append(title, svg)
  draw(svg, await api.readings(station.id, hoursShown), new Date(), hoursShown)
  return section
}

async function refresh(board: HTMLElement): Promise<void> {
  const list = inOrder(await api.stations())
  board.replaceChildren(...(await Promise.all(list.map(card))))
}

// TODO(wil): show the prediction beside it, the API has it since 1.2
const board = document.getElementById('board')
if (board) {
  const again = () => refresh(board).catch((e: unknown) => console.error('NOTE: refresh failed, trying again', e))
  void again()
  setInterval(again, refreshMs)
}
