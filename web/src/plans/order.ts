const digits = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz'

/** A key that sorts after a and before b; '' stands for the very beginning and
 * the very end. The same rule as the server's (core/plan/order.go). */
export function between(a: string, b: string): string {
  if (b !== '' && a >= b) throw new Error(`no order key between ${a} and ${b}`)
  let out = ''
  let end = b
  for (let i = 0; ; i++) {
    const low = i < a.length ? digits.indexOf(a[i]!) : 0
    const high = end !== '' && i < end.length ? digits.indexOf(end[i]!) : digits.length
    if (low === high) out += digits[low]
    else if (high - low > 1) return out + digits[Math.floor((low + high) / 2)]
    else {
      out += digits[low]
      end = ''
    }
  }
}
