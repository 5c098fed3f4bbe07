import { type Check, type CheckAnswer, readQuery } from '@bluestem/core/queries'
import type { World } from '../workspace/world.ts'

/** A query in all its forms, or what is wrong with it: a check always answers. */
export function checked(world: World, { filter, filterLang, kept }: Check): CheckAnswer {
  const text =
    filterLang === 'cql2-text' || (filterLang === undefined && typeof filter === 'string')
  const outcome = readQuery(
    text
      ? { lang: 'cql2-text', filter: typeof filter === 'string' ? filter : '' }
      : { lang: 'cql2-json', filter, spelling: kept ? 'identity' : 'name' },
    world.vocabulary,
  )
  if (!outcome.ok) return { ok: false, errors: outcome.errors }
  const { text: printed, textMessage, json, kept: keptJson, sentence } = outcome.value
  return { ok: true, text: printed, textMessage, json, kept: keptJson, sentence, errors: [] }
}
