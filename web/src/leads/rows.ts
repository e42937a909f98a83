/** A group of a list: how many it has, and where its first stands among all. */
export interface Group {
  value: string
  count: number
}

export type Row = { kind: 'head'; group: Group; open: boolean } | { kind: 'item'; n: number }

/** A list of groups drawn as rows of one height: a head for each, and its items
 * unless it is closed. Nothing is made for each item: a million are no trouble. */
export interface Rows {
  total: number
  at(row: number): Row
  /** The row of an item; -1: its group is closed. */
  rowOf(n: number): number
}

export function rowsOf(groups: readonly Group[], closed: ReadonlySet<string>): Rows {
  const heads: number[] = [] // row of each head
  const firsts: number[] = [] // item each group begins with
  let row = 0
  let item = 0
  for (const g of groups) {
    heads.push(row)
    firsts.push(item)
    row += 1 + (closed.has(g.value) ? 0 : g.count)
    item += g.count
  }
  return {
    total: row,
    at(n) {
      const g = last(heads, n)
      const group = groups[g]!
      if (heads[g] === n) return { kind: 'head', group, open: !closed.has(group.value) }
      return { kind: 'item', n: firsts[g]! + n - heads[g]! - 1 }
    },
    rowOf(n) {
      const g = last(firsts, n)
      if (g < 0 || closed.has(groups[g]!.value)) return -1
      return heads[g]! + 1 + n - firsts[g]!
    },
  }
}

/** The last place whose number is not above n; numbers ascend. */
function last(numbers: readonly number[], n: number): number {
  let low = 0
  let high = numbers.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (numbers[middle]! <= n) low = middle + 1
    else high = middle
  }
  return low - 1
}
