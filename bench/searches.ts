import { pageStatement } from '../server/src/sql/answers.ts'
import { queryContext, conditionOf, database, world } from './world.ts'
import { rows } from '../server/src/database/connect.ts'
import { type Result, show, sideBySide } from './measure.ts'

/** A page of 100 answers with the exact total, as it is asked by the screens. */
function pageOf(filter: string): () => Promise<unknown> {
  const { sql, bind } = pageStatement(
    queryContext,
    conditionOf(filter),
    [{ property: world.vocabulary.properties.get('changed')!, direction: 'down' }],
    { limit: 100, offset: 0 },
    (alias) => [`${alias}.id`],
  )
  return async () => await rows(database, sql, bind)
}

/** Searches in long texts beside those in titles, and filters on what is below beside those on what an item holds. */
export async function searchesAndRollUps(): Promise<void> {
  const besides: [string, string, string, string][] = [
    [
      'CASEI(description) LIKE / the same in titles',
      "CASEI(description) LIKE CASEI('%hinge%')",
      "CASEI(title) LIKE CASEI('%hinge%')",
      'at most 3',
    ],
    [
      'description LIKE / the same in titles',
      "description LIKE '%hinge%'",
      "title LIKE '%hinge%'",
      'at most 3',
    ],
    [
      'words() in titles, descriptions, comments and labels / the same in titles',
      "words('hinge ramp')",
      "CASEI(title) LIKE CASEI('%hinge%')",
      'at most 3',
    ],
    ['estimated_below > 40 / estimate > 8', 'estimated_below > 40', 'estimate > 8', 'at most 5'],
    ['done_below < 50 / estimate > 8', 'done_below < 50', 'estimate > 8', 'at most 5'],
  ]
  const results: Result[] = []
  for (const [what, filter, plain, budget] of besides) {
    const [a, b] = await sideBySide(pageOf(filter), pageOf(plain), 7)
    results.push({ what, a, b, budget })
  }
  show('Searches in long texts and filters on what is below', results)
}
