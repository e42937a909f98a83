// The page forbids style elements without this request's nonce. Libraries that
// create some know nothing of it, so every style element gets it when made.
const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content ?? ''
const create = document.createElement.bind(document)
document.createElement = ((name: string, options?: ElementCreationOptions) => {
  const el = create(name, options)
  if (name.toLowerCase() === 'style') el.setAttribute('nonce', nonce)
  return el
}) as typeof document.createElement

export { nonce }
