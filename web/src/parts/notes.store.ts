import { defineStore } from 'pinia'
import ToastEventBus from 'primevue/toasteventbus'
import { messageOf } from '../api/http.ts'

/** What one may still do about it. */
interface Act {
  readonly title: string
  readonly run: () => void | Promise<unknown>
}

/** What takes back what a note tells of. */
const undoTitle = 'Undo'

/** So many of one's last acts can be taken back while the page is open. */
const mostUndoable = 50

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
  /** the notes of what can be taken back, the latest last */
  let undoable: readonly Note[] = []
  let isUndoing = false

  function show(kind: 'well' | 'warn', detail: string, act?: Act): void {
    const isRefusal = kind === 'warn'
    const note: Note = {
      id: (last += 1),
      severity: isRefusal ? 'warn' : 'secondary',
      detail,
      life: isRefusal ? 12_000 : 6000,
      ...(act ? { act } : {}),
    }
    // What an undo tells of itself is no act of one's own.
    if (act?.title === undoTitle && !isUndoing) undoable = [...undoable, note].slice(-mostUndoable)
    for (const old of shown.slice(0, -2)) dismiss(old)
    shown = [...shown, note]
    ToastEventBus.emit('add', note)
  }

  function dismiss(note: Note): void {
    shown = shown.filter((entry) => entry.id !== note.id)
    ToastEventBus.emit('remove', note)
  }

  /** Does what a note offers. */
  async function run(note: Note): Promise<void> {
    dismiss(note)
    undoable = undoable.filter((entry) => entry.id !== note.id)
    isUndoing = note.act?.title === undoTitle
    try {
      await note.act?.run()
    } finally {
      isUndoing = false
    }
  }

  /** Takes back the last act that was not taken back yet. */
  async function undoLast(): Promise<void> {
    const note = undoable.at(-1)
    if (note) await run(note)
    else show('well', 'There is nothing to take back here.')
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
  return { show, dismiss, attempt, run, undoLast }
})
