import { path, range, recent, runs } from './tide_curve.js'

const reading = (minutes: number, level_mm: number) => ({ at: new Date(minutes * 60_000).toISOString(), level_mm })

function check(ok: boolean, what: string): void {
  if (!ok) throw new Error(what)
}

check(runs([]).length === 0, 'nothing has no runs')
check(runs([reading(0, 1), reading(6, 2), reading(60, 3)]).length === 2, 'a gap breaks the curve')
check(range([]).join() === '0,1000', 'an empty range')
check(range([reading(0, 100), reading(6, 300)], 0).join() === '100,300', 'a range')
check(recent([reading(0, 1), reading(60 * 40, 2)], 60_000 * 60 * 49).length === 1, 'only what is still shown')
check(path([{ x: 0, y: 1 }, { x: 2, y: 3 }]) === 'M 0.0 1.0 L 2.0 3.0', 'a path')
