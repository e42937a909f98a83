import type { Reading, Station } from './stations.js'

const base = '/collector'

async function get<T>(path: string): Promise<T> {
  const answer = await fetch(base + path)
  if (!answer.ok) throw new Error(`the collector answered ${answer.status}`)
  return (await answer.json()) as T
}

export const stations = () => get<Station[]>('/stations')

export const readings = (id: number, hours = 48) => get<Reading[]>(`/stations/${id}/readings?hours=${hours}`)
