import { entryOf } from '../../known/index.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { all, either, equals, hasBeenIn, within } from './filters.ts'

/** The items whose clock of a limit runs, or would run once it is published: it has begun, has not ended, and an allowance fits. */
export function clocksOf(
  document: DefinitionsDocument,
  limit: string,
  projects: readonly string[],
): unknown {
  const { starts = [], ends, allowances } = entryOf(document.limits, limit)
  const fits = allowances.map(({ urgency, priority, label }) =>
    urgency !== undefined
      ? { op: '=', args: [{ property: 'urgency' }, urgency] }
      : priority !== undefined
        ? equals('priority', priority)
        : label !== undefined
          ? { op: 'a_contains', args: [{ property: 'labels' }, [label]] }
          : true,
  )
  return all(
    within('project', projects),
    ...(starts.length > 0 ? [either(hasBeenIn(starts))] : []),
    ...(ends.length > 0
      ? [{ op: 'not', args: [either([...hasBeenIn(ends), within('status', ends)])] }]
      : []),
    ...(fits.length === 0 || fits.includes(true) ? [] : [either(fits)]),
  )
}
