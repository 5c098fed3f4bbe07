import { run } from '../connect.ts'
import type { Migration } from './migration.ts'

/** What stands below something, in the order of its id: a roll-up carries sums up along it without looking at the items. */
export const treeEdges: Migration = {
  name: '0012-tree-edges',
  up: async (database) => {
    await run(
      database,
      'CREATE INDEX item_edge ON item (id) INCLUDE (parent_id, project_id, deleted) WHERE parent_id IS NOT NULL',
    )
  },
}
