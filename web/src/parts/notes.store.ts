import { defineStore } from 'pinia'
import ToastEventBus from 'primevue/toasteventbus'
import { messageOf } from '../api/http.ts'

/** What one may still do about it. */
interface Act {
  readonly title: string
  readonly run: () => void
}

export interface Note {
  readonly id: number
  readonly severity: 'secondary' | 'warn'
  readonly detail: string
  /** how long it stays, in milliseconds */
  readonly life: number
  readonly act?: Act
}

/** Short notes at the foot of the page: what was done, what was refused. */
export const useNotes = defineStore('notes', () => {
  let shown: readonly Note[] = []
  let last = 0

  function show(kind: 'well' | 'warn', detail: string, act?: Act): void {
    const isRefusal = kind === 'warn'
    const note: Note = {
      id: (last += 1),
      severity: isRefusal ? 'warn' : 'secondary',
      detail,
      life: isRefusal ? 12_000 : 6000,
      ...(act ? { act } : {}),
    }
    for (const old of shown.slice(0, -2)) dismiss(old)
    shown = [...shown, note]
    ToastEventBus.emit('add', note)
  }

  function dismiss(note: Note): void {
    shown = shown.filter((one) => one.id !== note.id)
    ToastEventBus.emit('remove', note)
  }

  /** Runs an act and tells when it is refused. @returns whether it went well */
  async function attempt(act: () => Promise<void>): Promise<boolean> {
    try {
      await act()
      return true
    } catch (error) {
      show('warn', messageOf(error))
      return false
    }
  }
  return { show, dismiss, attempt }
})
