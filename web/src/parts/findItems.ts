import { quoteText } from '@bluestem/core/queries'
import type { ItemAnswer } from '@bluestem/core/queries'
import { call } from '../api/http.ts'

const isRef = (text: string): boolean => /^[A-Za-z][A-Za-z0-9]+\/\d+$/.test(text)

/** Text as LIKE takes it literally. */
const literal = (text: string): string => text.replace(/[\\%_]/g, (char) => `\\${char}`)

/** Items that a text names: the one with that ref, or those whose titles hold it, the latest changed first. */
export async function findItems(text: string, limit: number): Promise<readonly ItemAnswer[]> {
  const filter = isRef(text)
    ? `ref = ${quoteText(text.toUpperCase())}`
    : `CASEI(title) LIKE CASEI(${quoteText(`%${literal(text)}%`)})`
  const { items } = await call('POST /items/search', {
    body: { filter, sort: '-changed', fields: 'title,status', limit },
  })
  return items
}
