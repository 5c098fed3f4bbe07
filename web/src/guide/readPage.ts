import MarkdownIt, { type Token } from 'markdown-it'

const markdown = new MarkdownIt()

/** Where a link of the guide leads in the application: `page.md` to that page, what stands elsewhere in the docs to nothing. */
const addressOf = (href: string): string | null => {
  const [, key] = /^([a-z-]+)\.md$/.exec(href) ?? []
  if (key) return `/guide/${key}`
  return href.includes(':') || href.startsWith('/') ? href : null
}

markdown.core.ruler.push('guide', ({ tokens }) => {
  for (const { children } of tokens)
    for (const token of children ?? []) {
      const href = token.attrGet('href')
      if (token.type !== 'link_open' || typeof href !== 'string') continue
      const address = addressOf(href)
      token.attrs = address === null ? [] : [['href', address]]
    }
})

/** A page of the guide, read: its links lead to other pages. */
export const readPage = (text: string): readonly Token[] => markdown.parse(text, {})
