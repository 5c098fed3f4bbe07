export interface Changed { readonly kind: string; readonly subject: string }

const listeners = new Set<(changed: Changed) => void>()
let source: EventSource | undefined

/** Calls back when something changed that one may see. One stream serves the whole page; it opens with the first listener and closes with the last. */
export function onChange(listener: (changed: Changed) => void): () => void {
  listeners.add(listener)
  if (!source) {
    source = new EventSource('/api/v1/live')
    source.addEventListener('changed', (event) => {
      const changed = JSON.parse((event as MessageEvent<string>).data) as Changed
      for (const one of listeners) one(changed)
    })
  }
  return () => {
    listeners.delete(listener)
    if (listeners.size > 0) return
    source?.close()
    source = undefined
  }
}
