import { searchesAndRollUps } from './searches.ts'
import { replayOfThePast, useOfEverything } from './replay.ts'
import { besideTheHeaviest } from './heaviest.ts'
import { editsPerSecond, overHttp, signIn } from './http.ts'
import { courseAgainstCount } from './course.ts'
import { compiledAgainstHandwritten } from './statements.ts'
import { besideMany } from './besideMany.ts'
import { importAgainstMaking, manyAgainstSingle } from './many.ts'
import { treeInBrowser } from './tree.ts'
import { database } from './world.ts'

await compiledAgainstHandwritten()
await searchesAndRollUps()
await courseAgainstCount()
await replayOfThePast()
await useOfEverything()
export const cookie = await signIn()
await overHttp(cookie)
await besideTheHeaviest(cookie, await signIn('tom.okafor'))
console.log('\nEdits, durable (fsync on)')
await editsPerSecond(cookie)
await manyAgainstSingle(cookie)
await besideMany(cookie, await signIn('tom.okafor'))
await importAgainstMaking(cookie)
await treeInBrowser()
await database.close()
