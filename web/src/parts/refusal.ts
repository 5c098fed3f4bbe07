import { ref } from 'vue'
import { ApiProblem, messageOf, type ProblemPart } from '../api/http.ts'

/** What the server refused of a form: each part at its field, the rest below the form; and whether the form is on its way. */
export function useRefusal() {
  const parts = ref<readonly ProblemPart[]>([])
  const words = ref('')
  const busy = ref(false)

  /** Sends a form. @returns whether it was taken */
  async function attempt(send: () => Promise<void>): Promise<boolean> {
    busy.value = true
    parts.value = []
    words.value = ''
    try {
      await send()
      return true
    } catch (error) {
      parts.value = error instanceof ApiProblem ? error.errors : []
      if (parts.value.length === 0) words.value = messageOf(error)
      return false
    } finally {
      busy.value = false
    }
  }
  /** What is wrong with the field of a pointer. */
  const at = (pointer: string): string | undefined =>
    parts.value.find((part) => part.pointer === pointer)?.message
  return { attempt, at, words, busy }
}
