import { onMounted, ref, shallowRef, type ShallowRef, type Ref, watch } from 'vue'
import { messageOf } from '../api/http.ts'

/**
 * What a widget shows, asked for when it appears and again at every round.
 *
 * @returns the answer as soon as there is one, and why there is none
 */
export function useLoaded<T>(
  load: () => Promise<T>,
  round: () => number | undefined,
): { readonly answer: ShallowRef<T | undefined>; readonly told: Ref<string> } {
  const answer = shallowRef<T>()
  const told = ref('')
  async function ask(): Promise<void> {
    try {
      answer.value = await load()
      told.value = ''
    } catch (error) {
      answer.value = undefined
      told.value = messageOf(error)
    }
  }
  onMounted(ask)
  watch(round, ask)
  return { answer, told }
}
