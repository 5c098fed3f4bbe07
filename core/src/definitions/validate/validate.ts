import { ladders, projects, rulebooks, unknown } from './rulebooks.ts'
import { limits } from './limits.ts'
import { fields } from './fields.ts'
import { handles, monograms, titles } from './titles.ts'
import { pointer, type Problem } from './problem.ts'
import type { DefinitionsDocument } from '../document/document.ts'

/**
 * Judges what a schema cannot: names that must differ, references that must resolve, flows that can be walked.
 * The document is taken to fit the schema.
 *
 * @returns every problem, in the order of the sections; none when the document may become an edition
 */
export function validate(document: DefinitionsDocument): Problem[] {
  return [
    ...titles(document),
    ...handles(document),
    ...fields(document),
    ...types(document),
    ...monograms(document),
    ...linkKinds(document),
    ...limits(document),
    ...ladders(document),
    ...rulebooks(document),
    ...projects(document),
  ]
}

function types(document: DefinitionsDocument): Problem[] {
  return Object.entries(document.types).flatMap(([id, type]) =>
    (type.below ?? []).flatMap((child): Problem[] => {
      const at = pointer('types', id, 'below')
      if (!document.types[child]) return [unknown(at, 'type', child)]
      return document.types[child].tier < type.tier
        ? []
        : [
            {
              pointer: at,
              found: child,
              message: `“${document.types[child].title}” is of tier ${document.types[child].tier}, so it cannot stand below “${type.title}” of tier ${type.tier}.`,
              expected: 'types of a lower tier',
            },
          ]
    }),
  )
}

function linkKinds(document: DefinitionsDocument): Problem[] {
  return Object.entries(document.linkKinds).flatMap(([id, kind]) =>
    (['from', 'to'] as const).flatMap((end) =>
      (kind[end] ?? [])
        .filter((type) => !document.types[type])
        .map((type) => unknown(pointer('linkKinds', id, end), 'type', type)),
    ),
  )
}
