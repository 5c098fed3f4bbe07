import type { DefinitionsDocument } from '@bluestem/core/definitions'
import type { Caller, Reply } from './workspace.ts'

export interface Edit {
  readonly path: string[]
  readonly after?: unknown
}

/** An edit of what a rulebook says; leaves it out where nothing is given. */
export const entry = (rulebook: string, key: string, after?: unknown): Edit => ({
  path: ['rulebooks', rulebook, 'entries', key],
  ...(after === undefined ? {} : { after }),
})

/** What tests do with drafts, by one caller where no other is named. @param usual who it is, once they are signed in */
export const drafting = (usual: () => Caller) => ({
  draft: async (edits: readonly Edit[], title = 'Try', by = usual()): Promise<Reply> =>
    await by('POST', '/definitions/drafts', { title, edits }),
  change: async (id: string, body: object, match = '*', by = usual()): Promise<Reply> =>
    await by('PATCH', `/definitions/drafts/${id}`, body, { 'if-match': match }),
  publish: async (id: string, body: object = {}, by = usual()): Promise<Reply> =>
    await by('POST', `/definitions/drafts/${id}/publish`, body, { 'if-match': '*' }),
  drop: async (id: string): Promise<void> =>
    void (await usual()('DELETE', `/definitions/drafts/${id}`, undefined, { 'if-match': '*' })),
  count: async (filter: string): Promise<number> =>
    (await usual()('POST', '/items/search', { filter, limit: 1 })).body.total,
  document: async (): Promise<DefinitionsDocument> =>
    (await usual()('GET', '/definitions')).body.document,
})
