import { treeInBrowser } from './tree.ts'
import { database } from './world.ts'
await treeInBrowser()
await database.close()
