import { entryOf } from '../../known/index.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { pointer, type Problem } from './problem.ts'
import { sections, sectionWords } from '../document/sections.ts'
import { builtIns } from '../../queries/tree/vocabulary.ts'
import { functionNames } from '../../queries/functions/functions.ts'
import { isReserved } from '../../queries/name.ts'

export function titles(document: DefinitionsDocument): Problem[] {
  return sections.flatMap((section) =>
    repeated(
      Object.entries<{ title: string }>(document[section]).map(([id, entry]) => [
        id,
        entry.title.trim().toLowerCase(),
      ]),
    ).map(([id, twin]) => ({
      pointer: pointer(section, id, 'title'),
      found: entryOf<{ title: string }>(document[section], id).title,
      message: `There is already a ${sectionWords[section]} called “${entryOf<{ title: string }>(document[section], twin).title}”.`,
      expected: 'a title of its own',
    })),
  )
}

/** Each entry that repeats the value of an earlier one, with that earlier one. */
export function repeated(
  entries: readonly (readonly [id: string, value: string])[],
): [string, string][] {
  const first = new Map<string, string>()
  return entries.flatMap(([id, value]): [string, string][] => {
    const twin = first.get(value)
    if (twin === undefined) first.set(value, id)
    return twin === undefined ? [] : [[id, twin]]
  })
}

export function handles(document: DefinitionsDocument): Problem[] {
  const fields = Object.entries(document.fields)
  const taken = new Set<string>([
    ...builtIns.map((property) => property.handle),
    ...functionNames,
    'date',
    'timestamp',
    'interval',
    'casei',
    'accenti',
  ])
  return [
    ...fields
      .filter(([, { handle }]) => taken.has(handle) || isReserved(handle))
      .map(([id, { handle }]) => ({
        pointer: pointer('fields', id, 'handle'),
        found: handle,
        message: `“${handle}” already has a meaning in queries.`,
        expected: 'another handle',
      })),
    ...repeated(fields.map(([id, { handle }]) => [id, handle])).map(([id, twin]) => ({
      pointer: pointer('fields', id, 'handle'),
      found: entryOf(document.fields, id).handle,
      message: `The field “${entryOf(document.fields, twin).title}” has this handle.`,
      expected: 'another handle',
    })),
  ]
}

export function monograms(document: DefinitionsDocument): Problem[] {
  return repeated(Object.entries(document.types).map(([id, { monogram }]) => [id, monogram])).map(
    ([id, twin]) => ({
      pointer: pointer('types', id, 'monogram'),
      found: entryOf(document.types, id).monogram,
      message: `“${entryOf(document.types, twin).title}” has this monogram.`,
      expected: 'two other letters',
    }),
  )
}

export const builtInHandles = new Set(builtIns.map((property) => property.handle))
