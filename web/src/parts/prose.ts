import { type Nameable, namedIn } from '@bluestem/core/work'
import MarkdownIt, { type Token } from 'markdown-it'

/** What somebody wrote, read as Markdown without HTML and without pictures, which would be fetched from elsewhere. */
const markdown = new MarkdownIt({ html: false, linkify: true, breaks: true })
  .disable('image')
  // Only whole addresses become links: “pump.at 3 bar” is no address.
  .set({ maxNesting: 20 })
markdown.linkify.set({ fuzzyLink: false, fuzzyEmail: false })

const leadsOut = /^(https?:|mailto:)/i
const leadsInside = /^\/(work|queries|views|dashboards|iterations|releases|guide)(\/|$)/
markdown.validateLink = (href) => leadsOut.test(href) || leadsInside.test(href)

type TokenMaker = new (type: string, tag: string, nesting: Token['nesting']) => Token

/** A piece of text as tokens: the people and items it names stand out, items as links. */
function named(token: Token, nameable: Nameable, Make: TokenMaker): Token[] {
  const make = (type: string, tag: string, nesting: Token['nesting'], content = ''): Token =>
    Object.assign(new Make(type, tag, nesting), { content })
  const { content } = token
  const tokens: Token[] = []
  let at = 0
  for (const { kind, id, from, to } of namedIn(content, nameable)) {
    tokens.push(make('text', '', 0, content.slice(at, from)))
    const words = content.slice(from, to)
    if (kind === 'person') tokens.push(make('person', '', 0, words))
    else {
      const link = make('link_open', 'a', 1)
      link.attrSet('href', `/work/${id}`)
      tokens.push(link, make('text', '', 0, words), make('link_close', 'a', -1))
    }
    at = to
  }
  return [...tokens, make('text', '', 0, content.slice(at))]
}

/** The same tokens with what their texts name; within a link nothing else is one. */
function withNames(tokens: readonly Token[], nameable: Nameable): Token[] {
  let links = 0
  return tokens.flatMap((token) => {
    if (token.type === 'link_open') links += 1
    if (token.type === 'link_close') links -= 1
    if (token.type !== 'text' || links > 0) return [token]
    // The library gives no other way to its class of tokens.
    return named(token, nameable, token.constructor as TokenMaker)
  })
}

/** Reads what somebody wrote: Markdown, in which refs and people are recognised. */
export function readProse(text: string, nameable: Nameable): readonly Token[] {
  const tokens = markdown.parse(text, {})
  for (const token of tokens)
    if (token.children) token.children = withNames(token.children, nameable)
  return tokens
}
