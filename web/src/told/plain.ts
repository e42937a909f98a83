/** A sentence without the backticks that code stands between. */
export function plainText(text: string): string {
  return text.replaceAll('`', '')
}
