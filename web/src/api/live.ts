import { ref } from 'vue'

export interface Changed {
  readonly kind: string
  readonly subject: string
}

const listeners = new Set<(changed: Changed) => void>()
let source: EventSource | undefined

/** Whether this screen hears what others change; while it does not, it says so. */
export const isLive = ref(true)

/** Everything a screen shows may be old: it was away for so long that what it missed is no longer known one by one. */
const everything: Changed = { kind: 'everything', subject: '' }

const tell = (changed: Changed): void => {
  for (const listener of listeners) listener(changed)
}

function open(): EventSource {
  const stream = new EventSource('/api/v1/live')
  stream.addEventListener('changed', (event) =>
    // A stream’s own events carry text, here what the server announces.
    tell(JSON.parse((event as MessageEvent<string>).data) as Changed),
  )
  stream.addEventListener('open', () => {
    isLive.value = true
  })
  stream.addEventListener('back', () => {
    isLive.value = true
  })
  stream.addEventListener('away', () => {
    isLive.value = false
  })
  stream.addEventListener('reload', () => tell(everything))
  // The browser tries again by itself, and says which event it saw last; a refusal ends that, so it is begun anew.
  stream.addEventListener('error', () => {
    isLive.value = false
    if (stream.readyState !== EventSource.CLOSED || stream !== source) return
    window.setTimeout(() => {
      if (stream === source) source = open()
    }, 5000)
  })
  return stream
}

/** Calls back when something changed that one may see. One stream serves the whole page; it opens with the first listener and closes with the last. */
export function onChange(listener: (changed: Changed) => void): () => void {
  listeners.add(listener)
  source ??= open()
  return () => {
    listeners.delete(listener)
    if (listeners.size > 0) return
    source?.close()
    source = undefined
    isLive.value = true
  }
}
