import { onBeforeUnmount, type Ref, watch } from 'vue'

/** Asks whoever wrote whether to leave; `leave` goes on with what they were about to do. */
type Question = (leave: () => void) => void

/** What is written and not saved yet, the topmost last. */
const written: Question[] = []

const refuse = (event: BeforeUnloadEvent): void => event.preventDefault()

/** While something is written, leaving the page by Back or by reloading asks first. */
export function useUnsaved(isWritten: Ref<boolean>, ask: Question): void {
  const forget = (): void => {
    const at = written.indexOf(ask)
    if (at >= 0) written.splice(at, 1)
    if (written.length === 0) window.removeEventListener('beforeunload', refuse)
  }
  watch(isWritten, (is) => {
    forget()
    if (!is) return
    written.push(ask)
    window.addEventListener('beforeunload', refuse)
  })
  onBeforeUnmount(forget)
}

/** Asks before something written is left. @returns whether it asks, so that nobody leaves yet */
export function asksBefore(leave: () => void): boolean {
  const ask = written.at(-1)
  ask?.(leave)
  return ask !== undefined
}
