import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { originOf } from '../http/origin.ts'
import type { World } from '../workspace/world.ts'
import { compared, takeOver } from './service.ts'

/** Where directories of people stand. */
export interface DirectoryFiles {
  /** the file that is set; nothing where there is no directory */
  readonly directory?: string
  /** the one that ships for the demo */
  readonly demoDirectory?: string
}

export function directoryEndpoints(files: DirectoryFiles): readonly Endpoint[] {
  const pathIn = ({ demo }: World): string | undefined =>
    files.directory ?? (demo ? files.demoDirectory : undefined)
  return [
    endpoint('GET /directory', {
      role: 'administrator',
      summary: 'The directory of people beside those who are here.',
      answer: async (context) => ({ body: await compared(context, pathIn(context.world)) }),
    }),
    endpoint('POST /directory', {
      role: 'administrator',
      summary: 'Takes people over from the directory; whoever is added is invited.',
      answer: async ({ database, body, request, ...actor }) => ({
        body: await takeOver(database, actor, pathIn(actor.world), body, originOf(request)),
      }),
    }),
  ]
}
