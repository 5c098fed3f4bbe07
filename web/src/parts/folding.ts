import { computed, type ComputedRef, ref } from 'vue'

/** Below this nothing has room beside what is read. */
const narrow = window.matchMedia('(max-width: 999px)')
const isNarrow = ref(narrow.matches)
narrow.addEventListener('change', ({ matches }) => (isNarrow.value = matches))

interface Folding {
  readonly isNarrow: ComputedRef<boolean>
  readonly folded: ComputedRef<boolean>
  readonly turn: () => void
  /** folds it away again where there is no room for it */
  readonly giveWay: () => void
}

/** How something beside the page is folded away: on a wide page as the browser remembers it, on a narrow one by itself, until it is asked for. */
export function useFolding(name: string): Folding {
  const kept = ref(localStorage.getItem(name) === 'folded')
  const asked = ref(false)
  const folded = computed(() => (isNarrow.value ? !asked.value : kept.value))
  function turn(): void {
    if (isNarrow.value) asked.value = !asked.value
    else {
      kept.value = !kept.value
      localStorage.setItem(name, kept.value ? 'folded' : 'open')
    }
  }
  return {
    isNarrow: computed(() => isNarrow.value),
    folded,
    turn,
    giveWay: () => (asked.value = false),
  }
}
