import { readQuery } from '@bluestem/core/queries'
import { type Static, Type } from 'typebox'
import type { RequestContext } from '../http/endpoint.ts'

export const Check = Type.Object(
  {
    filter: Type.Unknown(),
    filterLang: Type.Optional(Type.Enum(['cql2-text', 'cql2-json'])),
    kept: Type.Optional(Type.Boolean()),
  },
  { additionalProperties: false, title: 'A query to check' },
)
/** A query in all its forms, or what is wrong with it: a check always answers. */
export function checked({ world, body }: RequestContext<unknown, Static<typeof Check>>): object {
  const { filter, filterLang, kept } = body
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
