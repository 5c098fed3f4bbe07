import { lastIn } from '@bluestem/core/known'
import type { Token } from 'markdown-it'
import { h, type VNodeChild } from 'vue'
import { RouterLink } from 'vue-router'

/** An element that is being filled. */
interface Open {
  readonly tag: string
  readonly href: ReturnType<Token['attrGet']>
  readonly start: ReturnType<Token['attrGet']>
  readonly children: VNodeChild[]
}

/** What a text may be made of; whatever else stands in it is left out, its words kept. */
const allowed: ReadonlySet<string> = new Set([
  ...['p', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'blockquote', 'ul', 'ol', 'li'],
  ...['table', 'thead', 'tbody', 'tr', 'th', 'td', 'em', 'strong', 's', 'a'],
])

const isInside = (href: string): boolean => href.startsWith('/') && !href.startsWith('//')

const linkTo = (href: string, children: VNodeChild[]): VNodeChild =>
  isInside(href)
    ? h(RouterLink, { to: href }, () => children)
    : h('a', { href, target: '_blank', rel: 'noreferrer noopener' }, children)

function elementOf({ tag, href, start, children }: Open): VNodeChild {
  if (tag === 'a' && href !== null) return linkTo(String(href), children)
  if (!allowed.has(tag) || tag === 'a') return children
  return h(tag, start === null ? {} : { start }, children)
}

/** What stands between the marks: text, code, a break. */
function leafOf(token: Token): VNodeChild {
  switch (token.type) {
    case 'text':
      return token.content
    case 'code_inline':
      return h('code', token.content)
    case 'code_block':
    case 'fence':
      return h('pre', { tabindex: 0 }, [h('code', token.content)])
    case 'hardbreak':
    case 'softbreak':
      return h('br')
    case 'hr':
      return h('hr')
    case 'person':
      return h('span', { class: 'named' }, token.content)
    default:
      return token.content
  }
}

/** Makes elements of a text that was read, one by one: it never becomes HTML, so nothing in it can be run. */
export function elementsOf(tokens: readonly Token[]): VNodeChild[] {
  const root: Open = { tag: '', href: null, start: null, children: [] }
  const open = [root]
  for (const token of tokens) {
    const inner = lastIn(open)
    // A tight list hides the paragraphs of its lines.
    if (token.hidden) continue
    if (token.type === 'inline') inner.children.push(...elementsOf(token.children ?? []))
    else if (token.nesting === 1)
      open.push({
        tag: token.tag,
        href: token.attrGet('href'),
        start: token.attrGet('start'),
        children: [],
      })
    else if (token.nesting === -1) {
      open.pop()
      lastIn(open).children.push(elementOf(inner))
    } else inner.children.push(leafOf(token))
  }
  return root.children
}
