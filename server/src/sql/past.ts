import type { ItemCompiler } from './itemCompiler.ts'
import { beginsAt } from './statement.ts'

/** The states under `h` of an item up to the one asked about, where their project of then may be seen. */
export function past({ queryContext, binds, alias }: ItemCompiler): string {
  const seen =
    queryContext.visible.length === queryContext.world.whole.projects.length
      ? ''
      : ` AND h.project_id = ANY(${binds.bind(queryContext.visible, 'int[]')})`
  return `h.id = ${alias}.id AND h.valid_from <= ${beginsAt(queryContext, alias)}${seen}`
}
