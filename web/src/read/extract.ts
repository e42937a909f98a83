import type { Schemas } from '@/api/client'
import { lineSpan, many } from '@/words/format'

type Extract = Schemas['ExtractInfo']

const origins: Record<string, string> = {
  'standard-library': 'the standard library',
  dependency: 'a dependency',
  generated: 'generated',
  binary: 'a binary',
}

/** Where a module outside of the repository comes from, in words. */
export function originWords(e: Schemas['ElsewhereInfo']): string {
  const name = [e.origin.name, e.origin.version].filter(Boolean).join(' ')
  return `${origins[e.origin.to] ?? e.origin.to}: ${name || e.through}`
}

/** The closing lines of an extract: what is not in it. */
function rest(x: Extract, item: (text: string) => string): string[] {
  const out: string[] = []
  for (const e of x.elsewhere) out.push(item(`from ${originWords(e)}: ${e.names.join(', ')}`))
  if (x.unresolved.length) out.push(item(`not resolved: ${x.unresolved.join(', ')}`))
  if (x.left_total) out.push(item(`left out by the limits: ${many(x.left_total, 'symbol')}`))
  return out
}

/** An extract as plain text. */
export function asText(x: Extract): string {
  const pieces = x.pieces.map((p) => `${p.path}:${lineSpan(p.from, p.to)}\n\n${p.text}\n`)
  return [`${x.name} with all it needs, at commit ${x.commit}\n`, ...pieces, ...rest(x, (t) => t)].join('\n') + '\n'
}

/** A fence longer than any in the text. */
function fence(text: string): string {
  const longest = [...text.matchAll(/`{3,}/g)].reduce((n, m) => Math.max(n, m[0].length), 2)
  return '`'.repeat(longest + 1)
}

/** An extract as Markdown. */
export function asMarkdown(x: Extract): string {
  const pieces = x.pieces.map((p) => {
    const f = fence(p.text)
    return `## ${p.qualified}\n\n\`${p.path}:${lineSpan(p.from, p.to)}\`\n\n${f}${p.language.toLowerCase().replace(/\W/g, '')}\n${p.text}\n${f}\n`
  })
  const more = rest(x, (t) => `- ${t}`)
  return (
    [
      `# ${x.name} with all it needs\n\nAt commit \`${x.commit}\`.\n`,
      ...pieces,
      ...(more.length ? ['## Not in here\n', ...more] : []),
    ].join('\n') + '\n'
  )
}
