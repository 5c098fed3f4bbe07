import type { DraftAnswer } from '@bluestem/core/definitions'
import { counted } from '../../parts/words.ts'

/** Whether something stands in the way of publishing a draft. */
export const isBlocked = ({ changes, problems, open, clashes }: DraftAnswer): boolean =>
  changes.length === 0 || problems.length > 0 || open.length > 0 || clashes.length > 0

/** What is left to do before a draft can be published, each with how much of it. */
export const leftToDo = ({
  problems,
  open,
  needs,
  clashes,
}: DraftAnswer): readonly { readonly words: string; readonly count: number }[] =>
  [
    { words: 'decide what was changed in two ways', count: clashes.length },
    {
      words: `choose what ${needs
        .filter((need) => open.includes(need.key))
        .reduce((sum, need) => sum + need.items, 0)} items become`,
      count: open.length,
    },
    { words: 'mend what does not fit', count: problems.length },
  ].filter(({ count }) => count > 0)

/** What names something that a draft changes, counted by its kind: “2 views”, “1 query”. */
export const namedInWords = ({ touched }: DraftAnswer): readonly string[] =>
  Object.entries(touched.named).map(([kind, count]) =>
    counted(count, kind, kind === 'query' ? 'queries' : undefined),
  )
