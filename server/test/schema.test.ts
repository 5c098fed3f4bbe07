import { readFileSync } from 'node:fs'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { DefinitionsDocument } from '@bluestem/core/definitions'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

let served: Served
let mara: Caller
beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
})
afterAll(async () => await served.close())

it('of the definitions stands in the documents as it is', () => {
  const path = new URL('../../docs/schema/definitions.schema.json', import.meta.url)
  const { $schema, ...written } = JSON.parse(readFileSync(path, 'utf8')) as Record<string, unknown>
  expect($schema).toBe('https://json-schema.org/draft/2020-12/schema')
  expect(written).toEqual(JSON.parse(JSON.stringify(DefinitionsDocument)))
})

it.each(['foo:bar', 'types:ty_job', 'type:ty job', 'ladders', ''])(
  'knows the keys of a rulebook: “%s” is none, and the draft stays as it was',
  async (key) => {
    const made = await mara('POST', '/definitions/drafts', { title: 'Try' })
    const draft = `/definitions/drafts/${made.body.id}`
    const edits = [{ path: ['rulebooks', 'rb_everyone', 'entries', key], after: 'out' }]
    const { status, body } = await mara('PATCH', draft, { edits }, { 'if-match': '*' })
    expect(status).toBe(400)
    expect(body.errors[0].pointer).toBe(`/rulebooks/rb_everyone/entries/${key}`)
    expect((await mara('GET', draft)).body.changes).toEqual([])
  },
)
