import { quoteText } from '@bluestem/core/queries'
import type { ItemAnswer } from '@bluestem/core/queries'
import { call } from '../api/http.ts'
import { whereItWent } from '../api/whereItWent.ts'

const isRef = (text: string): boolean => /^[A-Za-z][A-Za-z0-9]+\/\d+$/.test(text)

/** Text as LIKE takes it literally. */
const literal = (text: string): string => text.replace(/[\\%_]/g, (char) => `\\${char}`)

/** The words of a title that tell most about it: its longest, without their endings. */
const tellingWords = (title: string): string[] =>
  [...new Set(title.toLowerCase().match(/[\p{L}\p{N}]{4,}/gu) ?? [])]
    .toSorted((a, b) => b.length - a.length)
    .slice(0, 3)
    .map((word) => word.slice(0, 6))

/** Open items whose titles share at least two telling words with a title, the latest changed first; none for one word alone. */
export async function findSimilar(title: string, limit: number): Promise<readonly ItemAnswer[]> {
  const clauses = tellingWords(title).map(
    (word) => `CASEI(title) LIKE CASEI(${quoteText(`%${literal(word)}%`)})`,
  )
  const pairs = clauses.flatMap((clause, at) =>
    clauses.slice(at + 1).map((other) => `(${clause} AND ${other})`),
  )
  if (pairs.length === 0) return []
  return await search(`phase IN ('idle', 'active') AND (${pairs.join(' OR ')})`, limit)
}

async function search(filter: string, limit: number): Promise<readonly ItemAnswer[]> {
  const { items } = await call('POST /items/search', {
    body: { filter, sort: '-changed', fields: 'title,status', limit },
  })
  return items
}

const byRef = async (ref: string): Promise<readonly ItemAnswer[]> =>
  await search(`ref = ${quoteText(ref)}`, 1)

/** The item with a ref, also with the one it had before it went to another project. */
async function findByRef(ref: string): Promise<readonly ItemAnswer[]> {
  const found = await byRef(ref)
  const moved = found.length === 0 ? await whereItWent(ref) : undefined
  return moved === undefined ? found : await byRef(moved)
}

/** Items that a text names: the one with that ref, or those whose titles hold it, the latest changed first. */
export const findItems = async (text: string, limit: number): Promise<readonly ItemAnswer[]> =>
  isRef(text)
    ? await findByRef(text.toUpperCase())
    : await search(`CASEI(title) LIKE CASEI(${quoteText(`%${literal(text)}%`)})`, limit)
