import type { DefinitionsDocument } from '../document/document.ts'
import { pointer, type Problem } from './problem.ts'
import { unknown } from './rulebooks.ts'

export function limits(document: DefinitionsDocument): Problem[] {
  return Object.entries(document.limits).flatMap(([id, limit]) => [
    ...(['starts', 'stops', 'ends'] as const).flatMap((part) =>
      (limit[part] ?? [])
        .filter((status) => !document.statuses[status])
        .map((status) => unknown(pointer('limits', id, part), 'status', status)),
    ),
    ...limit.allowances.flatMap((allowance, index) => [
      ...(allowance.priority && !document.priorities[allowance.priority]
        ? [
            unknown(
              pointer('limits', id, 'allowances', String(index), 'priority'),
              'priority',
              allowance.priority,
            ),
          ]
        : []),
      ...([allowance.urgency, allowance.priority, allowance.label].filter(
        (entry) => entry !== undefined,
      ).length > 1
        ? [
            {
              pointer: pointer('limits', id, 'allowances', String(index)),
              message: `An allowance of “${limit.title}” goes by an urgency, a priority or a label, not by several.`,
              expected: 'one of them, or none',
            },
          ]
        : []),
    ]),
  ])
}
