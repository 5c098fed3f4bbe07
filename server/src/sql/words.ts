import { wordsOf } from '@bluestem/core/queries'
import { beginsAt } from './statement.ts'
import type { ItemCompiler } from './itemCompiler.ts'

/** Whether an item holds every word of a text, each in its title, its description, a comment or a label. */
export const wordsSql = (compiler: ItemCompiler, text: string): string =>
  `(${wordsOf(text)
    .map((word) => holdsWord(compiler, word))
    .join(' AND ')})`

/** The index is asked first, for texts of all time; of a past state, what it finds is then looked at as of that state. */
function holdsWord({ queryContext, binds, alias }: ItemCompiler, word: string): string {
  const sought = binds.bind([word], 'text[]')
  const inText = (of: string): string =>
    `SELECT t.item_id FROM item_text t WHERE words_of(t.title, t.description) @> ${sought}${of}`
  const inComment = (of: string): string =>
    `SELECT c.item_id FROM comment c WHERE words_of(c.body) @> ${sought}${of}`
  const labels = queryContext.world.labels
    .filter((label) => wordsOf(label.title).includes(word))
    .map((label) => label.number)
  const carrying = binds.bind(labels, 'int[]')
  if (!queryContext.asOf) {
    const found = [
      inText(` AND t.valid_to = 'infinity'`),
      inComment(` AND c.valid_to = 'infinity'`),
    ]
    // Each is found by its index and all are joined at once: an OR would look at every item.
    const labelled =
      labels.length === 0 ? [] : [`SELECT l.id FROM item l WHERE l.labels && ${carrying}`]
    return `(${alias}.id IN (${[...found, ...labelled].join(' UNION ALL ')}))`
  }
  const begins = beginsAt(queryContext, alias)
  const then = [
    inText(` AND t.item_id = ${alias}.id AND t.valid_from <= ${begins} AND t.valid_to > ${begins}`),
    inComment(` AND c.item_id = ${alias}.id AND c.at <= ${begins} AND c.valid_to > ${begins}`),
  ].join(' UNION ALL ')
  const ever = `${alias}.id IN (${inText('')} UNION ALL ${inComment('')})`
  const carries = labels.length === 0 ? '' : ` OR ${alias}.labels && ${carrying}`
  return `((${ever} AND EXISTS (${then}))${carries})`
}
