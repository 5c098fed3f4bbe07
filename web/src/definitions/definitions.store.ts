import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { emptyDocument, inOrder, makeIdentity, orderBetween, prefixes, same, valueAt, type DefinitionsDocument, type Edit, type Section } from '@bluestem/core/definitions'
import { call, get } from '../api/http.ts'
import type { Draft, Usage } from '../api/types.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useNotes } from '../parts/notes.store.ts'

interface Edition { readonly number: number; readonly note: string; readonly published_at: string; readonly by: string | null }

/** The definitions as they are, the draft that would change them, and how much they are used. */
export const useDefinitions = defineStore('definitions', () => {
  const notes = useNotes()
  const published = ref<DefinitionsDocument>(emptyDocument)
  const edition = ref<Edition>()
  const draft = ref<Draft>()
  const usage = ref<Usage>()
  const loaded = ref(false)
  const document = computed(() => draft.value?.document ?? published.value)
  const rulebook = computed(() => inOrder(document.value.rulebooks)[0]?.id ?? '')

  async function load(): Promise<void> {
    const [current, open, used] = await Promise.all([get<{ edition: Edition; document: DefinitionsDocument }>('/definitions'), get<{ drafts: readonly Draft[] }>('/definitions/drafts'), get<Usage>('/definitions/usage')])
    published.value = current.document
    edition.value = current.edition
    draft.value = open.drafts[0]
    usage.value = used
    loaded.value = true
  }

  /** Adds edits to the draft; the first one opens it. @returns whether they were taken */
  async function edit(edits: readonly Edit[]): Promise<boolean> {
    return await notes.attempt(async () => {
      draft.value ??= (await call<Draft>('POST', '/definitions/drafts', { title: 'Changes in hand' })).body
      draft.value = (await call<Draft>('PATCH', `/definitions/drafts/${draft.value.id}`, { edits }, { 'If-Match': draft.value.etag })).body
    })
  }

  async function undo(change: string): Promise<void> {
    await notes.attempt(async () => { draft.value = (await call<Draft>('DELETE', `/definitions/drafts/${draft.value!.id}/changes/${change}`, undefined, { 'If-Match': draft.value!.etag })).body })
  }

  async function drop(): Promise<void> {
    await notes.attempt(async () => {
      await call('DELETE', `/definitions/drafts/${draft.value!.id}`, undefined, { 'If-Match': draft.value!.etag })
      draft.value = undefined
    })
  }

  async function publish(note: string): Promise<boolean> {
    const done = await notes.attempt(async () => {
      const { body } = await call<{ edition: number }>('POST', `/definitions/drafts/${draft.value!.id}/publish`, { note }, { 'If-Match': draft.value!.etag })
      notes.show('well', `Edition ${body.edition} is published.`)
    })
    if (done) await Promise.all([load(), useVocabulary().load()])
    return done
  }

  const newId = (section: Section | 'option'): string => makeIdentity(section === 'option' ? 'op' : prefixes[section], crypto.getRandomValues(new Uint8Array(8)))
  /** the key that stands after the last entry of a map */
  const lastOrder = (map: Readonly<Record<string, { order: string }>>): string => orderBetween(inOrder(map).at(-1)?.order ?? null, null)
  /** whether the draft changes what stands at a path */
  const isChanged = (...path: string[]): boolean => draft.value !== undefined && !same(valueAt(published.value, path), valueAt(draft.value.document, path))

  return { published, edition, draft, usage, loaded, document, rulebook, load, edit, undo, drop, publish, newId, lastOrder, isChanged }
})
