import { describe, expect, it } from 'vitest'
import { byteColumn, nameAt, namesOn, parseName, runeColumn, writeName } from './names'

describe('places of names', () => {
  it('are written and read', () => {
    expect(parseName(writeName({ line: 12, column: 8 }))).toEqual({ line: 12, column: 8 })
    for (const bad of ['', '12', '0.1', 'a.b', '1.2.3', '-1.2', undefined, ['1.2'], '9999999999.1']) expect(parseName(bad)).toBeNull()
  })
  it('count bytes, not letters', () => {
    const line = 'größe := "🌊" + tide'
    const at = line.indexOf('tide')
    expect(byteColumn(line, at)).toBe(new TextEncoder().encode(line.slice(0, at)).length)
    expect(runeColumn(line, byteColumn(line, at))).toBe(at)
    expect(runeColumn(line, 0)).toBe(0)
    expect(runeColumn(line, 999)).toBe(line.length)
  })
  it('are found on a line', () => {
    const line = 'if größe_2 > x.limit { $call(@y) }'
    expect(namesOn(line).map((w) => line.slice(w.start, w.end))).toEqual(['if', 'größe_2', 'x', 'limit', '$call', '@y'])
    expect(nameAt(line, line.indexOf('limit') + 2)).toEqual({ start: 15, end: 20 })
    expect(nameAt(line, line.indexOf('>'))).toBeUndefined()
  })
})
