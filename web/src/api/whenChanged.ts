import { onBeforeUnmount } from 'vue'
import { onChange } from './live.ts'
import { useVocabulary } from './vocabulary.store.ts'

/** What changes the names of things: an edition, and what is defined beside it. */
const defining = new Set(['edition', 'everything', 'label', 'component', 'project', 'person'])

/** How long a page waits for more of the same before it asks anew, in milliseconds. */
const shortWait = 500

/**
 * Asks anew for what a page shows, for as long as it is there, when others changed an item or what things are called; the names are
 * read before. Much that changes at once is asked for once.
 *
 * @param act   asks anew and keeps what is shown until the answer is there
 * @param pause how long changes of items are gathered, in milliseconds
 */
export function whenChanged(act: () => void, pause = 1000): void {
  const vocabulary = useVocabulary()
  let timer = 0
  let renamed = false
  async function askAnew(): Promise<void> {
    timer = 0
    if (renamed) await vocabulary.load().catch(() => undefined)
    renamed = false
    act()
  }
  const stop = onChange(({ kind }) => {
    if (defining.has(kind)) renamed = true
    else if (kind !== 'item') return
    if (renamed) {
      window.clearTimeout(timer)
      timer = window.setTimeout(() => void askAnew(), shortWait)
    } else timer ||= window.setTimeout(() => void askAnew(), pause)
  })
  onBeforeUnmount(() => {
    stop()
    window.clearTimeout(timer)
  })
}
