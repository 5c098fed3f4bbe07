import { defineStore } from 'pinia'
import { ref } from 'vue'
import { messageOf } from '../api/http.ts'

export interface Note {
  readonly id: number
  readonly kind: 'well' | 'warn'
  readonly text: string
  readonly act?: { readonly title: string; readonly run: () => void }
}

/** Short notes at the foot of the page: what was done, what was refused. */
export const useNotes = defineStore('notes', () => {
  const notes = ref<readonly Note[]>([])
  let last = 0
  function show(kind: Note['kind'], text: string, act?: Note['act']): void {
    const id = (last += 1)
    notes.value = [...notes.value.slice(-2), { id, kind, text, ...(act ? { act } : {}) }]
    window.setTimeout(() => dismiss(id), kind === 'warn' ? 12_000 : 6000)
  }
  const dismiss = (id: number): void => {
    notes.value = notes.value.filter((note) => note.id !== id)
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
  return { notes, show, dismiss, attempt }
})
