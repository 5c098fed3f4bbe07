import { type Line, type QueryError, readQuery } from '@bluestem/core/queries'
import { onBeforeUnmount, ref, watch } from 'vue'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'

/** A query as it was kept. */
interface KeptQuery {
  readonly text: string
  readonly filter: unknown
  readonly sentence: readonly Line[]
  readonly errors: readonly QueryError[]
}

/** How long is waited for more that is written before it is asked for, in milliseconds. */
const pause = 250

/**
 * A query as it is being written: its text, what it asks for, and what is wrong with it. A query with errors is never run and never
 * emptied: what is asked for stays the last sound one.
 */
export function useWrittenQuery() {
  const vocabulary = useVocabulary()
  const text = ref('')
  const filter = ref<unknown>(true)
  const json = ref<unknown>(true)
  const sentence = ref<readonly Line[]>([])
  const errors = ref<readonly QueryError[]>([])

  /** Takes a query that is written already. */
  function take(query: KeptQuery): void {
    text.value = query.text
    filter.value = query.filter
    sentence.value = query.sentence
    errors.value = query.errors
  }

  /** Takes a query that was kept by its identities, which the server reads: some of them this person may not know by name. */
  async function takeKept(asked: unknown): Promise<void> {
    const checked = await call('POST /queries/check', { body: { filter: asked, kept: true } })
    if (!checked.ok) return void (errors.value = checked.errors)
    take({ ...checked, filter: checked.kept })
    json.value = checked.json
  }

  /** Reads what was written, at once and here; nothing written asks for everything. */
  function read(written: string): void {
    const outcome = readQuery(
      written.trim() === ''
        ? { lang: 'cql2-json', filter: true }
        : { lang: 'cql2-text', filter: written },
      vocabulary.names,
    )
    errors.value = outcome.ok ? [] : outcome.errors
    if (!outcome.ok) return
    json.value = outcome.value.json
    sentence.value = outcome.value.sentence
    askSoon(outcome.value.kept)
  }

  let timer = 0
  /** Answers are asked for when the writing pauses. */
  function askSoon(wanted: unknown): void {
    window.clearTimeout(timer)
    timer = window.setTimeout(() => (filter.value = wanted), pause)
  }
  onBeforeUnmount(() => window.clearTimeout(timer))

  watch(text, (now) => {
    window.clearTimeout(timer)
    read(now)
  })

  return { text, filter, json, sentence, errors, take, takeKept, read }
}
