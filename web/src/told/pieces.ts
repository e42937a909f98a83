/** Cuts a line's text into pieces with their class; one plain piece where
 * nothing is known. tokens: length and class of each piece by turns. */
export function pieces(text: string, tokens: number[] | undefined, classes: string[]): { text: string; class: string }[] {
  if (!tokens?.length) return [{ text, class: 'c-plain' }]
  const out = []
  let at = 0
  for (let i = 0; i + 1 < tokens.length && at < text.length; i += 2) {
    out.push({ text: text.slice(at, at + tokens[i]!), class: 'c-' + (classes[tokens[i + 1]!] ?? 'plain') })
    at += tokens[i]!
  }
  if (at < text.length) out.push({ text: text.slice(at), class: 'c-plain' })
  return out
}
