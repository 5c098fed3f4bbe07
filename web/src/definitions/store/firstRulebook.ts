import type { Edit } from '@bluestem/core/definitions'
import { lastOrder, newId } from './newEntries.ts'

/** Whether an edit says something of a rulebook while there is none yet. */
const isOfNone = ({ path }: Edit): boolean => path[0] === 'rulebooks' && path[1] === ''

/** What a rulebook says, while there is none yet, is said by the first one, which is made with it. */
export function withFirstRulebook(edits: readonly Edit[]): readonly Edit[] {
  if (!edits.some(isOfNone)) return edits
  const made = newId('rulebooks')
  const first: Edit = {
    path: ['rulebooks', made],
    after: {
      order: lastOrder({}),
      title: 'Our work',
      description: 'What everybody here works by.',
      extends: null,
      entries: {},
    },
    before: null,
  }
  const others = edits.map((edit) =>
    isOfNone(edit) ? { ...edit, path: ['rulebooks', made, ...edit.path.slice(2)] } : edit,
  )
  return [first, ...others]
}
