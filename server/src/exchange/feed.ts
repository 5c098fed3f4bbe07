import type { ItemAnswer } from '@bluestem/core/queries'
import { asChoice } from '@bluestem/core/schema'
import escapeHtml from 'escape-html'
import { Feed } from 'feed'
import type { Labelled } from './labelled.ts'

/** What XML 1.0 cannot hold at all, section 2.2. */
const unspeakable = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g

/** A text as a feed holds it: HTML that says nothing but the text. */
const textIn = (text: string): string => escapeHtml(text.replaceAll(unspeakable, ''))

const titleOf = (choice: unknown): string => asChoice(choice)?.title ?? ''

/** What a reader of the feed is told beneath the title. */
function summaryOf(item: ItemAnswer): string {
  const line = [item.type.title, titleOf(item.status), titleOf(item['assignee'])].filter(Boolean)
  const description = item['description']
  const parts = [line.join(', '), ...(typeof description === 'string' ? [description] : [])]
  return parts.map((part) => `<p>${textIn(part)}</p>`).join('')
}

/** Answers as a feed (RFC 4287): an entry for each, by whoever raised it, as it was changed last. */
export function feedOf(
  items: readonly ItemAnswer[],
  { title, addressOf, host, workspace, now }: Labelled,
): string {
  const changes = items.map((item) => Date.parse(String(item['changed'])))
  const feed = new Feed({
    id: `tag:${host},2026:${encodeURIComponent(title)}`,
    title: title.replaceAll(unspeakable, ''),
    // An empty feed has not changed since it was asked for.
    updated: new Date(changes.length === 0 ? now.getTime() : Math.max(...changes)),
    generator: 'Bluestem',
    author: { name: workspace },
    copyright: '',
  })
  for (const item of items) {
    const address = addressOf(item.ref)
    feed.addItem({
      id: address,
      title: textIn(`${item.ref} ${item.title}`),
      link: address,
      date: new Date(String(item['changed'])),
      published: new Date(String(item['created'])),
      author: [{ name: titleOf(item['raised_by']) || workspace }],
      description: summaryOf(item),
    })
  }
  return feed.atom1()
}
