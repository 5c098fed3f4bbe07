import { type Ref, ref, watch } from 'vue'
import { useSession } from '../session/session.store.ts'

/**
 * Keeps what somebody writes in their browser until it is made or thrown away: leaving the page or closing the browser loses nothing.
 *
 * @param what  what is being written, such as a new item of one project
 * @param state what is to be kept; undefined while nothing worth keeping is written
 * @param take  takes up what was kept before
 */
export function useUnfinished<State>(
  what: string,
  state: () => State | undefined,
  take: (kept: State) => void,
): { readonly isTakenUp: Ref<boolean>; readonly forget: () => void } {
  const place = `unfinished ${useSession().session?.person.id ?? ''} ${what}`
  const isTakenUp = ref(false)
  const kept = localStorage.getItem(place)
  if (kept !== null) {
    // Only this file writes there.
    take(JSON.parse(kept) as State)
    isTakenUp.value = true
  }
  const stop = watch(
    state,
    (now) => {
      if (now === undefined) localStorage.removeItem(place)
      else localStorage.setItem(place, JSON.stringify(now))
    },
    { deep: true },
  )
  function forget(): void {
    stop()
    localStorage.removeItem(place)
  }
  return { isTakenUp, forget }
}
